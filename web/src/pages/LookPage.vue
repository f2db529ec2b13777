<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { client, sentence, type Shown } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'
import { withUnit } from '../kit/units'
import { tint } from '../look/tint'

/** A project to look at: every part with its sizes, to be printed, or copied to go on from. Nothing can be changed here. */
const route = useRoute()
const router = useRouter()
const shown = shallowRef<Shown | null>(null)
const trouble = ref('')

onMounted(async () => {
  const { data, error } = await client.GET('/api/projects/{slug}', { params: { path: { slug: String(route.params.slug) } } })
  if (data) shown.value = data
  else trouble.value = sentence(error)
})

const unit = computed(() => shown.value?.document.unit ?? 'mm')
const parts = computed(() =>
  (shown.value?.parts ?? []).flatMap((part) => {
    const typed = shown.value?.document.parts.find(({ id }) => id === part.id)
    const stock = shown.value?.document.stocks.find(({ id }) => id === part.stock)
    if (!typed) return []
    const { left, bottom, right, top } = part.bounds
    const edge = Math.max(right - left, top - bottom) * 0.03
    const size = `${withUnit(right - left, unit.value)} × ${withUnit(top - bottom, unit.value)}`
    return [{ ...part, name: typed.name, count: typed.count, stockName: stock?.name ?? '', fill: tint(stock), size, box: `${left - edge} ${-top - edge} ${right - left + 2 * edge} ${top - bottom + 2 * edge}` }]
  }),
)

async function copy(): Promise<void> {
  const { data, error } = await client.POST('/api/projects/{slug}/duplicate', { params: { path: { slug: String(route.params.slug) } } })
  if (data) await router.push(`/projects/${data.slug}/shape`)
  else trouble.value = sentence(error)
}

function print(): void {
  window.print()
}
</script>

<template>
  <main class="look">
    <header>
      <h1>{{ shown?.document.name ?? '…' }}</h1>
      <p class="acts"><ActButton look="ink" @click="print">Print it</ActButton> <ActButton look="ink" @click="copy">Copy it, to go on from</ActButton> <GoLink to="/">All projects</GoLink></p>
    </header>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
    <p v-if="shown" class="soft">Version {{ shown.version }}, {{ parts.length }} kinds of parts, {{ shown.sheets.length }} sheets. {{ shown.document.stocks.map((stock) => `${stock.name}, measured ${withUnit(shown?.stocks[stock.id]?.thickness ?? 0, unit)}`).join('; ') }}.</p>
    <div class="parts">
      <figure v-for="part in parts" :key="part.id">
        <svg :viewBox="part.box" role="img" :aria-label="part.name">
          <path :d="part.path" :fill="part.fill" fill-rule="evenodd" class="outline" vector-effect="non-scaling-stroke" />
          <path :d="part.marks" class="mark" vector-effect="non-scaling-stroke" />
          <line v-for="bend in part.bends" :key="bend.id" :x1="bend.x1" :y1="-bend.y1" :x2="bend.x2" :y2="-bend.y2" class="bend" :class="{ up: bend.up }" vector-effect="non-scaling-stroke" />
        </svg>
        <figcaption><strong>{{ part.name }}</strong> × {{ part.count }}<br />{{ part.size }}, {{ part.stockName }}<template v-for="bend in part.bends" :key="bend.id"><br />{{ bend.called }}: {{ Number(bend.angle.toFixed(2)) }}° {{ bend.up ? 'up' : 'down' }}, R {{ withUnit(bend.radius, unit) }}</template></figcaption>
      </figure>
    </div>
    <ul v-if="shown?.findings.length" class="soft" aria-label="Notes"><li v-for="(finding, index) in shown.findings" :key="index">{{ finding.text }}</li></ul>
  </main>
</template>

<style scoped>
.look { max-width: 1000px; margin: 0 auto; padding: 28px 24px; display: grid; gap: 14px; }
header { display: flex; align-items: center; gap: 18px; }
.acts { margin-left: auto; display: flex; gap: 10px; align-items: center; }
.soft { color: var(--soft-ink); }
.parts { display: grid; grid-template-columns: repeat(auto-fill, minmax(210px, 1fr)); gap: 20px 24px; }
figure { margin: 0; break-inside: avoid; }
svg { width: 100%; height: 150px; }
.outline { stroke: var(--ink); stroke-width: 1.1; }
.mark { fill: none; stroke: #8a5a00; stroke-width: 0.8; }
.bend { stroke: var(--ink); stroke-width: 1; stroke-dasharray: 14 4 2 4 2 4; }
.bend.up { stroke-dasharray: 14 5; }
figcaption { font-size: 12.5px; overflow-wrap: anywhere; }
@media print { .acts { display: none; } }
</style>
