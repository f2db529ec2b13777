<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import type { Fit, Size, Stock } from '../api/client'
import PlainField from '../kit/PlainField.vue'
import SizeField from '../kit/SizeField.vue'
import { plain, withUnit } from '../kit/units'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import type { Refusal } from '../state/refusal'
import { useTogether } from '../state/together'
import { useWorkshop } from '../state/workshop'
import MachineChoice from './MachineChoice.vue'
import WhoIsHere from './WhoIsHere.vue'
import { STATIONS } from './stations'
import FactEditor from '../kit/FactEditor.vue'
import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'

/** The sentence of live facts along the top; each of them opens where it stands. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const router = useRouter()
const route = useRoute()

const FITS: Fit[] = ['loose', 'sliding', 'glue', 'press']

const station = computed(() => STATIONS.find(({ key }) => key === route.params.station)?.name ?? 'Shape')
const stock = computed(() => picked.stock)
const facts = computed(() => (stock.value ? workshop.shown?.stocks[stock.value.id] : undefined))
const count = computed(() => workshop.document?.parts.reduce((sum, part) => sum + part.count, 0) ?? 0)
const sheets = computed(() => workshop.shown?.sheets.length ?? 0)
const parts = computed(() => {
  if (!count.value) return 'no parts yet'
  const laid = sheets.value ? `on ${sheets.value} ${sheets.value === 1 ? 'sheet' : 'sheets'}` : 'not laid out'
  const cut = workshop.document?.layout.done.length ?? 0
  return `${count.value} ${count.value === 1 ? 'part' : 'parts'}${cut ? `, ${cut} of them cut,` : ''} ${laid}`
})
const notes = computed(() => workshop.shown?.findings.length ?? 0)
const noted = computed(() => `${notes.value === 1 ? '1 note' : `${notes.value} notes`}${workshop.shown?.looking ? ' so far' : ''}`)

const readings = computed<Size>(() => {
  const all = stock.value?.readings ?? []
  const apart = all.some((size) => /\s/.test(size.text.trim())) ? '; ' : '  '
  return { text: all.map((size) => size.text).join(apart), unit: all[0]?.unit ?? workshop.unit }
})

function put(change: Partial<Stock>): Promise<Refusal | null> {
  return edits.editStock(stock.value?.id ?? '', () => change)
}

function saveReadings(size: Size): Promise<Refusal | null> {
  const texts = size.text.split(size.text.includes(';') ? ';' : /\s+/).map((text) => text.trim())
  return put({ readings: texts.filter(Boolean).map((text) => ({ text, unit: size.unit })) })
}

function saveKerf(size: Size): Promise<Refusal | null> {
  return edits.edit({ do: 'set known', stock: stock.value?.id ?? '', kerf: { how: 'typed', width: size }, evenly: true })
}

const kerfSize = computed<Size>(() => {
  const kerf = picked.known?.kerf
  return kerf?.how === 'typed' ? kerf.width : { text: plain(facts.value?.kerf ?? 0, 'mm'), unit: 'mm' }
})

/** The cutter that takes the kerf's place, with a router. */
const routedWith = computed(() => {
  const { cutters, preparation } = workshop.document ?? {}
  return picked.machine?.kind === 'router' ? (cutters?.find(({ id }) => id === preparation?.routing.cutter) ?? null) : null
})

function cutWith(cutter: string): void {
  void edits.told(edits.edit(({ preparation }) => ({ do: 'set preparation', preparation: { ...preparation, routing: { ...preparation.routing, cutter } } })))
}

/** Who else is in this project, and where: one by name, or how many. */
const others = useTogether(station)
const alsoHere = computed(() => {
  const [one, ...more] = others.value
  if (!one) return ''
  return more.length ? `${one.name} and ${more.length} more are here too` : `${one.name} is here too, at ${one.station}`
})

function go(station: string): void {
  void router.push(`/projects/${String(route.params.slug)}/${station}`)
}
</script>

