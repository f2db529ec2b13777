<script setup lang="ts">
import { computed, nextTick, ref, shallowRef, watch } from 'vue'

import { client, sentence, type Document, type Machine, type Schemas } from '../api/client'
import { reach } from '../api/reach'
import { FORMATS } from '../api/tables'
import RuledGround from '../drawing/RuledGround.vue'
import { longWay, withUnit } from '../kit/units'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import EmptyStation from '../frame/EmptyStation.vue'
import SheetChoice from '../frame/SheetChoice.vue'
import StationFrame from '../frame/StationFrame.vue'
import ActButton from '../kit/ActButton.vue'
import FileLink from '../kit/FileLink.vue'
import WayField from '../kit/WayField.vue'
import TickField from '../kit/TickField.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import SendIt from '../prepare/SendIt.vue'
import { usePrepared } from '../prepare/prepared'
import CostSheet from './CostSheet.vue'
import CutList from './CutList.vue'
import HandInPanel from './HandInPanel.vue'
import ReadyToCut from './ReadyToCut.vue'
import ServicePanel from './ServicePanel.vue'
import SetupSheet from './SetupSheet.vue'
import SharePanel from './SharePanel.vue'

/** The file for the machine: what goes into it, who compensates for the kerf, and only when it is proved. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const { prepared } = usePrepared()
const plan = shallowRef<Schemas['PlanShown'] | null>(null)
const trouble = ref('')
const done = ref('')
const accept = ref(false)
/** Whether it is the proof that refused the file: then it may be had all the same. */
const faulty = ref(false)
const working = ref(false)
const told = ref<HTMLElement | null>(null)
/** Parts that alone go into the file; all do where none is chosen. */
const only = ref<string[]>([])
const paper = ref<'cut list' | 'setup sheet' | 'costs' | null>(null)

type Kind = Machine['reads'][number]
const kinds = computed<Kind[]>(() => picked.machine?.reads ?? (Object.keys(FORMATS) as Kind[]))
/** What the machine is driven by comes first; anything else it reads can be had as well. */
const main = computed(() => kinds.value.find((kind) => FORMATS[kind].program) ?? kinds.value[0])
const others = computed(() => kinds.value.filter((kind) => kind !== main.value))
const here = computed(() => {
  const ids = new Set((workshop.document?.layout.placements ?? []).filter((p) => p.sheet === picked.sheet).map((p) => p.part))
  return (workshop.document?.parts ?? []).filter(({ id }) => ids.has(id))
})

watch(trouble, () => void nextTick(() => told.value?.scrollIntoView({ block: 'nearest' })))

const bent = computed(() => here.value.some((part) => part.bends.length))
const settings = computed(() => workshop.document?.hand_over ?? null)
const sheet = computed(() => workshop.document?.layout.sheets[picked.sheet] ?? null)
const stock = computed(() => workshop.document?.stocks.find((s) => s.id === sheet.value?.stock))
const facts = computed(() => (stock.value ? workshop.shown?.stocks[stock.value.id] : undefined))
const box = computed(() => ({ left: 0, bottom: 0, right: plan.value?.width ?? 400, top: plan.value?.height ?? 300 }))

watch(
  () => [workshop.shown?.slug, workshop.shown?.version, picked.sheet],
  async () => {
    trouble.value = done.value = ''
    accept.value = false
    only.value = only.value.filter((id) => here.value.some((part) => part.id === id))
    const slug = workshop.shown?.slug
    if (!slug || !sheet.value) {
      plan.value = null
      return
    }
    const params = { path: { slug, number: picked.sheet + 1 } }
    const { data, error } = await client.GET('/api/projects/{slug}/plans/{number}', { params })
    if (data) plan.value = data
    else trouble.value = sentence(error)
  },
  { immediate: true },
)

function put(change: Partial<Document['hand_over']>): void {
  void edits.told(edits.edit((document) => ({ do: 'set hand-over', hand_over: { ...document.hand_over, ...change } })))
}

