<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import ActButton from './ActButton.vue'
import { FUNCTIONS, sizeNames, type SizeName } from './sizeNames'

/** Names that what is being typed at the caret may become; arrow keys go through them, Tab or Enter takes one. */
const props = defineProps<{ text: string; caret: number }>()
const emit = defineEmits<{ take: [text: string, caret: number] }>()

const word = computed(() => /(?:^|[^\w.])([A-Za-z_][\w.]*)$/.exec(props.text.slice(0, props.caret))?.[1] ?? '')
const offers = computed<SizeName[]>(() => {
  const begun = word.value.toLowerCase()
  if (!begun) return []
  return [...sizeNames.value, ...FUNCTIONS].filter(({ name }) => name.toLowerCase().startsWith(begun) && name !== word.value).slice(0, 7)
})
const at = ref(-1)
watch(offers, () => { at.value = -1 })

function take(name: string): void {
  const before = props.text.slice(0, props.caret - word.value.length)
  emit('take', before + name + props.text.slice(props.caret), before.length + name.length)
}

/** Whether a key was for the list. */
function key(event: KeyboardEvent): boolean {
  const count = offers.value.length
  if (!count) return false
  if (event.key === 'ArrowDown') at.value = (at.value + 1) % count
  else if (event.key === 'ArrowUp') at.value = (at.value + count) % (count + 1) - 1
  else if ((event.key === 'Enter' || event.key === 'Tab') && at.value >= 0) take(offers.value[at.value]?.name ?? '')
  else return false
  event.preventDefault()
  return true
}

defineExpose({ key })
</script>

<template>
  <ul v-if="offers.length" class="offers" aria-label="Names">
    <li v-for="(offer, index) in offers" :key="offer.name" :class="{ at: index === at }">
      <ActButton look="bare" tabindex="-1" @mousedown.prevent="take(offer.name)"><b>{{ offer.name }}</b> <span>{{ offer.says }}</span></ActButton>
    </li>
  </ul>
</template>

<style scoped>
.offers { position: absolute; z-index: 6; top: 100%; right: 0; min-width: 180px; list-style: none; margin: 2px 0 0; padding: 2px 0; background: #fff; border: 1px solid var(--ink); font-size: 12px; }
.offers li { padding: 0; }
.offers li.at, .offers li:hover { background: var(--accent-wash); }
.offers .el-button.act.bare { display: flex; width: 100%; justify-content: space-between; gap: 12px; padding: 2px 8px; cursor: pointer; }
.offers span { color: var(--soft-ink); white-space: nowrap; }
</style>
