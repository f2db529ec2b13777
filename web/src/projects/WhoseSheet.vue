<script setup lang="ts">
import { onMounted, onUnmounted, ref, shallowRef } from 'vue'

import { client, sentence, type Schemas } from '../api/client'
import { here } from '../frame/here'
import ChoiceField from '../kit/ChoiceField.vue'
import GoLink from '../kit/GoLink.vue'
import WayField from '../kit/WayField.vue'
import { SHARED, SHARED_NAMES, standsAt, when, type Listed } from './listed'

/** Whose a project is, what others may do with it, and for the operator what became of it in makers' hands. */
const props = defineProps<{ project: Listed }>()
const emit = defineEmits<{ changed: [] }>()
const now = shallowRef(props.project)
const makers = shallowRef<Schemas['MakerShown'][]>([])
const hands = shallowRef<Listed[] | null>(null)
const trouble = ref('')
const path = { slug: props.project.slug }
const isOperator = here.value?.role === 'operator'

onMounted(async () => {
  if (!isOperator) return
  const [list, copies] = await Promise.all([client.GET('/api/makers'), client.GET('/api/projects/{slug}/hands', { params: { path } })])
  makers.value = list.data ?? []
  hands.value = copies.data ?? []
  if (list.error || copies.error) trouble.value = sentence(list.error ?? copies.error)
  await readNotes()
})

/** The notes of each copy, one copy after the other: there may be thirty, and each is worked out. */
const notes = ref<Record<string, string[] | null>>({})
const gone = ref(false)
onUnmounted(() => (gone.value = true))

async function readNotes(): Promise<void> {
  for (const { slug } of hands.value?.filter((copy) => !copy.trouble) ?? []) {
    if (gone.value) return
    const { data } = await client.GET('/api/projects/{slug}/findings', { params: { path: { slug } } })
    notes.value[slug] = data ? data.findings.map(({ text }) => text) : null
  }
}

function told(slug: string): string {
  const read = notes.value[slug]
  if (!read) return read === null ? 'its notes cannot be read now' : 'its notes are being read …'
  const count = read.length
  return count === 0 ? 'nothing to mend' : count === 1 ? '1 note' : `${count} notes`
}

function take(listed: Listed | undefined, error: unknown): void {
  trouble.value = listed ? '' : sentence(error)
  if (listed) now.value = listed
  emit('changed')
}

async function share(shared: Listed['shared']): Promise<void> {
  const { data, error } = await client.PUT('/api/projects/{slug}/shared', { params: { path }, body: { shared } })
  take(data, error)
}

async function give(name: string): Promise<void> {
  const maker = makers.value.find((one) => one.name === name)?.number ?? null
  const { data, error } = await client.PUT('/api/projects/{slug}/owner', { params: { path }, body: { maker } })
  take(data as Listed | undefined, error)
}

const WORKSHOP = 'the workshop'
</script>

<template>
  <div class="whose">
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <ChoiceField v-if="isOperator" label="Whose it is" :value="now.owner || WORKSHOP" :options="[WORKSHOP, ...makers.map(({ name }) => name)]" :save="(name) => void give(name)" />
    <section>
      <h3>Shared with the other makers</h3>
      <WayField label="Shared with the other makers" :value="now.shared" :options="SHARED" :names="SHARED_NAMES" :save="(shared) => void share(shared)" />
    </section>
    <section v-if="hands">
      <h3>In makers’ hands<template v-if="hands.length">: {{ hands.length }}</template></h3>
      <p v-if="!hands.length" class="soft">{{ now.shared === 'copy' || now.shared === 'work' ? 'Nobody has taken a copy yet.' : 'Share it to be copied, and each copy that a maker takes is seen here.' }}</p>
      <ul v-else class="hands" aria-label="In makers’ hands">
        <li v-for="copy in hands" :key="copy.slug">
          <GoLink :to="`/projects/${copy.slug}`"><img :src="`/api/projects/${copy.slug}/portrait?of=${copy.state}`" alt="" width="150" height="100" loading="lazy" /></GoLink>
          <strong class="cut-off" :title="copy.owner">{{ copy.owner || 'the workshop' }}</strong>
          <span class="soft cut-off" :title="copy.name">{{ copy.name }}</span>
          <span class="soft">{{ copy.trouble || standsAt(copy) }}</span>
          <span v-if="!copy.trouble" class="soft">{{ told(copy.slug) }}</span>
          <span v-if="notes[copy.slug]?.[0]" class="first" :title="notes[copy.slug]?.join('\n')">{{ notes[copy.slug]?.[0] }}</span>
          <span class="soft">{{ when(copy.changed) }}</span>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.whose { display: grid; gap: 16px; }
h3 { margin: 0 0 6px; font-size: 14px; }
.soft { color: var(--soft-ink); font-size: 12.5px; margin: 0; }
.hands { list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: repeat(4, minmax(0, 1fr)); gap: 1px; padding: 1px; max-height: 420px; overflow-y: auto; }
.hands li { display: grid; gap: 2px; padding: 10px 12px; background: var(--ground); outline: 1px solid var(--rule); align-content: start; min-width: 0; }
.first { font-size: 12.5px; display: -webkit-box; -webkit-box-orient: vertical; -webkit-line-clamp: 3; line-clamp: 3; overflow: hidden; overflow-wrap: anywhere; }
img { width: 100%; height: 100px; object-fit: contain; }
</style>
