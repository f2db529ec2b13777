<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'

import PageHead from '../frame/PageHead.vue'
import { client, sentence, type Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import ChoiceField from '../kit/ChoiceField.vue'
import FoldSection from '../kit/FoldSection.vue'
import GoLink from '../kit/GoLink.vue'
import { priced } from '../kit/money'
import PlainField from '../kit/PlainField.vue'
import RowsTable from '../kit/RowsTable.vue'
import PaperSheet from '../kit/PaperSheet.vue'
import TickField from '../kit/TickField.vue'
import TextInput from '../kit/TextInput.vue'
import { Queue } from '../state/queue'
import AccessWords from './AccessWords.vue'
import DeletedLately from './DeletedLately.vue'
import DoneLately from './DoneLately.vue'
import MakersList from './MakersList.vue'
import MakersSums from './MakersSums.vue'
import ProposedList from './ProposedList.vue'
import SheetHandedIn from './SheetHandedIn.vue'

/** The operator's desk: what waits, looked at one by one, returned with a reason or released to the machine. */
type Row = Schemas['HandInShown']
const router = useRouter()
const queue = shallowRef<Schemas['QueueShown'] | null>(null)
const looked = shallowRef<Schemas['HandInLooked'] | null>(null)
const joint = shallowRef<{ shown: Schemas['TogetherShown']; sheet: Schemas['SheetLooked'] } | null>(null)
const state = ref('to do')
const stock = ref('all')
const machine = ref('all')
const chosen = ref<number[]>([])
const why = ref('')
const failed = ref<string[]>([])
const trouble = ref('')

const STATES = ['to do', 'waiting', 'returned', 'released', 'cut', 'all']
const rows = computed(() => {
  const all = queue.value?.rows ?? []
  const wanted = (row: Row): boolean => state.value === 'all' || row.state === state.value || (state.value === 'to do' && ['waiting', 'released'].includes(row.state))
  return all.filter((row) => wanted(row) && (stock.value === 'all' || row.facts.stock === stock.value) && (machine.value === 'all' || row.facts.machine === machine.value))
})
const stocks = computed(() => ['all', ...new Set(queue.value?.rows.map((row) => row.facts.stock))])
const machines = computed(() => ['all', ...new Set(queue.value?.rows.map((row) => row.facts.machine))])
const showsDone = ref(false)
const unchosen = null as string | null
const minutes = (seconds: number): string => `${(seconds / 60).toFixed(1)} min`

const COLUMNS = [
  { key: 'pick', title: 'Lay', width: 44 },
  { key: 'number', title: 'No', width: 66, number: true, sorts: (row: Row) => row.number, text: (row: Row) => String(row.number) },
  { key: 'owner', title: 'Whose', least: 150, sorts: (row: Row) => row.owner, text: (row: Row) => [row.owner, row.group].filter(Boolean).join(', ') },
  { key: 'due', title: 'By', width: 80, sorts: (row: Row) => row.due ?? '9', text: (row: Row) => (row.due ? new Date(row.due).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' }) : '') },
  { key: 'stock', title: 'Stock', least: 140, sorts: (row: Row) => row.facts.stock, text: (row: Row) => row.facts.stock },
  { key: 'time', title: 'Time', width: 90, number: true, sorts: (row: Row) => row.facts.seconds, text: (row: Row) => minutes(row.facts.seconds) },
  { key: 'proof', title: 'Proof', width: 60, text: (row: Row) => (row.facts.faults ? `${row.facts.faults} faults` : 'good') },
  { key: 'state', title: 'Stands', width: 96, sorts: (row: Row) => row.state, text: (row: Row) => row.state },
]

async function look(): Promise<void> {
  const { data, error } = await client.GET('/api/queue')
  if (data) queue.value = data
  else trouble.value = sentence(error)
}
onMounted(look)

// Each step is made of what the one before it has left, and a sheet is opened after the steps with the last one.
const turns = new Queue()

function open(number: number): Promise<void> {
  return turns.inTurn(() => load(number))
}

async function load(number: number): Promise<void> {
  trouble.value = why.value = ''
  failed.value = []
  joint.value = null
  const { data, error } = await client.GET('/api/queue/{number}', { params: { path: { number } } })
  looked.value = data ?? null
  if (!data) trouble.value = sentence(error)
}

function openJoint(): void {
  const number = looked.value?.shown.together
  if (number) void openTogether(number)
}

function openTogether(number: number): Promise<void> {
  return turns.inTurn(() => loadTogether(number))
}

/** The sheets laid together, as they stand when it is their turn. */
async function loadTogether(number: number): Promise<void> {
  trouble.value = ''
  failed.value = []
  looked.value = null
  const { data, error } = await client.GET('/api/together/{number}', { params: { path: { number } } })
  const shown = queue.value?.together.find((one) => one.number === number)
  joint.value = data && shown ? { shown, sheet: data } : null
  if (!data) trouble.value = sentence(error)
}

type Answer = { data?: Schemas['HandInLooked']; error?: unknown }

/** A step with the sheet that is looked at. Where somebody else was there first, it is shown as it stands now. */
function step(answer: (path: { number: number }, version: number) => Promise<Answer>): Promise<boolean> {
  return turns.inTurn(async () => {
    const now = looked.value?.shown
    if (!now) return false
    const { data, error } = await answer({ number: now.number }, now.version)
    if (data) {
      looked.value = data
      trouble.value = ''
    } else {
      await load(now.number)
      trouble.value = sentence(error)
    }
    await look()
    return Boolean(data)
  })
}

/** Checks that came out good, are not looked at by hand, and are not ticked yet. */
const good = computed(() => looked.value?.sheet.checks.filter(({ code, good: well }) => well && !looked.value?.by_hand.includes(code) && !looked.value?.ticks.includes(code)) ?? [])

function takeGood(): void {
  void step((path, version) => client.POST('/api/queue/{number}/take-good', { params: { path }, body: { version } }))
}

async function lookByHand(code: Schemas['DeskCheck']['code'], on: boolean): Promise<void> {
  const now = looked.value
  if (!now) return
  const codes = on ? [...now.by_hand, code] : now.by_hand.filter((one) => one !== code)
  const { data, error } = await client.PUT('/api/desk/by-hand', { body: { codes } })
  trouble.value = data ? '' : sentence(error)
  if (data) looked.value = { ...now, by_hand: data }
}

function tick(code: string, on: boolean): void {
  void step((path, version) => {
    const ticks = (looked.value?.ticks ?? []).filter((one) => one !== code)
    return client.POST('/api/queue/{number}/ticks', { params: { path }, body: { version, ticks: on ? [...ticks, code] : ticks } })
  })
}

async function giveBack(): Promise<void> {
  await step((path, version) => client.POST('/api/queue/{number}/return', { params: { path }, body: { version, why: why.value } }))
}

async function release(): Promise<void> {
  if (await step((path, version) => client.POST('/api/queue/{number}/release', { params: { path }, body: { version } }))) await router.push('/machine')
}

function setUp(change: Partial<Schemas['SetUp']>): void {
  void step((path, version) => client.POST('/api/queue/{number}/set-up', { params: { path }, body: { version, machine: '', datum: null, holding: null, ...change } }))
}

async function callBack(): Promise<void> {
  await step((path, version) => client.POST('/api/queue/{number}/call-back', { params: { path }, body: { version } }))
}

const copies = computed(() => failed.value.map((one) => ({ part: one.split('#')[0] ?? '', copy_number: Number(one.split('#')[1]) })))

function wasCut(): void {
  const gone = copies.value
  failed.value = []
  void step((path, version) => client.POST('/api/queue/{number}/cut', { params: { path }, body: { version, failed: gone } }))
}

/** Takes the queue as a deletion, or its undoing, has left it. */
function gone(answer: () => Promise<{ data?: Schemas['QueueShown']; error?: unknown }>): Promise<void> {
  return turns.inTurn(async () => {
    const { data, error } = await answer()
    trouble.value = data ? '' : sentence(error)
    if (!data) return
    queue.value = data
    looked.value = null
  })
}

function deleteIt(): void {
  const now = looked.value?.shown
  if (now) void gone(() => client.DELETE('/api/queue/{number}', { params: { path: { number: now.number }, query: { version: now.version } } }))
}

function haveBack(number: number): Promise<void> {
  return gone(() => client.POST('/api/queue/{number}/restore', { params: { path: { number } } }))
}

function fail(part: string, copy: number, on: boolean): void {
  const key = `${part}#${copy}`
  failed.value = on ? [...failed.value, key] : failed.value.filter((one) => one !== key)
}

function layTogether(): Promise<void> {
  return turns.inTurn(async () => {
    const all = queue.value?.rows.filter((row) => chosen.value.includes(row.number)) ?? []
    const body = { numbers: all.map((row) => row.number), versions: all.map((row) => row.version) }
    const { data, error } = await client.POST('/api/together', { body })
    await look()
    trouble.value = data ? '' : sentence(error)
    if (!data) return
    chosen.value = []
    await loadTogether(data.number)
  })
}

function withAll(act: 'release' | 'cut' | 'apart' | 'call back'): Promise<void> {
  return turns.inTurn(async () => {
    const number = joint.value?.shown.number
    if (!number) return
    const params = { path: { number } }
    const { error } =
      act === 'release'
        ? await client.POST('/api/together/{number}/release', { params })
        : act === 'cut'
          ? await client.POST('/api/together/{number}/cut', { params, body: { failed: copies.value } })
          : act === 'apart'
            ? await client.POST('/api/together/{number}/apart', { params })
            : await client.POST('/api/together/{number}/call-back', { params })
    await look()
    trouble.value = error ? sentence(error) : ''
    if (error) return
    joint.value = null
    if (act === 'release') await router.push('/machine')
  })
}

const proposals = ref(0)
const sheet = computed(() => looked.value?.sheet ?? joint.value?.sheet ?? null)
const rated = computed(() => sheet.value?.costs.filter(({ total }) => total !== null) ?? [])
const released = computed(() => looked.value?.shown.state === 'released' || (joint.value?.shown.states.every((one) => one === 'released') ?? false))
const waiting = computed(() => looked.value?.shown.state === 'waiting')
const over = computed(() => looked.value && !waiting.value && !released.value)
</script>

<template>
  <main class="desk">
    <PageHead title="The hand-in queue"><p>{{ rows.length }} of {{ queue?.rows.length ?? 0 }}</p><GoLink to="/day">The day at the machines</GoLink></PageHead>
    <section class="left">
      <div class="filters in-line">
        <ChoiceField label="Shown" :value="state" :options="STATES" :save="(one) => { state = one }" />
        <ChoiceField label="Stock" :value="stock" :options="stocks" :save="(one) => { stock = one }" />
        <ChoiceField label="Machine" :value="machine" :options="machines" :save="(one) => { machine = one }" />
      </div>
      <RowsTable label="Queue" :rows="rows" :columns="COLUMNS" empty="Nothing waits." :choose="(row) => void open(row.number)" :mark="(row) => (row.number === looked?.shown.number ? 'chosen' : '')">
        <template #pick="{ row }"><span @click.stop><TickField v-if="row.state === 'waiting' && !row.together" :label="`Number ${row.number}`" :value="chosen.includes(row.number)" :save="(on) => { chosen = on ? [...chosen, row.number] : chosen.filter((one) => one !== row.number) }" /></span></template>
      </RowsTable>
      <p v-if="chosen.length > 1"><ActButton look="ink" @click="layTogether">Lay {{ chosen.length }} together on one sheet</ActButton></p>
      <ul v-if="queue?.together.some((one) => one.members.length)" class="joint" aria-label="Laid together">
        <li v-for="one in queue.together.filter((made) => made.members.length)" :key="one.number"><ActButton :pressed="joint?.shown.number === one.number" @click="openTogether(one.number)">Numbers {{ one.members.join(', ') }} on one sheet</ActButton>, {{ [...new Set(one.states)].join(', ') }}</li>
      </ul>
      <DeletedLately :handed="queue?.deleted ?? []" :have-back="(number) => void haveBack(number)" />
      <FoldSection v-if="queue?.makers.length" title="What each maker takes" name="takes" folded><MakersSums :makers="queue.makers" :money="queue.money" /></FoldSection>
      <FoldSection title="Makers by name" name="makers" folded><MakersList /></FoldSection>
      <FoldSection title="Proposed for the library" :says="proposals ? `${proposals} wait${proposals === 1 ? 's' : ''}` : ''" name="proposed" folded><ProposedList @count="(count) => (proposals = count)" /></FoldSection>
      <p><ActButton @click="showsDone = true">What was done lately</ActButton></p>
      <PaperSheet v-model="showsDone" title="What was done lately" width="900px"><DoneLately /></PaperSheet>
      <FoldSection title="Words that let others in" name="words" folded><AccessWords /></FoldSection>
    </section>
    <section class="middle"><SheetHandedIn v-if="sheet" :key="looked?.shown.number ?? `j${joint?.shown.number}`" :sheet="sheet" label="The sheet as it would be cut" /><p v-else class="says">Press a row to look at it.</p></section>
    <aside aria-label="What is looked at">
      <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
      <template v-if="looked">
        <h2>Number {{ looked.shown.number }}, {{ looked.shown.owner }}</h2>
        <p class="soft">{{ looked.shown.project_name }}, version {{ looked.shown.project_version }}, sheet {{ looked.shown.sheet }}; {{ looked.shown.state }}<template v-if="looked.shown.why">: {{ looked.shown.why }}</template></p>
        <p v-if="looked.shown.again.length" class="why">Only what failed is cut again: {{ looked.shown.again.length }} parts.</p>
        <h3>Checks, each to be ticked <ActButton v-if="waiting && good.length" @click="takeGood">Take the {{ good.length }} that {{ good.length === 1 ? 'is' : 'are' }} good</ActButton></h3>
        <ul class="checks">
          <li v-for="check in looked.sheet.checks" :key="check.code" :class="{ wrong: !check.good }">
            <TickField v-if="waiting" :value="looked.ticks.includes(check.code)" :save="(on) => tick(check.code, on)">{{ check.what }}</TickField><span v-else>{{ check.what }}</span>
            <span class="told">{{ check.good ? '' : 'look: ' }}{{ check.told }}</span>
          </li>
        </ul>
        <FoldSection v-if="waiting" title="Looked at by hand" :says="`${looked.by_hand.length} of ${looked.sheet.checks.length}`" name="by hand" folded>
          <p class="soft">What is not is taken as it was worked out, in one press, where that is good.</p>
          <ul class="checks"><li v-for="check in looked.sheet.checks" :key="check.code"><TickField :label="`${check.what}, by hand`" :value="looked.by_hand.includes(check.code)" :save="(on) => lookByHand(check.code, on)">{{ check.what }}</TickField></li></ul>
        </FoldSection>
      </template>
      <template v-else-if="joint">
        <h2>Numbers {{ joint.shown.members.join(', ') }}</h2>
        <p class="soft">Laid together; {{ [...new Set(joint.shown.states)].join(', ') }}</p>
        <ul class="checks"><li v-for="check in joint.sheet.checks" :key="check.code" :class="{ wrong: !check.good }">{{ check.what }}<span class="told">{{ check.told }}</span></li></ul>
      </template>
      <template v-if="sheet">
        <p class="soft">{{ sheet.machine }}, {{ minutes(sheet.seconds) }}, as {{ sheet.file }}.</p>
        <p v-if="rated.length" class="soft">Costs {{ priced(rated.reduce((sum, { total }) => sum + (total ?? 0), 0), sheet.money) }}{{ rated.length < sheet.costs.length ? ', without what has no rate' : '' }}.</p>
        <ul v-if="sheet.findings.length" class="found"><li v-for="text in sheet.findings.slice(0, 6)" :key="text">{{ text }}</li></ul>
        <p v-if="looked && looked.shown.together && !joint" class="soft">It is laid together with others: <ActButton @click="openJoint">look at all of them</ActButton></p>
        <template v-if="looked && waiting && !looked.shown.together">
          <FoldSection title="Set up otherwise" name="set-up" folded>
            <div class="stack">
              <ChoiceField label="On the machine" :value="unchosen" :empty="sheet.machine" :options="looked.machines.map(({ id }) => id)" :names="Object.fromEntries(looked.machines.map(({ id, name }) => [id, name]))" :save="(machine) => setUp({ machine: machine ?? '' })" />
              <ChoiceField label="Datum at the" :value="unchosen" empty="as it is" :options="['bottom left', 'bottom right', 'top right', 'top left']" :save="(datum) => setUp({ datum: datum as Schemas['SetUp']['datum'] })" />
              <ChoiceField label="Holding tabs" :value="sheet.holding.how" :options="['none', 'by count', 'by distance']" :save="(how) => setUp({ holding: { ...sheet!.holding, how } })" />
              <PlainField v-if="sheet.holding.how === 'by count'" label="How many each" :value="sheet.holding.count" :most="40" :save="(count) => setUp({ holding: { ...sheet!.holding, count: Number(count) } })" />
            </div>
          </FoldSection>
          <p class="in-line acts"><ActButton look="main" @click="release">Release to the machine</ActButton></p>
          <form class="in-line" @submit.prevent="giveBack"><TextInput v-model="why" label="Why it goes back" placeholder="Why it goes back" :most="400" /><ActButton look="ink" submits>Return it</ActButton></form>
        </template>
        <p v-if="joint && !released" class="in-line acts"><ActButton look="main" @click="withAll('release')">Release them all</ActButton><ActButton @click="withAll('apart')">Lay them alone again</ActButton></p>
        <h3>To gather</h3>
        <ul class="gather">
          <li v-for="row in sheet.gather" :key="row.part"><strong>{{ row.owner }}</strong>: {{ row.called }} × {{ row.copies.length }}
            <span v-if="released" class="in-line"><TickField v-for="copy in row.copies" :key="copy" :label="`${row.called} ${copy} failed`" :value="failed.includes(`${row.part}#${copy}`)" :save="(on) => fail(row.part, copy, on)">{{ copy }} failed</TickField></span>
          </li>
        </ul>
        <p v-if="released && !looked?.shown.together" class="in-line acts"><ActButton look="ink" @click="looked ? wasCut() : withAll('cut')">{{ failed.length ? `Cut, but for ${failed.length} that failed` : 'All of it is cut' }}</ActButton> <ActButton @click="looked ? callBack() : withAll('call back')">Call it back to the desk</ActButton></p>
        <p v-if="over" class="acts"><ActButton @click="deleteIt">Delete it</ActButton></p>
        <FoldSection v-if="looked" title="What has happened" name="log" folded><ol class="log"><li v-for="line in looked.log" :key="line">{{ line }}</li></ol></FoldSection>
      </template>
    </aside>
  </main>
</template>

<style scoped>
.desk { height: var(--page); display: grid; grid-template: 46px fit-content(46%) minmax(0, 1fr) / minmax(0, 1fr) 340px; }
.left { padding: 8px 10px; overflow-y: auto; }
.filters { gap: 4px 14px; margin-bottom: 6px; }
.middle { grid-column: 1; grid-row: 3; min-width: 0; min-height: 0; position: relative; border-top: 1px solid var(--ink); }
.says { position: absolute; left: 30%; top: 45%; color: var(--soft-ink); }
aside { grid-column: 2; grid-row: 2 / 4; border-left: 1px solid var(--ink); padding: 8px 12px 16px; overflow-y: auto; background: var(--ground); }
.soft { color: var(--soft-ink); font-size: 12px; }
.checks, .gather, .joint { list-style: none; margin: 4px 0; padding: 0; }
.checks li { display: grid; }
.checks .told { color: var(--soft-ink); font-size: 12px; padding-left: 22px; }
.checks .wrong .told { color: var(--wrong); }
.found { margin: 4px 0; padding-left: 16px; color: var(--wrong); font-size: 12.5px; }
.acts { margin: 8px 0; }
.log { margin: 0; padding-left: 16px; font-size: 12px; color: var(--soft-ink); }
@media (max-width: 900px) {
  .desk { height: auto; grid-template: auto auto max(300px, 60vh) auto / minmax(0, 1fr); }
  aside { grid-column: 1; grid-row: 4; border-left: 0; border-top: 1px solid var(--ink); }
}
</style>
