<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { client, type Size } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import FoldSection from '../kit/FoldSection.vue'
import PlainField from '../kit/PlainField.vue'
import SizeField from '../kit/SizeField.vue'
import TextInput from '../kit/TextInput.vue'
import { typed, withUnit } from '../kit/units'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useWorkshop } from '../state/workshop'

/** Sizes of the whole project that other sizes may use by name: typed, called otherwise, ordered, with where they are used. */
const workshop = useWorkshop()
const edits = useEdits()
const fresh = ref('')
const refusal = ref('')
const open = ref('')
const uses = ref(new Map<string, string[]>())

const names = computed(() => workshop.document?.names ?? [])
/** Those of a starter follow from its numbers and are changed there. */
const own = computed(() => names.value.filter((one) => !one.starter))
const given = computed(() => (workshop.document?.stocks ?? []).map((stock) => `${stock.id}.thickness`).join(', '))

watch(
  () => [open.value, workshop.shown?.version],
  async () => {
    if (!open.value || !workshop.shown) return
    const { data } = await client.GET('/api/projects/{slug}/names', { params: { path: { slug: workshop.shown.slug } } })
    if (data) uses.value = new Map(Object.entries(data.uses))
  },
)

function save(name: string, size: Size): Promise<Refusal | null> {
  const note = names.value.find((one) => one.name === name)?.note ?? ''
  return edits.edit({ do: 'put name', name: { name, size, note, starter: '' } })
}

function asName(text: string): string {
  return text.trim().toLowerCase().replace(/\s+/g, '_')
}

async function add(): Promise<void> {
  const name = asName(fresh.value)
  if (!/^[a-z][a-z0-9_]{0,29}$/.test(name)) {
    refusal.value = 'A name is one word of letters, digits and _, such as tray_length.'
    return
  }
  refusal.value = (await save(name, typed(100, workshop.unit)))?.message ?? ''
  if (!refusal.value) fresh.value = ''
}

async function rename(name: string, text: string): Promise<void> {
  if (await edits.change({ do: 'rename name', name, to: asName(text) })) open.value = asName(text)
}

function note(name: string, text: string): void {
  const known = names.value.find((one) => one.name === name)
  if (known) void edits.change({ do: 'put name', name: { ...known, note: text.slice(0, 120) } })
}

function move(name: string, by: number): void {
  const place = names.value.findIndex((one) => one.name === name) + by
  if (place >= 0) void edits.change({ do: 'move name', name, place })
}
</script>

<template>
  <div class="stack">
    <div v-for="named in own" :key="named.name" class="named">
      <div class="row">
        <SizeField :label="named.name" :size="named.size" :value="workshop.shown?.values[`names/${named.name}`]" :save="(size) => save(named.name, size)" />
        <ActButton :pressed="open === named.name" :aria-label="`More of ${named.name}`" @click="open = open === named.name ? '' : named.name">more</ActButton>
      </div>
      <p v-if="named.note" class="note">{{ named.note }}</p>
      <div v-if="open === named.name" class="more">
        <PlainField label="Called" :value="named.name" :save="(text) => rename(named.name, text)" />
        <PlainField label="Note" :value="named.note" blank="none" :save="(text) => note(named.name, text)" />
        <p class="uses">{{ uses.get(named.name)?.length ? `Used by ${uses.get(named.name)!.join('; ')}` : 'Used by nothing yet' }}.</p>
        <p class="in-line">
          <ActButton @click="move(named.name, -1)">Up</ActButton>
          <ActButton @click="move(named.name, 1)">Down</ActButton>
          <ActButton :aria-label="`Remove ${named.name}`" @click="edits.change({ do: 'remove name', name: named.name })">Remove</ActButton>
        </p>
      </div>
    </div>
    <div class="row-field">
      <TextInput v-model="fresh" label="New named size" placeholder="new name" :most="30" @keydown.enter="add" />
      <ActButton look="ink" @click="add">Add</ActButton>
    </div>
    <p v-if="refusal" class="why" role="alert">{{ refusal }}</p>
    <FoldSection v-if="names.some((one) => one.starter)" title="Sizes that starters give" name="starter-sizes" folded>
      <p v-for="named in names.filter((one) => one.starter)" :key="named.name" class="made"><span>{{ named.name }}</span> {{ withUnit(workshop.shown?.values[`names/${named.name}`] ?? 0, workshop.unit) }}</p>
    </FoldSection>
    <p class="explain">Any size may use these, width, height, thickness and kerf<template v-if="given">, {{ given }}</template>, and min, max, round, floor, ceil, sqrt, sin, cos, tan and if.</p>
  </div>
</template>

<style scoped>
.row { display: grid; grid-template-columns: 1fr auto; gap: 6px; align-items: start; }
.more { border-left: 2px solid var(--accent); padding-left: 8px; margin: 3px 0 6px; display: grid; gap: 3px; }
.note, .uses { color: var(--soft-ink); font-size: 12px; overflow-wrap: anywhere; }
.made { display: flex; justify-content: space-between; gap: 8px; }
.explain { color: var(--soft-ink); font-size: 12px; overflow-wrap: anywhere; }
</style>
