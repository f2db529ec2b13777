<script setup lang="ts">
import { usePicture } from './picture'
import { useWorkshop } from '../state/workshop'

/** The picture of the bed, laid flat, where it lies there: y turned down. */
const workshop = useWorkshop()
const { picture, pixels } = usePicture(() => workshop.shown?.slug)
</script>

<template>
  <image v-if="picture?.flat" :href="pixels(true)" :x="picture.flat.left" :y="-picture.flat.top" :width="picture.flat.right - picture.flat.left" :height="picture.flat.top - picture.flat.bottom" preserveAspectRatio="none" opacity="0.8" class="under" />
</template>

<style scoped>
.under { pointer-events: none; }
</style>
