<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'

import { sentence } from '../api/client'
import { FORMATS } from '../api/tables'
import { sendSheet } from '../device/send'
import ActButton from '../kit/ActButton.vue'
import FileLink from '../kit/FileLink.vue'
import { useChoice } from '../state/choice'
import { useWorkshop } from '../state/workshop'
import { onBed, type Prepared } from './prepared'

/** The sheet's program goes to the simulated machine, with the sheet as it lies on the bed; or to a file that walks round. */
const props = withDefaults(defineProps<{ prepared: Prepared; look?: 'main' | 'ink' }>(), { look: 'main' })
const workshop = useWorkshop()
const picked = useChoice()
const router = useRouter()
const trouble = ref('')
const sending = ref(false)

const kind = computed(() => picked.machine?.reads.find((one) => FORMATS[one].program) ?? picked.machine?.reads[0] ?? 'nc')

async function send(): Promise<void> {
  const { lies, width, height } = props.prepared
  const sheet = workshop.document?.layout.sheets[picked.sheet]
  const clips = (sheet?.barred ?? []).filter(({ what }) => what === 'clip').map(({ corners }) => corners.map((corner) => onBed(lies, corner)))
  const { thickness, cutters, clips_tall } = props.prepared
  const laid = { width, height, x: lies.x, y: lies.y, turn: (Math.atan2(lies.sin, lies.cos) * 180) / Math.PI, clips, thickness, tall: clips_tall, cutters }
  sending.value = true
  try {
    await sendSheet(workshop.shown?.slug ?? '', picked.sheet + 1, kind.value, picked.machine, laid)
    await router.push('/machine')
  } catch (error) {
    trouble.value = sentence(error)
  } finally {
    sending.value = false
  }
}
</script>

<template>
  <p class="in-line send">
    <ActButton :look="look" :disabled="sending" @click="send">{{ sending ? 'Proving …' : 'Send to the simulated machine' }}</ActButton>
  </p>
  <p class="in-line">Walk-round as a program:
    <FileLink :href="`/api/projects/${workshop.shown?.slug}/walk/${picked.sheet + 1}?how=box`">its box</FileLink>
    <FileLink :href="`/api/projects/${workshop.shown?.slug}/walk/${picked.sheet + 1}?how=hull`">its hull</FileLink>
  </p>
  <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
</template>

<style scoped>
.send { margin: 10px 0 6px; }
</style>
