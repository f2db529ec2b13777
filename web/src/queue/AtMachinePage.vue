<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRoute } from 'vue-router'

import PageHead from '../frame/PageHead.vue'
import { client, sentence, type Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'
import TextInput from '../kit/TextInput.vue'
import TickField from '../kit/TickField.vue'
import { Queue } from '../state/queue'
import { cutIn, howItStands, timeOf } from './day'
import SheetHandedIn from './SheetHandedIn.vue'

/** On a tablet at one machine: what lies on its bed now, what comes off it for whom, and what is next. */
type Turn = Schemas['DayTurn']
interface OnBed {
  sheet: Schemas['SheetLooked']
  /** Of one that lies alone, as it stands; several go by the number they were laid together under. */
  alone: Schemas['HandInShown'] | null
  together: number | null
}
const machine = computed(() => String(useRoute().params.machine))
const turns = shallowRef<Turn[]>([])
const onBed = shallowRef<OnBed | null>(null)
const failed = ref<string[]>([])
const trouble = ref('')
const asked = ref(false)
const why = ref('')
/** The machine itself, as it stands: what it has run of what lies on it. */
const run = shallowRef<Schemas['DeviceShown'] | null>(null)
const EVERY = 5000

const inMachine = computed(() => turns.value.find(({ released }) => released) ?? null)
const next = computed(() => turns.value.filter((turn) => turn !== inMachine.value))
const copies = computed(() => failed.value.map((one) => ({ part: one.split('#')[0] ?? '', copy_number: Number(one.split('#')[1]) })))
const whose = computed(() => [...new Set(onBed.value?.sheet.gather.map(({ owner }) => owner))])

const steps = new Queue()
const look = (): Promise<void> => steps.inTurn(lookNow)
onMounted(look)
useIntervalFn(look, EVERY)

async function lookNow(): Promise<void> {
  const { data, error } = await client.GET('/api/desk/day')
  if (!data) {
    trouble.value = sentence(error)
    return
  }
  const before = inMachine.value?.numbers.join()
  turns.value = data.machines.find((one) => one.machine === machine.value)?.turns ?? []
  asked.value = true
  run.value = inMachine.value ? await running() : null
  if (inMachine.value?.numbers.join() === before && onBed.value) return
  failed.value = []
  why.value = ''
  onBed.value = inMachine.value ? await lying(inMachine.value) : null
}

async function running(): Promise<Schemas['DeviceShown'] | null> {
  const { data } = await client.GET('/api/device')
  const of = data?.machines.find(({ called }) => called === machine.value)?.of
  if (of === undefined) return null
  return (await client.GET('/api/device', { params: { query: { of } } })).data ?? null
}

const minutes = (seconds: number): string => `${(seconds / 60).toFixed(1)} min`
const ran = computed(() => {
  if (!run.value) return ''
  const { state, doing, name, gone, seconds, alarms, wanted } = run.value
  if (alarms.length) return `The machine stands: ${alarms.map(({ text }) => text).join('; ')}`
  if (doing !== 'program') return 'The machine walks round the sheet.'
  if (state === 'done') return `The machine has run all of ${name}. Look over the parts, and say what came of them.`
  if (state === 'paused') return `The machine is paused after ${minutes(gone)} of ${minutes(seconds)}; it goes on at its panel.`
  if (state === 'running') return wanted ? 'The machine waits for a cutter.' : `The machine runs ${name}: ${minutes(gone)} of ${minutes(seconds)}.`
  return state === 'stopped' ? `The machine was stopped after ${minutes(gone)} of ${minutes(seconds)}: what it did not get to has failed.` : `The machine has ${name}, and has not begun.`
})

async function lying(turn: Turn): Promise<OnBed | null> {
  const { data, error } = await client.GET('/api/queue/{number}', { params: { path: { number: turn.numbers[0] ?? 0 } } })
  if (!data) trouble.value = sentence(error)
  const number = data?.shown.together ?? null
  if (!data || number === null) return data ? { sheet: data.sheet, alone: data.shown, together: null } : null
  const { data: sheet } = await client.GET('/api/together/{number}', { params: { path: { number } } })
  return sheet ? { sheet, alone: null, together: number } : null
}

function fail(part: string, copy: number, on: boolean): void {
  const key = `${part}#${copy}`
  failed.value = on ? [...failed.value, key] : failed.value.filter((one) => one !== key)
}

/** Says what came of it; then the next one is looked for. */
function done(back: boolean): Promise<void> {
  return steps.inTurn(async () => {
    const { alone, together } = onBed.value ?? {}
    const gone = copies.value
    const { error } = alone
      ? await ofOne({ number: alone.number }, alone.version, back, gone)
      : await ofSeveral({ number: together ?? 0 }, back, gone)
    onBed.value = null
    await lookNow()
    trouble.value = error ? sentence(error) : ''
  })
}

function ofOne(path: { number: number }, version: number, back: boolean, gone: Schemas['CopyOf'][]) {
  return back
    ? client.POST('/api/queue/{number}/call-back', { params: { path }, body: { version } })
    : client.POST('/api/queue/{number}/cut', { params: { path }, body: { version, failed: gone, why: why.value } })
}

function ofSeveral(path: { number: number }, back: boolean, gone: Schemas['CopyOf'][]) {
  return back ? client.POST('/api/together/{number}/call-back', { params: { path } }) : client.POST('/api/together/{number}/cut', { params: { path }, body: { failed: gone, why: why.value } })
}
</script>

<template>
  <main class="at">
    <PageHead :title="`At the ${machine}`" back="The day" back-to="/day"><p>{{ turns.length }} to cut</p></PageHead>
    <section class="bed">
      <SheetHandedIn v-if="onBed && inMachine" :key="inMachine.numbers.join()" :sheet="onBed.sheet" label="The sheet in the machine" />
      <p v-else-if="asked" class="says">Nothing is in this machine. <GoLink to="/queue">Release the next one at the desk.</GoLink></p>
    </section>
    <aside aria-label="In the machine">
      <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
      <template v-if="onBed && inMachine">
        <h2>Now: {{ inMachine.numbers.length > 1 ? 'numbers' : 'number' }} {{ inMachine.numbers.join(', ') }}</h2>
        <p class="stock">{{ inMachine.stock }}, {{ onBed.sheet.width }} x {{ onBed.sheet.height }} mm, {{ cutIn(inMachine.seconds) }}</p>
        <p><GoLink :to="{ path: '/machine', query: { machine } }">The machine's panel</GoLink></p>
        <p v-if="ran" role="status" :class="{ why: run?.alarms.length }">{{ ran }}</p>
        <h3>To gather; tick what failed</h3>
        <section v-for="owner in whose" :key="owner" :aria-label="owner" class="whose">
          <h4>{{ owner }}</h4>
          <div v-for="row in onBed.sheet.gather.filter((one) => one.owner === owner)" :key="row.part" class="row">
            <span>{{ row.called }}</span>
            <TickField v-for="copy in row.copies" :key="copy" :label="`${row.called} ${copy} failed`" :value="failed.includes(`${row.part}#${copy}`)" :save="(on) => fail(row.part, copy, on)">{{ row.copies.length > 1 ? copy : '' }}</TickField>
          </div>
        </section>
        <p v-if="failed.length"><TextInput v-model="why" label="Why it failed" placeholder="Why it failed" :most="400" /></p>
        <p class="acts"><ActButton look="main" @click="done(false)">{{ failed.length ? `Cut, but for ${failed.length} that failed` : 'All of it is cut' }}</ActButton></p>
        <p><ActButton @click="done(true)">Not cut: call it back to the desk</ActButton></p>
      </template>
      <h2 class="after">Next</h2>
      <ol class="next">
        <li v-for="turn in next" :key="turn.numbers.join()" :class="{ wrong: turn.late || turn.lacks }"><span><strong>{{ turn.numbers.join(', ') }}</strong>&ensp;{{ turn.owners.join(', ') }}</span><span class="soft">{{ turn.stock }}; {{ turn.lacks ? howItStands(turn) : `done by ${timeOf(turn.ends)}${turn.late ? ', too late' : ''}` }}</span></li>
        <li v-if="asked && !next.length" class="soft">Nothing else waits for it.</li>
      </ol>
    </aside>
  </main>
</template>

<style scoped>
.at { height: var(--page); display: grid; grid-template: 46px minmax(0, 1fr) / minmax(0, 1fr) 380px; }
.bed { position: relative; min-width: 0; min-height: 0; }
.says { position: absolute; left: 0; right: 0; top: 42%; text-align: center; color: var(--soft-ink); font-size: 15px; }
aside { border-left: 1px solid var(--ink); padding: 10px 14px 20px; overflow-y: auto; background: var(--ground); font-size: 15px; }
h2 { font-size: 20px; margin: 4px 0; }
h4 { margin: 10px 0 2px; font-size: 15px; }
.stock { margin: 0 0 6px; }
.row { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 14px; min-height: 40px; border-bottom: 1px solid var(--rule); }
.row > span:first-child { flex: 1 1 120px; }
.acts { margin: 14px 0 8px; }
.acts :deep(button) { width: 100%; min-height: 52px; font-size: 17px; }
.after { font-size: 15px; margin-top: 16px; }
.next { margin: 0; padding: 0; list-style: none; }
.next li { display: grid; padding: 6px 0; border-bottom: 1px solid var(--rule); }
.soft { color: var(--soft-ink); font-size: 13px; }
.wrong .soft { color: var(--wrong); }
@media (max-width: 900px) {
  .at { height: auto; grid-template: auto max(320px, 50vh) auto / minmax(0, 1fr); }
  aside { border-left: 0; border-top: 1px solid var(--ink); }
}
</style>
