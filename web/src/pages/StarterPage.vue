<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import PageHead from '../frame/PageHead.vue'
import { client, sentence, type Schemas, type Size } from '../api/client'
import { useGround } from '../starters/ground'
import { typeInPlace, type Driven } from '../starters/inPlace'
import { useKinds, type Starter } from '../starters/kinds'
import { made } from '../starters/make'
import { needsOf, tintsOf } from '../starters/needs'
import StarterDrawing from '../starters/StarterDrawing.vue'
import StarterFields from '../starters/StarterFields.vue'
import { useChoice } from '../state/choice'
import { Queue } from '../state/queue'
import { refusalOf, type Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'
import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'
import TextInput from '../kit/TextInput.vue'

/** One starter with the numbers typed, and what it needs, before it is made. */
const route = useRoute()
const router = useRouter()
const workshop = useWorkshop()
const picked = useChoice()
const kinds = useKinds()
const into = typeof route.query.into === 'string' ? route.query.into : null
const ground = useGround(into)
const { stocks, project } = ground
const starter = shallowRef<Starter | null>(null)
const shown = shallowRef<Schemas['StarterShown'] | null>(null)
const name = ref('')
const trouble = ref('')

const kind = computed(() => kinds.value.find((k) => k.key === route.params.kind) ?? null)

onMounted(async () => {
  await ground.load()
  trouble.value = ground.trouble.value
  const first = ground.begin(String(route.params.kind))
  if (!first) return
  trouble.value = (await preview(first))?.message ?? ''
  starter.value = first
})

async function preview(candidate: Starter): Promise<Refusal | null> {
  const body = { starter: candidate, stocks: stocks.value, names: project.value?.document.names ?? [] }
  const { data, error } = await client.POST('/api/starters/preview', { body })
  if (!data) return refusalOf(error)
  shown.value = data
  trouble.value = ''
  return null
}

// Changes go one after the other, and nothing is made before the last one has been answered.
const queue = new Queue()

async function keep(candidate: Starter): Promise<Refusal | null> {
  const refusal = await preview(candidate)
  if (!refusal) starter.value = candidate
  return refusal
}

function save(change: (starter: Starter) => Partial<Starter>): Promise<Refusal | null> {
  return queue.inTurn(async () => (starter.value ? keep({ ...starter.value, ...change(starter.value) }) : null))
}

function put(driven: Driven, size: Size): Promise<Refusal | null> {
  return queue.inTurn(() => typeInPlace(starter.value, driven, size, keep))
}

async function make(): Promise<void> {
  await queue.done()
  if (!starter.value) return
  try {
    const slug = await made(starter.value, ground, name.value.trim() || (kind.value?.title ?? 'Starter'))
    picked.pick({ partId: Object.keys(shown.value?.stock_of ?? {})[0] ?? null })
    await router.push(`/projects/${slug}/shape`)
  } catch (error) {
    trouble.value = sentence(error)
  }
}
</script>

<template>
  <main class="starter">
    <PageHead :title="kind?.title ?? 'Starter'">
      <GoLink :to="{ path: '/starters', query: route.query }">All starters</GoLink>
      <span class="says cut-off" :title="kind?.says">{{ kind?.says }}</span>
    </PageHead>
    <section class="drawing"><StarterDrawing v-if="shown" :fit="shown.fit" :tints="tintsOf(shown, stocks)" :unit="workshop.unit" :put="put" /></section>
    <section class="numbers" aria-label="Numbers">
      <p v-if="!stocks.length && !trouble" class="explain">A starter needs a stock: keep one in the library at the Measure station of any project.</p>
      <StarterFields v-if="kind && starter" :key="kind.key" :kind="kind" :starter="starter" :begins="shown?.facts.begins ?? {}" :stocks="stocks" :save="save" />
      <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
      <p v-for="note in shown?.facts.notes" :key="note" class="explain">{{ note }}</p>
      <p v-for="finding in shown?.findings" :key="finding.text" :class="finding.level === 'note' ? 'explain' : 'why'">{{ finding.text }}</p>
      <p class="needs" role="status">{{ shown ? needsOf(shown) : '' }}</p>
      <div class="stack">
        <div v-if="!into" class="row-field"><label for="starter-name">Project name</label><TextInput id="starter-name" v-model="name" :most="80" :placeholder="kind?.title" @keydown.enter="make" /></div>
        <ActButton look="main" :disabled="!starter || !!trouble" @click="make">{{ into ? `Add it to ${project?.document.name ?? 'the project'}` : 'Make it' }}</ActButton>
      </div>
      <p class="explain">Its numbers can be changed later; cut-outs, texts and joints that you add to its parts stay.</p>
    </section>
  </main>
</template>

<style scoped>
.starter { height: var(--page); display: grid; grid-template: 46px minmax(0, 1fr) / minmax(0, 1fr) 330px; background: var(--ground); }
.says { color: var(--soft-ink); flex: 1; min-width: 0; overflow: hidden; text-overflow: ellipsis; }
.drawing { min-width: 0; min-height: 0; }
.numbers { border-left: 1px solid var(--ink); overflow-y: auto; padding: 14px; display: grid; gap: 10px; align-content: start; }
.needs { font-weight: 600; border-top: 1px solid var(--rule); padding-top: 8px; }
.explain { color: var(--soft-ink); font-size: 12px; }
@media (max-width: 900px) {
  .starter { height: auto; grid-template: auto max(300px, 74vh) auto / minmax(0, 1fr); }
  .numbers { border-left: 0; border-top: 1px solid var(--ink); }
}
</style>
