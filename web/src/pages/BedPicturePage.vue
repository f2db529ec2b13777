<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { useRoute } from 'vue-router'

import RuledGround from '../drawing/RuledGround.vue'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import FileField from '../kit/FileField.vue'
import PageHead from '../frame/PageHead.vue'
import GoLink from '../kit/GoLink.vue'
import PlainField from '../kit/PlainField.vue'
import WayField from '../kit/WayField.vue'
import { onDropped } from '../kit/dropped'
import { usePicture, type PictureMark } from '../picture/picture'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** A picture of the bed or the scrap: laid flat by marks of known places, and its edge clicked into a sheet to nest in. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
const route = useRoute()
const slug = computed(() => String(route.params.slug))
watch(slug, (now) => { if (workshop.shown?.slug !== now) void workshop.open(now) }, { immediate: true })

const { picture, trouble, pixels, bring, lay, remove } = usePicture(() => slug.value)
const way = ref<'four marks' | 'two points'>('four marks')
const marks = reactive<PictureMark[]>([])
const distance = ref('100')
const again = ref(false)
const corners = reactive<{ x: number; y: number }[]>([])
const told = ref('')
const ground = ref<InstanceType<typeof RuledGround> | null>(null)
const view = ref<SVGSVGElement | null>(null)

const marking = computed(() => picture.value !== null && (picture.value.flat === null || again.value))
const most = computed(() => (way.value === 'four marks' ? 4 : 2))
watch(() => picture.value?.stamp, () => {
  marks.splice(0, marks.length, ...(picture.value?.marks ?? []))
  corners.length = 0
})

const box = computed(() => {
  const flat = picture.value?.flat
  return flat ? { left: flat.left, bottom: flat.bottom, right: flat.right, top: flat.top } : { left: 0, bottom: 0, right: 600, top: 400 }
})

/** Where a press on the picture is, in its own pixels. */
function mark(event: PointerEvent): void {
  const frame = view.value?.getBoundingClientRect()
  const now = picture.value
  if (!frame || !now || marks.length >= most.value) return
  const scale = Math.min(frame.width / now.width, frame.height / now.height)
  const across = (event.clientX - frame.left - (frame.width - now.width * scale) / 2) / scale
  const down = (event.clientY - frame.top - (frame.height - now.height * scale) / 2) / scale
  if (across < 0 || down < 0 || across > now.width || down > now.height) return
  marks.push({ across, down, x: 0, y: 0 })
}

async function flatten(): Promise<void> {
  const given = way.value === 'two points' ? Number(distance.value.replace(',', '.')) || 0 : null
  if (await lay([...marks], given)) again.value = false
}

function number(text: string): number {
  return Number(text.replace(',', '.')) || 0
}

function trace(event: PointerEvent): void {
  const frame = ground.value?.frame?.getBoundingClientRect()
  if (!frame || !ground.value) return
  const { x, y } = ground.value.view.toDrawing({ x: event.clientX - frame.left, y: event.clientY - frame.top })
  corners.push({ x: Math.round(x * 10) / 10, y: Math.round(y * 10) / 10 })
}

const stocks = computed(() => workshop.document?.stocks ?? [])
const names = computed(() => Object.fromEntries(stocks.value.map(({ id, name }) => [id, name])))
const stockId = computed(() => picked.stock?.id ?? null)

/** The traced outline is a sheet of the stock: one, that costs nothing, from its own lower left corner. */
async function take(): Promise<void> {
  const [left, bottom] = [Math.min(...corners.map(({ x }) => x)), Math.min(...corners.map(({ y }) => y))]
  const [right, top] = [Math.max(...corners.map(({ x }) => x)), Math.max(...corners.map(({ y }) => y))]
  const mm = (value: number): { text: string; unit: 'mm' } => ({ text: value.toFixed(2), unit: 'mm' })
  const outline = corners.map(({ x, y }) => ({ x: x - left, y: y - bottom }))
  const sheet = { width: mm(right - left), height: mm(top - bottom), at_hand: 1, worth: 0, outline, keep_outs: [] }
  if (!(await edits.told(edits.editStock(stockId.value ?? '', ({ sheets }) => ({ sheets: [sheet, ...sheets] }))))) return
  await edits.told(edits.edit(({ preparation }) => ({ do: 'set preparation', preparation: { ...preparation, on_bed: { by: 'bottom left', mark_x: mm(0), mark_y: mm(0), x: mm(left), y: mm(bottom), turn: 0 } } })))
  told.value = `It is a sheet of ${names.value[stockId.value ?? ''] ?? ''} now, and lies on the bed as in the picture. Lay out again to use it first.`
  corners.length = 0
}

onDropped(([file]) => { if (file) void bring(file) })
</script>

