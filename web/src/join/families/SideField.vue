<script setup lang="ts">
import type { Side } from '../../api/client'
import ChoiceField from '../../kit/ChoiceField.vue'
import { SIDES } from '../edit'

/** Which side of a part a joint is on. */
defineProps<{ label: string; side: Side; save: (side: Side) => void }>()
</script>

<template>
  <ChoiceField :label="label" :value="side" :options="SIDES" :save="save" />
</template>
