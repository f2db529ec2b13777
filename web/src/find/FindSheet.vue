<script setup lang="ts">
import { computed, nextTick, onMounted, ref, shallowRef, useId, useTemplateRef, watch } from 'vue'

import ActButton from '../kit/ActButton.vue'
import PaperSheet from '../kit/PaperSheet.vue'
import TextInput from '../kit/TextInput.vue'
import { matching, type Findable } from './matching'

/** Anything by its words: a station, a part, a joint, a setting, something to do. Enter goes there, or does it. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ findables: () => Findable[]; more: () => Promise<Findable[]> }>()
const typed = ref('')
// Before it lies over the page: what is there is what was open.
const all = shallowRef<Findable[]>(props.findables())
const at = ref(0)
const field = useTemplateRef('field')
const id = useId()

const found = computed(() => matching(all.value, typed.value))
watch(found, () => { at.value = 0 })
onMounted(async () => {
  void props.more().then((more) => { all.value = [...all.value, ...more] })
  await nextTick()
  setTimeout(() => field.value?.focus())
})

function key(event: Event | KeyboardEvent): void {
  if (!(event instanceof KeyboardEvent)) return
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (by) {
    event.preventDefault()
    at.value = (at.value + by + found.value.length) % Math.max(1, found.value.length)
  } else if (event.key === 'Enter') {
    event.preventDefault()
    const one = found.value[at.value]
    if (one) void go(one)
  } else if (event.key === 'Escape') open.value = false
}

/** Once the sheet is away, which gives the caret back to where it was. */
async function go(one: Findable): Promise<void> {
  open.value = false
  await nextTick()
  setTimeout(() => void one.go(), 60)
}
</script>

<template>
  <PaperSheet v-model="open" title="Find" width="520">
    <TextInput ref="field" v-model="typed" label="Find anything" placeholder="a part, a joint, a setting, something to do" :most="60" :aria-controls="id" @keydown="key" />
    <ol :id="id" class="found" aria-label="Found">
      <li v-for="(one, index) in found" :key="`${one.words} ${one.where}`" :class="{ on: index === at }">
        <ActButton look="bare" :aria-current="index === at ? 'true' : undefined" @click="go(one)"><b class="cut-off">{{ one.words }}</b> <small>{{ one.where }}</small> <kbd v-if="one.key">{{ one.key }}</kbd></ActButton>
      </li>
    </ol>
    <p v-if="typed.trim() && !found.length" role="status" class="explain">Nothing is called that here. Fewer words find more.</p>
    <p v-else-if="!typed.trim()" class="explain">Up and Down choose, Enter goes there or does it, Esc leaves.</p>
  </PaperSheet>
</template>

<style scoped>
.found { list-style: none; margin: 8px 0 0; padding: 0; }
li { border-top: 1px solid var(--faint-rule); }
li.on { background: var(--accent-wash); }
li :deep(.act.el-button) { display: flex; width: 100%; justify-content: flex-start; border: 0; background: none; padding: 5px 8px; cursor: pointer; }
li :deep(.act.el-button > span) { display: flex; gap: 10px; align-items: baseline; width: 100%; }
b { min-width: 0; }
small { color: var(--soft-ink); white-space: nowrap; }
kbd { margin-left: auto; font: inherit; color: var(--soft-ink); font-size: 11.5px; }
.explain { color: var(--soft-ink); font-size: 12px; margin: 8px 0 0; }
</style>