/** Saves the file of this sheet, or of all sheets in one ZIP. */
async function save(kind: Kind, all = false): Promise<void> {
  trouble.value = done.value = ''
  faulty.value = false
  working.value = true
  try {
    const query = new URLSearchParams({ ...(accept.value ? { accept_faults: 'true' } : {}), ...(all ? { kind } : {}), ...(!all && only.value.length ? { only: only.value.join(',') } : {}) })
    const file = all ? 'all.zip' : `${picked.sheet + 1}.${kind}`
    const answer = await reach(`/api/projects/${workshop.shown?.slug}/sheets/${file}?${query}`)
    if (!answer.ok) {
      faulty.value = answer.status === 409
      throw await answer.json()
    }
    const name = /filename="([^"]+)"/.exec(answer.headers.get('Content-Disposition') ?? '')?.[1] ?? `sheet.${kind}`
    const link = document.createElement('a')
    link.href = URL.createObjectURL(await answer.blob())
    link.download = name
    link.click()
    setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
    done.value = accept.value ? `${name} handed over with its faults, as you asked.` : `${name} proved and handed over.`
  } catch (error) {
    trouble.value = sentence(error)
  } finally {
    working.value = false
  }
}

function choose(id: string, on: boolean): void {
  only.value = on ? [...only.value, id] : only.value.filter((other) => other !== id)
}
</script>

