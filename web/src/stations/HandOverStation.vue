<script setup lang="ts">
import { computed, nextTick, ref, shallowRef, watch } from 'vue'

import { client, sentence, type Document, type Schemas } from '../api/client'
import { reach } from '../api/reach'
import RuledGround from '../drawing/RuledGround.vue'
import { plain, withUnit } from '../fields/units'
import { useWorkshop } from '../stores/workshop'
import SheetChoice from './SheetChoice.vue'
import StationFrame from './StationFrame.vue'

/** The file for the machine: what goes into it, who compensates for the kerf, and only when it is proved. */
const workshop = useWorkshop()
const plan = shallowRef<Schemas['PlanShown'] | null>(null)
const trouble = ref('')
const done = ref('')
const accept = ref(false)
const working = ref(false)
const told = ref<HTMLElement | null>(null)

watch(trouble, () => void nextTick(() => told.value?.scrollIntoView({ block: 'nearest' })))

const settings = computed(() => workshop.document?.hand_over ?? null)
const sheet = computed(() => workshop.document?.layout.sheets[workshop.sheet] ?? null)
const stock = computed(() => workshop.document?.stocks.find((s) => s.id === sheet.value?.stock))
const facts = computed(() => (stock.value ? workshop.shown?.stocks[stock.value.id] : undefined))
const box = computed(() => ({ left: 0, bottom: 0, right: plan.value?.width ?? 400, top: plan.value?.height ?? 300 }))

watch(
  () => [workshop.shown?.slug, workshop.shown?.version, workshop.sheet],
  async () => {
    trouble.value = done.value = ''
    accept.value = false
    const slug = workshop.shown?.slug
    if (!slug || !sheet.value) {
      plan.value = null
      return
    }
    const params = { path: { slug, number: workshop.sheet + 1 } }
    const { data, error } = await client.GET('/api/projects/{slug}/plans/{number}', { params })
    if (data) plan.value = data
    else trouble.value = sentence(error)
  },
  { immediate: true },
)

function put(change: Partial<Document['hand_over']>): void {
  void workshop.told(workshop.edit((document) => ({ do: 'set hand-over', hand_over: { ...document.hand_over, ...change } })))
}

