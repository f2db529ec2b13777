<script setup lang="ts">
import { ElButton } from 'element-plus'

/**
 * Something to press: as a word in the text (`plain`), as a frame (`ink`), as the next step (`main`), or as whatever
 * stands in it (`bare`). With `pressed` it is one of several that are on or off.
 */
withDefaults(defineProps<{ look?: 'plain' | 'ink' | 'main' | 'bare'; pressed?: boolean | null; submits?: boolean }>(), { look: 'plain', pressed: null })
</script>

<template>
  <ElButton class="act" :class="[look, { on: pressed }]" :aria-pressed="pressed === null ? undefined : pressed" :native-type="submits ? 'submit' : 'button'"><slot /></ElButton>
</template>
