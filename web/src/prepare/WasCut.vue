<script setup lang="ts">
import { ref } from 'vue'

import { client } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'
import { useChoice } from '../state/choice'
import { useEdits } from '../state/edits'
import { useWorkshop } from '../state/workshop'

/** The sheet was cut: its parts are counted, and what remains of it goes to the shelf. */
defineProps<{ ready: boolean }>()
const picked = useChoice()
const edits = useEdits()
const workshop = useWorkshop()
const told = ref('')

async function cut(): Promise<void> {
  const number = picked.sheet + 1
  const before = (await client.GET('/api/shelf')).data?.length ?? 0
  const done = await edits.told(edits.cutSheet(number))
  if (!done) return
  const after = (await client.GET('/api/shelf')).data?.length ?? 0
  const gone = after - before
  told.value = `Sheet ${number} is counted as cut${gone > 0 ? `; ${gone === 1 ? 'an offcut' : `${gone} offcuts`} of it went to the shelf` : '; nothing of it is large enough to keep'}.`
}
</script>

<template>
  <p v-if="ready" class="in-line cut"><ActButton look="ink" @click="cut">This sheet was cut</ActButton></p>
  <p v-if="told" role="status" class="explain">{{ told }} <GoLink to="/shelf">The offcut shelf</GoLink> · <GoLink :to="`/projects/${workshop.shown?.slug}/measured`">Measure what was cut</GoLink></p>
</template>

<style scoped>
.cut { margin-top: 12px; }
.explain { color: var(--soft-ink); font-size: 12px; margin-top: 4px; }
</style>