<template>
  <main class="bed-picture">
    <PageHead :title="`${workshop.document?.name ?? '…'}: a picture of the bed or the scrap`" :back-to="`/projects/${slug}/lay-out`" back="Back to Lay out" />
    <div v-if="!picture" class="empty">
      <h2>No picture yet</h2>
      <p>Take one from above, also with a phone, with four places in it whose distances you know: the corners of the bed, or crosses on tape.</p>
    </div>
    <svg v-else-if="marking" ref="view" class="raw" :viewBox="`0 0 ${picture.width} ${picture.height}`" role="img" aria-label="The picture as it was taken" @pointerdown="mark">
      <image :href="pixels(false)" x="0" y="0" :width="picture.width" :height="picture.height" />
      <g v-for="(one, at) in marks" :key="at" :transform="`translate(${one.across} ${one.down}) scale(${picture.width / 800})`" class="mark"><circle r="7" /><path d="M-14 0h28M0 -14v28" /><text x="10" y="-10">{{ at + 1 }}</text></g>
    </svg>
    <div v-else class="flat" @pointerdown="trace">
      <RuledGround ref="ground" :box="box" label="The picture, laid flat">
        <template #default="{ view: on }">
          <g :transform="on.place.value" style="pointer-events: none">
            <image v-if="picture.flat" :href="pixels(true)" :x="picture.flat.left" :y="-picture.flat.top" :width="picture.flat.right - picture.flat.left" :height="picture.flat.top - picture.flat.bottom" preserveAspectRatio="none" />
            <polygon v-if="corners.length" class="traced" :points="corners.map(({ x, y }) => `${x},${-y}`).join(' ')" vector-effect="non-scaling-stroke" />
          </g>
          <circle v-for="(one, at) in corners" :key="at" class="corner" :cx="on.toScreen(one.x, 0).x" :cy="on.toScreen(0, one.y).y" r="4" />
        </template>
      </RuledGround>
    </div>
    <aside aria-label="The picture">
      <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
      <FileField :label="picture ? 'Another picture (PNG, JPEG)' : 'Bring a picture (PNG, JPEG)'" accept="image/png,image/jpeg" :take="bring" />
      <template v-if="picture && marking">
        <h2>Lay it flat</h2>
        <WayField label="How it is laid flat" :value="way" :options="['four marks', 'two points'] as const" :names="{ 'four marks': 'by four marks of known places', 'two points': 'by two points and their distance' }" :save="(now) => { way = now; marks.length = 0 }" />
        <p class="explain">Click {{ most }} places in the picture: {{ marks.length }} of {{ most }} clicked.{{ way === 'four marks' ? ' Say where each lies on the bed, from its lower left corner.' : '' }}</p>
        <div v-for="(one, at) in marks" :key="at" class="stack">
          <template v-if="way === 'four marks'">
            <PlainField :label="`Mark ${at + 1}, x mm`" :value="one.x" :save="(text) => { one.x = number(text) }" />
            <PlainField :label="`Mark ${at + 1}, y mm`" :value="one.y" :save="(text) => { one.y = number(text) }" />
          </template>
        </div>
        <PlainField v-if="way === 'two points'" label="Apart by, mm" :value="distance" :save="(text) => { distance = text }" />
        <p class="in-line acts">
          <ActButton look="main" :disabled="marks.length < most" @click="flatten">Lay it flat</ActButton>
          <ActButton v-if="marks.length" @click="marks.length = 0">Clear the marks</ActButton>
        </p>
      </template>
      <template v-else-if="picture">
        <h2>Its edge as a sheet</h2>
        <p class="explain">Click the corners of the scrap one after the other: {{ corners.length }} clicked.</p>
        <ChoiceField v-if="stocks.length" label="A sheet of" :value="stockId" :options="stocks.map(({ id }) => id)" :names="names" :save="(id) => picked.pick({ stockId: id })" />
        <p class="in-line acts">
          <ActButton look="main" :disabled="corners.length < 3" @click="take">Take it as a sheet</ActButton>
          <ActButton v-if="corners.length" @click="corners.pop()">One corner less</ActButton>
          <ActButton v-if="corners.length" @click="corners.length = 0">Clear</ActButton>
        </p>
        <p class="in-line"><ActButton @click="again = true">Set its marks again</ActButton></p>
      </template>
      <p v-if="told" role="status" class="explain">{{ told }} <GoLink :to="`/projects/${slug}/lay-out`">Lay out</GoLink></p>
      <p v-if="picture"><ActButton @click="remove">Remove the picture</ActButton></p>
    </aside>
  </main>
</template>

<style scoped>
.bed-picture { height: var(--page); display: grid; grid-template: 46px minmax(0, 1fr) / minmax(0, 1fr) 306px; }
.raw { width: 100%; height: 100%; cursor: crosshair; background: var(--ground); }
.flat { min-height: 0; cursor: crosshair; }
.flat :deep(.sheet) { cursor: crosshair; }
aside { border-left: 1px solid var(--ink); padding: 10px 12px; overflow-y: auto; background: var(--ground); }
aside h2 { margin-top: 12px; }
.mark circle, .mark path { fill: none; stroke: var(--accent); stroke-width: 2; }
.mark text { fill: var(--accent); font-size: 18px; font-weight: 700; paint-order: stroke; stroke: var(--paper); stroke-width: 4; }
.traced { fill: rgb(23 63 143 / 18%); stroke: var(--accent); stroke-width: 2; }
.corner { fill: var(--accent); pointer-events: none; }
.explain { color: var(--soft-ink); font-size: 12px; }
.acts { margin: 10px 0; }
@media (max-width: 900px) {
  .bed-picture { height: auto; grid-template: auto max(300px, 74vh) auto / minmax(0, 1fr); }
  aside { border-left: 0; border-top: 1px solid var(--ink); }
}
</style>
