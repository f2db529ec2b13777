<script setup lang="ts">
import { ref } from 'vue'

import ActButton from '../kit/ActButton.vue'
import FileField from '../kit/FileField.vue'
import GoLink from '../kit/GoLink.vue'
import TextInput from '../kit/TextInput.vue'
import { useKinds } from '../starters/kinds'
import StarterPictures from '../starters/StarterPictures.vue'
import { DRAWINGS } from '../wayin/bring'

/** Three ways to begin: from a picture, from a file, from a blank part. */
defineProps<{ reading: string; open: (file: File) => Promise<void>; take: (file: File) => Promise<void>; create: (name: string) => Promise<void> }>()
const kinds = useKinds()
const name = ref('')
</script>

<template>
  <section class="ways" aria-label="Begin">
    <div class="way">
      <h2>From a picture</h2>
      <p>A ready design that a few numbers drive: {{ kinds.length }} of them, made to your sizes and your sheet.</p>
      <StarterPictures />
      <GoLink class="all" to="/starters">Begin with a starter</GoLink>
    </div>
    <div class="way">
      <h2>From a file</h2>
      <p>Drop it anywhere on this page: it is read, mended and told before anything becomes a project.</p>
      <FileField label="Bring a drawing that somebody made (SVG, DXF), or a mesh (STL, OBJ, PLY, 3MF, GLB)" :accept="DRAWINGS" :take="take" />
      <FileField label="Open a saved project file" accept=".json,application/json" :take="open" />
      <p v-if="reading" role="status">Reading {{ reading }} …</p>
    </div>
    <div class="way">
      <h2>From a blank part</h2>
      <p>A name, the sheet you have, and the first shape where you put it.</p>
      <label for="new-name">New project</label>
      <TextInput id="new-name" v-model="name" :most="80" placeholder="its name" @keydown.enter="create(name)" />
      <ActButton look="main" @click="create(name)">Begin</ActButton>
    </div>
  </section>
</template>

<style scoped>
.ways { display: grid; grid-template-columns: 1.15fr 1.15fr 0.9fr; border: 1px solid var(--ink); background: var(--paper); }
.way { display: flex; flex-direction: column; align-items: flex-start; gap: 8px; padding: 14px 18px 16px; min-width: 0; }
.way + .way { border-left: 1px solid var(--rule); }
h2 { margin: 0; font-size: 15px; }
p { margin: 0; color: var(--soft-ink); }
.all.go.el-link { margin-top: auto; }
.file-field { width: 100%; }
.file-field:first-of-type :deep(.el-upload-dragger) { min-height: 104px; align-content: center; }
.way .text-input { width: 100%; }
@media (max-width: 900px) {
  .ways { grid-template-columns: 1fr; }
  .way + .way { border-left: 0; border-top: 1px solid var(--rule); }
}
</style>