<template>
  <StationFrame title="Hand over">
    <template #drawing>
      <EmptyStation v-if="!sheet" title="Nothing to hand over yet" says="Lay the parts out first: a file is written for each sheet." first="lay-out" />
      <div v-else class="split">
        <SheetChoice />
        <RuledGround :box="box" :label="`What goes into the file of sheet ${picked.sheet + 1}`">
          <template #default="{ view }">
            <g v-if="plan" :transform="`${view.place.value} translate(0 ${-plan.height})`">
              <rect class="edge" x="0" y="0" :width="plan.width" :height="plan.height" vector-effect="non-scaling-stroke" />
              <path :d="plan.travel" class="travel" vector-effect="non-scaling-stroke" />
              <path v-for="(line, index) in plan.lines" :key="index" :d="line.path" class="line" :class="`op-${line.operation}`" vector-effect="non-scaling-stroke" />
            </g>
          </template>
        </RuledGround>
        <p v-if="plan" class="legend">
          <span v-for="layer in plan.layers" :key="layer.name"><i :class="`key-${layer.operation}`"></i>{{ layer.name }}, {{ longWay(layer.length, workshop.unit) }}</span>
          <span><i class="travel-key"></i>way between, {{ longWay(plan.travel_length, workshop.unit) }}</span>
          <span v-if="settings?.check_square"><i class="reference"></i>check square, not cut</span>
        </p>
      </div>
    </template>
    <template v-if="settings">
      <h2>Hand over</h2>
      <ReadyToCut v-if="workshop.document?.parts.length" />
      <template v-if="sheet && main">
        <p class="in-line go"><ActButton look="main" :disabled="working" @click="save(main)">Save sheet {{ picked.sheet + 1 }} as {{ FORMATS[main].called }}</ActButton></p>
        <p class="explain">{{ prepared ? `For ${prepared.machine}. ` : '' }}It is written, read back and proved, and saved if nothing is wrong with it.</p>
        <p v-if="others.length" class="in-line">Also as <ActButton v-for="kind in others" :key="kind" :disabled="working" :aria-label="`Save sheet ${picked.sheet + 1} as ${FORMATS[kind].called}`" @click="save(kind)">{{ FORMATS[kind].called }}</ActButton></p>
      </template>
      <p v-if="sheet && only.length" class="explain">With {{ only.length }} of {{ here.length }} kinds of parts alone.</p>
      <p v-if="(workshop.shown?.sheets.length ?? 0) > 1" class="in-line">All sheets in a ZIP, as <ActButton v-for="kind in kinds" :key="kind" :disabled="working" :aria-label="`All sheets, ${FORMATS[kind].called}`" @click="save(kind, true)">{{ FORMATS[kind].called }}</ActButton></p>
      <p v-if="done" role="status" class="done">{{ done }}</p>
      <div v-if="trouble" ref="told" class="why" role="alert">
        <p>{{ trouble }}</p>
        <TickField v-if="faulty" :value="accept" :save="(now) => { accept = now }">Hand it over all the same</TickField>
      </div>
      <FoldSection v-if="sheet && here.length > 1" title="Only some parts of this sheet" folded>
        <TickField v-for="part in here" :key="part.id" :value="only.includes(part.id)" :save="(on) => choose(part.id, on)">{{ part.name }}</TickField>
      </FoldSection>
      <p v-if="sheet" class="in-line papers">
        <ActButton @click="paper = 'setup sheet'">Setup sheet</ActButton>
        <FileLink :href="`/api/projects/${workshop.shown?.slug}/setup/${picked.sheet + 1}`">as PDF</FileLink>
        <ActButton @click="paper = 'cut list'">Cut list</ActButton>
        <FileLink :href="`/api/projects/${workshop.shown?.slug}/cut-list.csv`">Cut list as CSV</FileLink>
        <ActButton @click="paper = 'costs'">What it costs</ActButton>
      </p>
      <SendIt v-if="prepared" :prepared="prepared" look="ink" />
      <FoldSection title="How files are written" name="file-settings" folded>
        <h3>Who compensates for the {{ prepared?.routed ? 'cutter' : 'kerf' }}<template v-if="facts"> of {{ withUnit(facts.kerf, workshop.unit) }}</template></h3>
        <WayField label="Who compensates for the kerf" :value="settings.kerf" :options="['in the file', 'at the machine']" :save="(kerf) => put({ kerf })" />
        <p class="explain">{{ settings.kerf === 'in the file' ? 'Cut on the line, with no offset at the machine.' : `The lines are the finished sizes; set an offset of ${withUnit((facts?.kerf ?? 0) / 2, workshop.unit)} at the machine.` }} The file says so too.</p>
        <h3 v-if="kinds.includes('svg')">Strokes in the SVG</h3>
        <WayField v-if="kinds.includes('svg')" label="Strokes in the SVG" :value="settings.strokes" :options="['visible', 'hairline']" :names="{ hairline: 'hairline, 0.01 mm' }" :save="(strokes) => put({ strokes })" />
        <h3>Part names</h3>
        <WayField label="Part names" :value="settings.names" :options="['score', 'leave out']" :names="{ score: 'as score lines', 'leave out': 'left out' }" :save="(names) => put({ names })" />
        <template v-if="bent">
          <h3>Bend lines</h3>
          <WayField label="Bend lines" :value="settings.bends" :options="['centre', 'centre and tangents', 'leave out']" :names="{ centre: 'their middles', 'centre and tangents': 'with where they begin and end', 'leave out': 'left out' }" :save="(bends) => put({ bends })" />
          <TickField :value="settings.bend_words" :save="(bend_words) => put({ bend_words })">Angle, radius, K and deduction written beside each</TickField>
          <p class="explain">On layers of their own, up and down apart; never cut. The setup sheet has their table.</p>
        </template>
        <h3>Besides</h3>
        <TickField :value="settings.check_square" :save="(check_square) => put({ check_square })">100 mm check square, not cut</TickField>
        <ChoiceField label="DXF version" :value="settings.dxf" :options="['R2010', 'R12']" :save="(dxf) => put({ dxf })" />
        <ChoiceField v-if="(prepared?.cutters.length ?? 0) > 1" label="Programs" :value="settings.programs" :options="['one with changes', 'one a cutter'] as const" :names="{ 'one with changes': 'one, with changes of cutter', 'one a cutter': 'one for each cutter' }" :save="(programs) => put({ programs })" />
      </FoldSection>
      <FoldSection title="Hand in to the operator" name="hand-in" folded><HandInPanel /></FoldSection>
      <FoldSection title="A cutting service" name="service" folded><ServicePanel /></FoldSection>
      <CutList v-if="paper === 'cut list'" @close="paper = null" />
      <CostSheet v-if="paper === 'costs'" @close="paper = null" />
      <SetupSheet v-if="paper === 'setup sheet'" @close="paper = null" />
      <FoldSection title="Share" name="share" folded><SharePanel /></FoldSection>
    </template>
    <template #notes><slot /></template>
  </StationFrame>
</template>

<style scoped>
.split { height: 100%; display: grid; grid-template-rows: auto minmax(0, 1fr) auto; }
.edge { fill: var(--paper); stroke: var(--rule); stroke-width: 1; pointer-events: none; }
.line { fill: none; pointer-events: none; }
.line.op-fill, .line.op-pocket { fill: rgb(28 36 51 / 14%); }
.travel { fill: none; stroke: var(--accent); stroke-width: 0.7; stroke-dasharray: 1 4; pointer-events: none; }
.legend { display: flex; flex-wrap: wrap; gap: 4px 22px; padding: 6px 14px; border-top: 1px solid var(--rule); }
.legend span { display: flex; align-items: center; gap: 6px; }
.legend i { width: 26px; }
.legend i.travel-key { border-top: 2px dotted var(--accent); }
.go { margin: 10px 0; }
.papers { margin: 10px 0; gap: 2px 14px; }
.done { color: var(--right); margin-bottom: 8px; }
.explain { color: var(--soft-ink); font-size: 12px; }
</style>
