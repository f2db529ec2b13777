<script setup lang="ts">
import { ElPopover } from 'element-plus'
import { nextTick, ref, useTemplateRef, watch, type ComponentPublicInstance } from 'vue'
import ActButton from './ActButton.vue'

/** A fact that opens where it stands, with the caret in its field; Escape gives up, closes it and goes back to it. */
defineProps<{ name: string; width: number; bold?: boolean }>()

const open = ref(false)
const fact = useTemplateRef<ComponentPublicInstance>('fact')
const content = ref<HTMLElement | null>(null)

watch(open, async (now) => {
  if (!now) return
  await nextTick()
  const first = content.value?.querySelector<HTMLElement>('input, [aria-pressed="true"], button')
  first?.focus()
  if (first instanceof HTMLInputElement) first.select()
})

/** Its field hears of the key after this, and gives up what was typed before the caret leaves it. */
function close(): void {
  setTimeout(() => {
    open.value = false
    ;(fact.value?.$el as HTMLElement | undefined)?.focus()
  })
}
</script>

<template>
  <ElPopover v-model:visible="open" trigger="click" placement="bottom-start" :width="width" :show-arrow="false" :persistent="false">
    <template #reference>
      <ActButton look="bare" ref="fact" class="fact" :class="{ bold }" :aria-label="name" :aria-expanded="open"><slot name="fact" /></ActButton>
    </template>
    <div ref="content" role="dialog" :aria-label="name" @keydown.esc.capture="close" @keydown.stop><slot /></div>
  </ElPopover>
</template>
