<script setup lang="ts" generic="T extends string | number">
import { ElSelectV2 } from 'element-plus'
import { nextTick, onMounted, useTemplateRef, type ComponentPublicInstance } from 'vue'

/** A box of choices, of which one is chosen; it opens with the arrow keys, Enter takes, Escape gives up. */
const props = defineProps<{ id?: string; label?: string; said?: string; value: T | null; choices: { value: T; label: string }[]; empty?: string; save: (value: T) => void }>()

const box = useTemplateRef<ComponentPublicInstance>('box')

function field(): HTMLInputElement | null {
  return (box.value?.$el as HTMLElement | undefined)?.querySelector('input') ?? null
}

/** What is said of it is read aloud with it; the box itself takes no such word. */
onMounted(() => {
  if (props.said) field()?.setAttribute('aria-describedby', props.said)
})

/** A list that has gone has no choice that the caret would be on. */
async function shut(isOpen: boolean): Promise<void> {
  await nextTick()
  if (!isOpen) field()?.removeAttribute('aria-activedescendant')
}

/** Within the open list its keys are its own; closed, it hears only what opens it. */
function keyed(event: KeyboardEvent): void {
  if (!event.ctrlKey && !event.metaKey) event.stopPropagation()
}
</script>

<template>
  <ElSelectV2
    :id="id"
    ref="box"
    class="choice-box"
    :model-value="value ?? undefined"
    :options="choices"
    :aria-label="label"
    :placeholder="empty ?? ''"
    :empty-values="[null, undefined]"
    :persistent="false"
    :fit-input-width="false"
    placement="bottom-end"
    :show-arrow="false"
    popper-class="choices"
    @change="(chosen: T) => props.save(chosen)"
    @visible-change="shut"
    @keydown="keyed"
  />
</template>
