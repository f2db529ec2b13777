<script setup lang="ts">
import { defineAsyncComponent, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { client, sentence, type Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import FileLink from '../kit/FileLink.vue'
import FoldSection from '../kit/FoldSection.vue'
import PageHead from '../frame/PageHead.vue'
import GoLink from '../kit/GoLink.vue'
import { tint } from '../look/tint'
import ProgressBar from '../kit/ProgressBar.vue'
import { useRun } from '../state/run'
import { useWorkshop } from '../state/workshop'
import { useLook, type Spot } from '../wayin/look'
import { useTaking } from '../wayin/take'
import { useBodies } from '../wayin/bodies'
import AgainOfIt from '../wayin/AgainOfIt.vue'
import FollowsOfIt from '../wayin/FollowsOfIt.vue'
import MeshOfIt from '../wayin/MeshOfIt.vue'
import MendsOfIt from '../wayin/MendsOfIt.vue'
import PartsOfIt from '../wayin/PartsOfIt.vue'
import RowsOfIt from '../wayin/RowsOfIt.vue'
import SizeOfIt from '../wayin/SizeOfIt.vue'
import TakeIt from '../wayin/TakeIt.vue'
import WayInDrawing from '../wayin/WayInDrawing.vue'

const MeshInSpace = defineAsyncComponent(() => import('../wayin/MeshInSpace.vue'))

/** A drawing that somebody made, before anything of it enters the project: its size, its faults, its parts. */
const route = useRoute()
const router = useRouter()
const workshop = useWorkshop()
const slug = String(route.params.slug)
const id = Number(route.params.id)
const look = useLook(id)
const { shown, trouble } = look
const { chosen, gone, into, onto, stockId, stock, stocks, going, choose, remove, take } = useTaking(id, look)

/** A mesh is seen flat or in space, where one of its bodies and a face can be picked. */
const { bodies, chosen: body, trouble: bodyTrouble, load } = useBodies(id)
const inSpace = ref(false)
const face = shallowRef<[number, number, number] | null>(null)
watch(shown, (now) => { if (now?.is_mesh) void load() })
watch(bodyTrouble, (said) => { if (said) trouble.value = said })

/** A length that is checked: of a line that was pressed, or between two points. */
const line = shallowRef<Schemas['LineShown'] | null>(null)
const by = ref<'line' | 'points'>('line')
const first = ref<Spot | null>(null)

/** What is told of the file and pointed at on the drawing, by its words. */
const pointed = ref('')

/** A file that was just brought is being read: that is followed, and can be stopped. */
const reading = useRun('read')

onMounted(async () => {
  await workshop.open(slug)
  const run = await readBy()
  const ended = run === null ? null : await reading.attend(run)
  if (ended && ended.state !== 'done') trouble.value = ended.message
  else if (!reading.trouble.value && !trouble.value) await look.begin()
})

/** The run that reads the file, if it is not read: one that cannot be read may be gone by now, and its run tells why. */
async function readBy(): Promise<number | null> {
  const told = Number(route.query.run)
  if (told) return told
  const { data, error } = await client.GET('/api/brought/{file_id}/state', { params: { path: { file_id: id } } })
  if (!data) trouble.value = sentence(error)
  return data?.run ?? null
}
watch(() => shown.value?.scale, () => { line.value = null })
watch(by, () => { line.value = first.value = null })

async function spot(at: Spot): Promise<void> {
  if (by.value === 'points' && !first.value) {
    first.value = at
    line.value = null
    return
  }
  line.value = await (first.value ? look.lineAt(first.value, at) : look.lineAt(at))
  first.value = null
}
</script>

<template>
  <div class="way-in">
    <PageHead :title="`Way in: ${shown?.name ?? '…'}`" :back-to="`/projects/${slug}/shape`" back="Back to the project">
      <FileLink :href="`/api/brought/${id}/file`">Save the file</FileLink>
      <span v-if="workshop.document" class="cut-off">Nothing of it is in {{ workshop.document.name }} until you take it.</span>
    </PageHead>
    <main v-if="shown">
      <p v-if="shown.is_mesh" class="which" role="group" aria-label="Shown">
        <ActButton look="bare" :pressed="!inSpace" @click="inSpace = false">Drawing</ActButton>
        <ActButton look="bare" :pressed="inSpace" @click="inSpace = true">In space</ActButton>
      </p>
      <MeshInSpace v-if="inSpace && bodies" :bodies="bodies" :chosen="body" :fill="tint(stock ?? undefined)" @choose="(one) => (body = one)" @face="(way) => (face = way)" />
      <WayInDrawing v-else :shown="shown" :chosen="chosen" :line="line?.path ?? ''" :fill="tint(stock ?? undefined)" :first="first" :pointed="pointed" @part="choose" @spot="spot" @turn="look.turn" />
    </main>
    <main v-else class="empty">
      <p v-if="trouble || reading.trouble.value" role="alert">{{ trouble || reading.trouble.value }}</p>
      <p v-if="trouble || reading.trouble.value"><GoLink :to="`/projects/${slug}/way-in`">Bring another file</GoLink></p>
      <template v-else>
        <p role="status">Reading the file …</p>
        <ProgressBar label="How much of it is read" :done="reading.run.value?.progress ?? 0" :ahead="reading.run.value?.ahead" />
        <p v-if="reading.going.value"><ActButton look="ink" :disabled="reading.stopping.value" @click="reading.stop">Stop</ActButton></p>
      </template>
    </main>
    <section v-if="shown" class="side" aria-label="What is in it">
      <div class="facts">
        <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
        <p v-if="look.trying.value" class="in-line" role="status">Trying it so … <ActButton @click="look.leave">Leave it as it was</ActButton></p>
      <MeshOfIt v-if="shown.is_mesh" :look="look" :bodies="bodies ?? []" :chosen="body" :face="face" @choose="(one) => (body = one)" />
      <template v-if="shown.again">
        <h2>What changed</h2>
        <AgainOfIt :again="shown.again" :chosen="chosen" :gone="gone" @choose="choose" @gone="remove" />
      </template>
      <h2>Size first</h2>
      <SizeOfIt :look="look" :line="line" :by="by" @by="(way) => (by = way)" />
      <h2>What is wrong, and its mend</h2>
      <MendsOfIt :look="look" :pointed="pointed" @point="(says) => (pointed = says)" />
      <FoldSection title="What each line is for" name="way-in-rows"><RowsOfIt :look="look" /></FoldSection>
      <h2>Which parts there are</h2>
      <PartsOfIt :look="look" :chosen="chosen" @choose="choose" />
      <h2>They follow the sheet</h2>
      <FollowsOfIt :look="look" />
      <p v-if="workshop.document && !workshop.document.stocks.length && !shown.thicknesses.length" class="why">There is no stock yet to cut them from. <ActButton @click="router.push(`/projects/${slug}/measure`)">Measure one first</ActButton></p>
      </div>
      <TakeIt :shown="shown" :chosen="chosen" :gone="gone.length" :stock="stock?.id ?? null" :by-thickness="stocks" :into="into" :onto="onto" :going="going" @stock="(one) => (stockId = one)" @thickness="(key, one) => (stocks = { ...stocks, [key]: one })" @into="(way) => (into = way)" @onto="(part) => (onto = part)" @take="take" />
    </section>
  </div>
</template>

<style scoped>
.way-in { height: var(--page); display: grid; grid-template: 46px minmax(0, 1fr) / minmax(0, 1fr) 340px; background: var(--ground); }
main { min-width: 0; min-height: 0; position: relative; }
main.empty { display: grid; align-content: start; gap: 10px; }
.which { position: absolute; top: 24px; right: 10px; display: flex; background: var(--paper); border: 1px solid var(--ink); z-index: 3; margin: 0; }
.which .act.el-button { border: 0; background: none; padding: 4px 10px; cursor: pointer; }
.which .act.el-button.on { background: var(--ink); color: var(--paper); }
.side { border-left: 1px solid var(--ink); display: grid; grid-template-rows: minmax(0, 1fr) auto; min-width: 0; min-height: 0; }
.facts { overflow-y: auto; padding: 10px 14px 14px; display: grid; gap: 6px; align-content: start; min-width: 0; }
h2 { margin: 6px 0 0; }
@media (max-width: 900px) {
  .way-in { height: auto; grid-template: auto max(300px, 74vh) auto / minmax(0, 1fr); }
  .side { border-left: 0; border-top: 1px solid var(--ink); }
}
</style>