async function save(kind: 'svg' | 'dxf'): Promise<void> {
  trouble.value = done.value = ''
  working.value = true
  try {
    const query = accept.value ? '?accept_faults=true' : ''
    const answer = await reach(`/api/projects/${workshop.shown?.slug}/sheets/${workshop.sheet + 1}.${kind}${query}`)
    if (!answer.ok) throw await answer.json()
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
</script>

<template>
  <StationFrame title="Hand over">
    <template #drawing>
      <div v-if="!sheet" class="empty"><h2>Nothing to hand over yet</h2><p>Lay the parts out first.</p></div>
      <div v-else class="split">
        <SheetChoice />
        <RuledGround :box="box" :label="`What goes into the file of sheet ${workshop.sheet + 1}`">
          <template #default="{ view }">
            <g v-if="plan" :transform="`${view.place.value} translate(0 ${-plan.height})`">
              <rect class="edge" x="0" y="0" :width="plan.width" :height="plan.height" vector-effect="non-scaling-stroke" />
              <path :d="plan.travel" class="travel" vector-effect="non-scaling-stroke" />
              <path v-for="(line, index) in plan.lines" :key="index" :d="line.path" class="line" :class="line.operation" vector-effect="non-scaling-stroke" />
            </g>
          </template>
        </RuledGround>
        <p v-if="plan" class="legend">
          <span v-for="layer in plan.layers" :key="layer.name"><i :class="layer.operation"></i>{{ layer.name }}, {{ withUnit(layer.length, workshop.unit) }}</span>
          <span><i class="travel-key"></i>way between, {{ plain(plan.travel_length, workshop.unit) }} {{ workshop.unit }}</span>
          <span v-if="settings?.check_square"><i class="reference"></i>check square, not cut</span>
        </p>
      </div>
    </template>
    <template v-if="settings">
      <h2>Hand over</h2>
      <fieldset>
        <legend>Who compensates for the kerf<template v-if="facts"> of {{ withUnit(facts.kerf, workshop.unit) }}</template></legend>
        <label><input type="radio" name="kerf" :checked="settings.kerf === 'in the file'" @change="put({ kerf: 'in the file' })" /> in the file</label>
        <label><input type="radio" name="kerf" :checked="settings.kerf === 'at the machine'" @change="put({ kerf: 'at the machine' })" /> at the machine</label>
        <p class="explain">{{ settings.kerf === 'in the file' ? 'Cut on the line, with no offset at the machine.' : `The lines are the finished sizes; set an offset of ${withUnit((facts?.kerf ?? 0) / 2, workshop.unit)} at the machine.` }} The file says so too.</p>
      </fieldset>
      <fieldset>
        <legend>Strokes in the SVG</legend>
        <label><input type="radio" name="strokes" :checked="settings.strokes === 'visible'" @change="put({ strokes: 'visible' })" /> visible</label>
        <label><input type="radio" name="strokes" :checked="settings.strokes === 'hairline'" @change="put({ strokes: 'hairline' })" /> hairline, 0.01 mm</label>
      </fieldset>
      <fieldset>
        <legend>Part names</legend>
        <label><input type="radio" name="names" :checked="settings.names === 'score'" @change="put({ names: 'score' })" /> as score lines</label>
        <label><input type="radio" name="names" :checked="settings.names === 'leave out'" @change="put({ names: 'leave out' })" /> left out</label>
      </fieldset>
      <fieldset>
        <legend>Besides</legend>
        <label><input type="checkbox" :checked="settings.check_square" @change="put({ check_square: !settings.check_square })" /> 100 mm check square, not cut</label>
        <label>DXF version <select class="text-input version" :value="settings.dxf" @change="put({ dxf: ($event.target as HTMLSelectElement).value as 'R2010' | 'R12' })"><option>R2010</option><option>R12</option></select></label>
      </fieldset>
      <p v-if="workshop.shown?.layout_out_of_date" class="why">The layout is out of date; lay out again before you cut.</p>
      <p v-if="sheet" class="in-line go">
        <button type="button" class="ink-button main" :disabled="working" @click="save('svg')">Save sheet {{ workshop.sheet + 1 }} as SVG</button>
        <button type="button" class="ink-button main" :disabled="working" @click="save('dxf')">as DXF</button>
      </p>
      <p v-if="done" role="status" class="done">{{ done }}</p>
      <div v-if="trouble" ref="told" class="why" role="alert">
        <p>{{ trouble }}</p>
        <label v-if="trouble.startsWith('The proof')"><input v-model="accept" type="checkbox" /> Hand it over all the same</label>
      </div>
      <p><a :href="`/api/projects/${workshop.shown?.slug}/file`" download>Save the project to a file</a></p>
    </template>
    <template #notes><slot /></template>
  </StationFrame>
</template>

<style scoped>
.split { height: 100%; display: grid; grid-template-rows: auto minmax(0, 1fr) auto; }
.edge { fill: var(--paper); stroke: var(--rule); stroke-width: 1; pointer-events: none; }
.line { fill: none; pointer-events: none; }
.cut { stroke: #151515; stroke-width: 1.2; }
.score { stroke: #8a5a00; stroke-width: 1; stroke-dasharray: 2.4 1; }
.engrave { fill: rgb(138 90 0 / 22%); stroke: #8a5a00; stroke-width: 0.8; }
.pocket { fill: rgb(28 36 51 / 14%); stroke: #151515; stroke-width: 0.9; stroke-dasharray: 6 2 1 2; }
.reference { stroke: #9a9a9a; stroke-width: 1; stroke-dasharray: 1 3; }
.travel { fill: none; stroke: var(--accent); stroke-width: 0.7; stroke-dasharray: 1 4; pointer-events: none; }
.legend { display: flex; flex-wrap: wrap; gap: 4px 22px; padding: 6px 14px; border-top: 1px solid var(--rule); }
.legend span { display: flex; align-items: center; gap: 6px; }
.legend i { width: 26px; border-top: 2px solid #151515; }
.legend i.score { border-top: 2px dashed #8a5a00; }
.legend i.engrave { border-top: 2px solid #8a5a00; }
.legend i.pocket { border-top: 3px double #151515; }
.legend i.reference, .legend i.travel-key { border-top: 2px dotted #9a9a9a; }
.legend i.travel-key { border-color: var(--accent); }
fieldset { border: 0; border-top: 1px solid var(--rule); margin: 8px 0 0; padding: 4px 0; display: grid; gap: 3px; }
legend { color: var(--soft-ink); padding: 0 6px 0 0; }
.version { width: 80px; margin-left: 8px; }
.go { margin: 10px 0; }
.done { color: var(--right); margin-bottom: 8px; }
.explain { color: var(--soft-ink); font-size: 12px; }
</style>
