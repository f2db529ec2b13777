<script setup lang="ts">
import type { Schemas } from '../../api/client'
import CornerCuts from '../CornerCuts.vue'
import type { ShapeProps } from './more'

/** Corners of a rectangle that are cut otherwise than by its one radius. */
const props = defineProps<ShapeProps<Schemas['RectangularHole']>>()
</script>

<template>
  <CornerCuts :corners="hole.corners" :value="value" plain="as all" :save="(change) => props.save({ corners: change(hole.corners) })" />
</template>
