<script setup lang="ts">
import { computed, reactive, ref } from 'vue'

import { sentence } from '../../api/client'
import { reach } from '../../api/reach'
import ActButton from '../../kit/ActButton.vue'
import ChoiceField from '../../kit/ChoiceField.vue'
import PlainField from '../../kit/PlainField.vue'
import { useWorkshop } from '../../state/workshop'
import type { Prepared } from '../prepared'
import { useRack } from './rack'

/** The spoilboard made flat before a sheet lies on it: a program of its own. */
const props = defineProps<{ prepared: Prepared }>()
const workshop = useWorkshop()
const { cutters, names, routing } = useRack()
const trouble = ref('')
const wanted = reactive({ cutter: '', left: '0', bottom: '0', width: '', height: '', depth: '0.5', stepover: '60' })

const cutter = computed(() => wanted.cutter || routing.value?.cutter || '')
const width = computed(() => wanted.width || String(props.prepared.bed_width))
const height = computed(() => wanted.height || String(props.prepared.bed_height))

async function save(): Promise<void> {
  trouble.value = ''
  const number = (text: string): string => String(Number(text.replace(',', '.')))
  const query = new URLSearchParams({
    cutter: cutter.value, left: number(wanted.left), bottom: number(wanted.bottom), width: number(width.value),
    height: number(height.value), depth: number(wanted.depth), stepover: String(Number(wanted.stepover.replace(',', '.')) / 100),
  })
  try {
    const answer = await reach(`/api/projects/${workshop.shown?.slug}/facing?${query}`)
    if (!answer.ok) throw await answer.json()
    const link = document.createElement('a')
    link.href = URL.createObjectURL(await answer.blob())
    link.download = `${workshop.shown?.slug}-facing.nc`
    link.click()
    setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
  } catch (error) {
    trouble.value = sentence(error)
  }
}
</script>

<template>
  <div class="stack">
    <ChoiceField label="Faced with" :value="cutter || null" empty="a cutter …" :options="cutters.map(({ id }) => id)" :names="names" :save="(id) => { wanted.cutter = id }" />
    <PlainField label="From the left, mm" :value="wanted.left" :save="(text) => { wanted.left = text }" />
    <PlainField label="From below, mm" :value="wanted.bottom" :save="(text) => { wanted.bottom = text }" />
    <PlainField label="Width, mm" :value="width" :save="(text) => { wanted.width = text }" />
    <PlainField label="Height, mm" :value="height" :save="(text) => { wanted.height = text }" />
    <PlainField label="Taken off, mm" :value="wanted.depth" :save="(text) => { wanted.depth = text }" />
    <PlainField label="Rows apart, %" :value="wanted.stepover" :save="(text) => { wanted.stepover = text }" />
    <p><ActButton look="ink" @click="save">Save the facing program</ActButton></p>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  </div>
</template>