<template>
  <section class="facts" aria-label="The project">
    <h1 class="only-read-aloud">{{ workshop.document?.name ?? 'A project' }}: {{ station }}</h1>
    <GoLink to="/" class="mark" title="All projects"><img src="/mark.svg" alt="Lean Notch, all projects" width="20" height="20" /></GoLink>
    <p v-if="workshop.document" class="sentence" aria-label="Facts">
      <FactEditor name="Project name" :width="300" bold>
        <template #fact>{{ workshop.document.name }}<template v-if="workshop.shown?.design"> (variant)</template></template>
        <p v-if="workshop.shown?.design" class="explain">A variant of <GoLink :to="`/projects/${workshop.shown.variant_of}/shape`">{{ workshop.shown.design }}</GoLink>: it follows that design. Its stocks, the values of named sizes, its layout and files are its own.</p>
        <PlainField label="Name of the project" :value="workshop.document.name" :save="(name) => void edits.change({ do: 'rename project', name })" />
      </FactEditor>
      <template v-if="stock && facts">
        <span class="dot">·</span>
        <FactEditor name="Thickness" :width="330">
          <template #fact>{{ withUnit(facts.thickness, workshop.unit) }}</template>
          <h2>Thickness of {{ stock.name }}</h2>
          <p class="explain">
            Mean of {{ facts.readings }} caliper readings: {{ withUnit(facts.thickness, workshop.unit) }}, spread
            {{ withUnit(facts.spread, workshop.unit) }}, thickest {{ withUnit(facts.thickest, workshop.unit) }}.
          </p>
          <SizeField label="Readings" :size="readings" :save="saveReadings" class="wide" />
          <p class="explain">Type them one after the other with spaces between.</p>
        </FactEditor>
        <FactEditor name="Stock" :width="230">
          <template #fact>{{ stock.name }}</template>
          <div class="choices">
            <ActButton
              v-for="other in workshop.document.stocks"
              :key="other.id"
              :pressed="other.id === stock.id"
              @click="picked.pick({ stockId: other.id })"
            >
              {{ other.name }}
            </ActButton>
          </div>
        </FactEditor>
        <span class="dot">·</span>
        <FactEditor name="Machine" :width="260">
          <template #fact>{{ picked.machine ? `on ${picked.machine.name}` : 'on no machine yet' }}</template>
          <MachineChoice />
        </FactEditor>
        <span class="dot">·</span>
        <FactEditor v-if="routedWith" name="Cutter" :width="300">
          <template #fact>cutter {{ plain(facts.kerf, workshop.unit) }}</template>
          <h2>Parts are cut with {{ routedWith.name }}</h2>
          <p class="explain">Its width takes the kerf's place: {{ withUnit(facts.kerf, workshop.unit) }}, the mean of its readings.</p>
          <div class="choices">
            <ActButton v-for="one in workshop.document.cutters" :key="one.id" :pressed="one.id === routedWith.id" @click="cutWith(one.id)">{{ one.name }}</ActButton>
          </div>
        </FactEditor>
        <FactEditor v-else name="Kerf" :width="290">
          <template #fact>kerf {{ plain(facts.kerf, workshop.unit) }}</template>
          <h2>Kerf in {{ stock.name }}{{ picked.machine ? `, ${picked.machine.name}` : '' }}</h2>
          <SizeField label="Full width of the cut" :size="kerfSize" :value="facts.kerf" :save="saveKerf" />
          <p v-if="picked.known?.kerf.how !== 'typed'" class="explain">Worked out from a test cut; typing a width replaces that.</p>
        </FactEditor>
        <span class="dot">·</span>
      </template>
      <FactEditor name="Fit" :width="220">
        <template #fact>{{ workshop.document.fit }} fit</template>
        <p class="explain">For all joints that have no fit of their own.</p>
        <div class="choices">
          <ActButton
            v-for="fit in FITS"
            :key="fit"
            :pressed="fit === workshop.document.fit"
            @click="edits.change({ do: 'set fit', fit })"
          >
            {{ fit }}<template v-if="picked.known">, clearance {{ picked.known.clearances[fit].text }}</template>
          </ActButton>
        </div>
      </FactEditor>
      <span class="dot">·</span>
      <ActButton look="bare" class="fact" @click="go('lay-out')">
        {{ parts }}
      </ActButton>
      <span class="dot">·</span>
      <span class="notes" :class="{ some: notes }">{{ noted }}</span>
    </p>
    <span class="others cut-off" role="status" :title="others.map((one) => `${one.name}, at ${one.station}`).join('; ')">{{ alsoHere }}</span>
    <nav class="history" aria-label="History">
      <ActButton :disabled="!workshop.shown?.undo" :title="`Ctrl+Z: ${workshop.shown?.undo ?? 'nothing to undo'}`" @click="edits.step('undo')">Undo</ActButton>
      <ActButton :disabled="!workshop.shown?.redo" :title="`Ctrl+Shift+Z: ${workshop.shown?.redo ?? 'nothing to redo'}`" @click="edits.step('redo')">Redo</ActButton>
      <ActButton
        v-if="workshop.document"
        :title="`Sizes are shown in ${workshop.unit}`"
        @click="edits.change({ do: 'set unit', unit: workshop.unit === 'mm' ? 'in' : 'mm' })"
      >
        Show in {{ workshop.unit === 'mm' ? 'inches' : 'mm' }}
      </ActButton>
      <GoLink v-if="workshop.shown" :to="`/projects/${workshop.shown.slug}/versions`">Versions</GoLink>
    </nav>
    <WhoIsHere />
  </section>
</template>

<style scoped>
.facts { display: flex; align-items: center; gap: 12px; padding: 0 12px; border-bottom: 1px solid var(--ink); background: var(--paper); }
.mark { display: flex; }
.sentence { flex: 1; min-width: 0; font-size: 14.5px; display: flex; align-items: baseline; gap: 6px; white-space: nowrap; overflow: hidden; }
.dot { color: var(--soft-ink); }
.others { flex: 0 1 auto; max-width: 260px; font-size: 12.5px; color: var(--soft-ink); }
.others:empty { display: none; }
.notes.some { color: var(--wrong); }
.history { display: flex; gap: 12px; white-space: nowrap; font-size: 12.5px; }
.explain { color: var(--soft-ink); margin: 4px 0; font-size: 12px; }
.choices { display: grid; gap: 6px; justify-items: start; }
.choices .act.on { color: var(--ink); text-decoration: none; font-weight: 650; }
.wide { grid-template-columns: auto 1fr; }
@media (max-width: 900px) {
  .facts { flex-wrap: wrap; padding: 8px 12px; row-gap: 4px; }
  .sentence { flex-wrap: wrap; }
}
</style>
