<script setup lang="ts">
import { computed, onMounted, reactive, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'

import { client, sentence, type Schemas, type Stock } from '../api/client'
import { tint } from '../parts/tint'
import StarterDrawing from '../starters/StarterDrawing.vue'
import StarterFields from '../starters/StarterFields.vue'
import { useKinds, type Starter } from '../starters/kinds'
import type { Refusal } from '../stores/workshop'

/** Ready designs: looked at with the numbers typed, and what they need, before one is made. */
const router = useRouter()
const kinds = useKinds()
const stocks = ref<Stock[]>([])
const chosen = ref('tray')
const name = ref('')
const shown = shallowRef<Schemas['StarterShown'] | null>(null)
const trouble = ref('')
const wanted = reactive<Record<string, Starter>>({})

const kind = computed(() => kinds.value.find((k) => k.key === chosen.value) ?? null)
const starter = computed(() => wanted[chosen.value] ?? null)
const tints = computed(() =>
  Object.fromEntries(Object.entries(shown.value?.stock_of ?? {}).map(([part, stock]) => [part, tint(stocks.value.find((s) => s.id === stock))])),
)

/** Stocks of the library may bear the same id; here each gets one of its own. */
function apart(library: Stock[]): Stock[] {
  const seen = new Set<string>()
  return library.map((stock) => {
    let id = stock.id
    for (let number = 2; seen.has(id); number++) id = `${stock.id}_${number}`
    seen.add(id)
    return { ...stock, id }
  })
}

onMounted(async () => {
  const { data, error } = await client.GET('/api/library')
  if (data) stocks.value = apart(data)
  else trouble.value = sentence(error)
})

watch([kinds, stocks], () => {
  const first = stocks.value[0]
  if (!first) return
  for (const { key } of kinds.value) {
    wanted[key] ??= { id: `${key}_1`, kind: key as Starter['kind'], stock: first.id, second_stock: first.id, sizes: {}, choices: {} }
  }
  void look()
})
watch(chosen, () => void look())

async function look(): Promise<void> {
  if (!starter.value) return
  const refusal = await preview(starter.value)
  trouble.value = refusal?.message ?? ''
}

async function preview(candidate: Starter): Promise<Refusal | null> {
  const { data, error } = await client.POST('/api/starters/preview', { body: { starter: candidate, stocks: stocks.value } })
  if (!data) return { message: sentence(error), mend: null }
  shown.value = data
  trouble.value = ''
  return null
}

// Changes go one after the other, and nothing is made before the last one has been answered.
let last: Promise<unknown> = Promise.resolve()

function save(change: (starter: Starter) => Partial<Starter>): Promise<Refusal | null> {
  const key = chosen.value
  const next = last.then(async () => {
    const now = wanted[key]
    if (!now) return null
    const candidate = { ...now, ...change(now) }
    const refusal = await preview(candidate)
    if (!refusal) wanted[key] = candidate
    return refusal
  })
  last = next.catch(() => undefined)
  return next
}

async function make(): Promise<void> {
  await last
  const now = starter.value
  if (!now) return
  const { data, error } = await client.POST('/api/projects', { body: { name: name.value.trim() || (kind.value?.title ?? 'Starter') } })
  if (!data) {
    trouble.value = sentence(error)
    return
  }
  const used = stocks.value.filter((stock) => stock.id === now.stock || stock.id === now.second_stock)
  const spare = data.document.stocks.filter((stock) => !used.some((other) => other.id === stock.id))
  const commands: Schemas['Edit']['command'][] = [
    ...used.map((stock) => ({ do: 'put stock' as const, stock })),
    { do: 'put starter', starter: now },
    ...spare.map((stock) => ({ do: 'remove stock' as const, id: stock.id })),
  ]
  let version = data.version
  for (const command of commands) {
    const answer = await client.POST('/api/projects/{slug}/edit', { params: { path: { slug: data.slug } }, body: { version, command } })
    if (!answer.data) {
      trouble.value = sentence(answer.error)
      return
    }
    version = answer.data.version
  }
  await router.push(`/projects/${data.slug}/shape`)
}

const needs = computed(() => {
  const now = shown.value
  if (!now) return ''
  return `${now.parts} parts, ${now.joints} ${now.joints === 1 ? 'joint' : 'joints'}, ${(now.area / 100).toFixed(0)} cm² of sheet`
})
</script>

<template>
  <main class="starters">
    <header><RouterLink to="/" class="mark"><img src="/mark.svg" alt="Lean Notch, all projects" width="20" height="20" /></RouterLink> <h1>Begin with a starter</h1></header>
    <nav aria-label="Starters">
      <button v-for="one in kinds" :key="one.key" type="button" :aria-pressed="one.key === chosen" @click="chosen = one.key"><strong>{{ one.title }}</strong><small>{{ one.says }}</small></button>
    </nav>
    <section class="drawing"><StarterDrawing v-if="shown" :fit="shown.fit" :tints="tints" unit="mm" /></section>
    <section class="numbers" aria-label="Numbers">
      <p v-if="!stocks.length && !trouble" class="explain">A starter needs a stock: keep one in the library at the Measure station of any project.</p>
      <StarterFields v-if="kind && starter" :key="kind.key" :kind="kind" :starter="starter" :stocks="stocks" :save="save" />
      <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
      <p v-for="note in shown?.notes" :key="note" class="explain">{{ note }}</p>
      <p v-for="finding in shown?.findings" :key="finding.text" :class="finding.level === 'note' ? 'explain' : 'why'">{{ finding.text }}</p>
      <p class="needs" role="status">{{ needs }}</p>
      <form class="stack" @submit.prevent="make">
        <div class="row-field"><label for="starter-name">Project name</label><input id="starter-name" v-model="name" class="text-input" maxlength="80" :placeholder="kind?.title" /></div>
        <button type="submit" class="ink-button main" :disabled="!starter || !!trouble">Make it</button>
      </form>
    </section>
  </main>
</template>

<style scoped>
.starters { height: 100vh; display: grid; grid-template: 46px minmax(0, 1fr) / 230px minmax(0, 1fr) 320px; background: var(--ground); }
header { grid-column: 1 / -1; display: flex; gap: 12px; align-items: center; padding: 0 12px; border-bottom: 1px solid var(--ink); background: var(--paper); }
h1 { font-size: 15px; margin: 0; }
nav { border-right: 1px solid var(--ink); background: var(--paper); overflow-y: auto; }
nav button { display: block; width: 100%; border: 0; background: none; text-align: left; padding: 10px 14px; border-left: 3px solid transparent; cursor: pointer; }
nav button:hover { background: var(--ground); }
nav [aria-pressed='true'] { border-left-color: var(--accent); background: var(--ground); }
nav [aria-pressed='true'] strong { color: var(--accent); }
nav small { display: block; color: var(--soft-ink); margin-top: 2px; }
.drawing { min-width: 0; min-height: 0; }
.numbers { border-left: 1px solid var(--ink); overflow-y: auto; padding: 14px; display: grid; gap: 10px; align-content: start; }
.needs { font-weight: 600; border-top: 1px solid var(--rule); padding-top: 8px; }
.explain { color: var(--soft-ink); font-size: 12px; }
</style>
