<script setup lang="ts">
import { onMounted, reactive, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'

import { client, sentence, type Schemas, type Size } from '../api/client'
import { reach } from '../api/reach'
import ActButton from '../kit/ActButton.vue'
import FileField from '../kit/FileField.vue'
import FileLink from '../kit/FileLink.vue'
import SizeField from '../kit/SizeField.vue'

/** Starters of one's own, and those that somebody sent: their numbers typed, and a project made of them. */
type Own = Schemas['OwnStarterShown']
const router = useRouter()
const all = shallowRef<Own[]>([])
const sizes = reactive<Record<number, Record<string, Size>>>({})
const trouble = ref('')

async function look(): Promise<void> {
  all.value = (await client.GET('/api/own-starters')).data ?? []
}
onMounted(look)

async function open(file: File): Promise<void> {
  const answer = await reach('/api/own-starters/open', { method: 'POST', body: file })
  trouble.value = answer.ok ? '' : sentence(await answer.json())
  await look()
}

function type(own: Own, name: string, size: Size): Promise<null> {
  sizes[own.id] = { ...sizes[own.id], [name]: size }
  return Promise.resolve(null)
}

async function begin(own: Own): Promise<void> {
  const body = { name: own.name, sizes: sizes[own.id] ?? {} }
  const { data, error } = await client.POST('/api/own-starters/{number}/project', { params: { path: { number: own.id } }, body })
  trouble.value = data ? '' : sentence(error)
  if (data) await router.push(`/projects/${data.slug}/shape`)
}

async function forget(own: Own): Promise<void> {
  await client.DELETE('/api/own-starters/{number}', { params: { path: { number: own.id } } })
  await look()
}

function limits({ least, most }: Schemas['OwnNumber']): string {
  if (least !== null && most !== null) return `${least} to ${most} mm`
  return least !== null ? `${least} mm or more` : most !== null ? `${most} mm or less` : ''
}
</script>

<template>
  <section class="own" aria-label="Starters of your own">
    <h2>Of your own</h2>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <article v-for="own in all" :key="own.id" :aria-label="own.name">
      <h3>{{ own.name }}</h3>
      <p class="says">{{ own.says }} {{ own.parts }} parts.</p>
      <div class="stack">
        <div v-for="number in own.numbers" :key="number.name">
          <SizeField :label="number.title" :size="sizes[own.id]?.[number.name] ?? own.begins[number.name] ?? { text: '', unit: 'mm' }" :save="(size) => type(own, number.name, size)" />
          <p class="says">{{ [limits(number), number.note].filter(Boolean).join('. ') }}</p>
        </div>
      </div>
      <p class="in-line"><ActButton look="ink" @click="begin(own)">Begin with {{ own.name }}</ActButton> <FileLink :href="`/api/own-starters/${own.id}/file`">Save it to a file</FileLink> <ActButton :aria-label="`Forget it: ${own.name}`" @click="forget(own)">Forget it</ActButton></p>
    </article>
    <FileField label="Open a starter that somebody sent" accept=".json" :take="open" />
    <p class="says">Make one of a project under “Share” at Hand over.</p>
  </section>
</template>

<style scoped>
.own { max-width: 1280px; margin: 0 auto; padding: 10px 18px 30px; display: grid; gap: 10px; }
article { border-top: 1px solid var(--rule); padding: 8px 0; max-width: 460px; }
.says { color: var(--soft-ink); font-size: 12px; }
</style>
