<script setup lang="ts">
import { computed, onUnmounted, ref, shallowRef, watch } from 'vue'

import { client, type Joint, type Schemas } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import FoldSection from '../kit/FoldSection.vue'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'
import { FAMILIES } from './families/families'

/** Joints that would hold brought parts, where their tabs and slots mate or where they stood together. */
const workshop = useWorkshop()
const picked = useChoice()
const edits = useEdits()
type Offer = Schemas['OfferShown']
const offers = shallowRef<Offer[]>([])
const brought = computed(() => workshop.document?.parts.some((part) => part.shape.kind === 'brought') ?? false)

watch(() => [workshop.shown?.slug, workshop.shown?.version, brought.value] as const, async ([slug, version]) => {
  if (!slug || !brought.value) {
    offers.value = []
    return
  }
  const { data } = await client.GET('/api/projects/{slug}/offers', { params: { path: { slug } } })
  if (data && workshop.shown?.version === version) offers.value = data
}, { immediate: true })

async function join({ kind, a, side, b, other }: Offer): Promise<void> {
  const before = new Set(workshop.document?.joints.map((joint) => joint.id))
  if (!await edits.change({ do: 'join as offered', kind, a, side, b, other })) return
  const fresh = workshop.document?.joints.find((joint) => !before.has(joint.id))
  if (fresh) picked.pick({ jointId: fresh.id })
}

/** What is pointed at is shown where it would be: on the drawing, and in space. */
function point(offer: Offer | null): void {
  picked.pick({ pointed: offer ? [{ part: offer.a, side: offer.side }, { part: offer.b, side: offer.other }] : [] })
}
watch(offers, () => { point(null) })
onUnmounted(() => { point(null) })

/** Every place where a joint is offered, in one step that one undo takes back. */
const joining = ref(false)
async function joinAll(): Promise<void> {
  joining.value = true
  await edits.change({ do: 'join all offered' })
  joining.value = false
}

const family = (kind: string): string => FAMILIES[kind as Joint['kind']].name
</script>

<template>
  <FoldSection v-if="offers.length" :title="`Offered for brought parts (${offers.length})`" name="offered">
    <p v-if="offers.length > 1"><ActButton look="ink" :disabled="joining" @click="joinAll">{{ joining ? 'Joining …' : 'Join all that is offered' }}</ActButton></p>
    <ul class="offered">
      <li
        v-for="offer in offers" :key="`${offer.kind}${offer.a}${offer.side}${offer.b}${offer.other}`"
        @pointerenter="point(offer)" @focusin="point(offer)" @pointerleave="point(null)" @focusout="point(null)"
      >
        <p>{{ offer.why }}<template v-if="offer.redrawn.length">; redraws {{ offer.redrawn.join(' and ') }}</template></p>
        <ActButton @click="join(offer)">Join by {{ family(offer.kind).toLowerCase() }}</ActButton>
      </li>
    </ul>
  </FoldSection>
</template>

<style scoped>
.offered { list-style: none; margin: 0; padding: 0; }
li:hover, li:focus-within { background: var(--paper); }
li { padding: 4px 0; border-bottom: 1px solid var(--faint-rule); }
p { margin: 0 0 2px; font-size: 12.5px; }
</style>
