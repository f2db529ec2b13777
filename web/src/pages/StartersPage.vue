<script setup lang="ts">
import { onBeforeUnmount, reactive, watch } from 'vue'
import { useRoute } from 'vue-router'

import PageHead from '../frame/PageHead.vue'
import { client, sentence } from '../api/client'
import { CANNOT_DRAW } from '../dryfit/scene'
import SpanLabels from '../dryfit/SpanLabels.vue'
import OwnStarters from '../starters/OwnStarters.vue'
import { useGround } from '../starters/ground'
import { useKinds } from '../starters/kinds'
import { needsOf, tintsOf } from '../starters/needs'
import { PLATE, PlatePress, type Plate } from '../starters/plates'
import { useWorkshop } from '../state/workshop'
import GoLink from '../kit/GoLink.vue'

/** Ready designs on one page: each drawn in space as it begins, with its sizes and what it needs. */
const route = useRoute()
const workshop = useWorkshop()
const kinds = useKinds()
const ground = useGround(typeof route.query.into === 'string' ? route.query.into : null)
const { stocks, project, trouble } = ground
const plates = reactive<Record<string, Plate>>({})
const needs = reactive<Record<string, string>>({})
const press = new PlatePress()

const loaded = ground.load()
watch(kinds, async (known) => {
  await loaded
  for (const { key } of known) await draw(key)
}, { immediate: true })
onBeforeUnmount(() => press.dispose())

async function draw(key: string): Promise<void> {
  const starter = ground.begin(key)
  if (!starter) return
  const { data, error } = await client.POST('/api/starters/preview', { body: { starter, stocks: stocks.value, names: [] } })
  if (!data) {
    trouble.value = sentence(error)
    return
  }
  needs[key] = needsOf(data)
  const plate = press.plate(data.fit, tintsOf(data, stocks.value), workshop.unit)
  if (plate) plates[key] = plate
  else trouble.value = CANNOT_DRAW
}
</script>

<template>
  <main class="starters">
    <PageHead :title="project ? `Add a starter to ${project.document.name}` : 'Begin with a starter'">
      <GoLink v-if="project" :to="`/projects/${route.query.into}/shape`">Back to it</GoLink>
    </PageHead>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <nav aria-label="Starters">
      <GoLink v-for="kind in kinds" :key="kind.key" class="plate" :to="{ path: `/starters/${kind.key}`, query: route.query }">
        <span class="picture" :style="{ width: `${PLATE.width}px`, height: `${PLATE.height}px` }">
          <template v-if="plates[kind.key]">
            <img :src="plates[kind.key]!.picture" alt="" :width="PLATE.width" :height="PLATE.height" />
            <SpanLabels :labels="plates[kind.key]!.labels" :width="PLATE.width" :height="PLATE.height" />
          </template>
          <img v-else :src="`/api/starters/${kind.key}/portrait`" alt="" :width="PLATE.width" :height="PLATE.height" />
        </span>
        <strong>{{ kind.title }}</strong>
        <span class="says">{{ kind.says }}</span>
        <span class="needs">{{ needs[kind.key] ?? '…' }}</span>
      </GoLink>
    </nav>
    <p v-if="!stocks.length && kinds.length && !trouble" class="explain">They are drawn as soon as there is a stock to make them of: keep one in the library at the Measure station of any project.</p>
    <OwnStarters />
  </main>
</template>

<style scoped>
.starters { height: var(--page); overflow-y: auto; background: var(--ground); }
nav { display: grid; grid-template-columns: repeat(auto-fill, minmax(400px, 1fr)); max-width: 1280px; margin: 0 auto; }
.plate.go.el-link { display: grid; justify-items: start; padding: 0 18px 14px; color: inherit; text-decoration: none; border-bottom: 1px solid var(--rule); }
.plate.go.el-link:hover { background: var(--paper); }
.plate:hover strong { color: var(--accent); }
.plate:focus-visible { outline-offset: -3px; }
.picture { position: relative; justify-self: center; overflow: hidden; }
strong { font-size: 14px; }
.says { color: var(--soft-ink); min-height: 2.8em; }
.needs { font-weight: 600; margin-top: 2px; }
.explain { color: var(--soft-ink); padding: 0 18px; }
.why { margin: 10px 18px; }
</style>
