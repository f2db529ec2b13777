<script setup lang="ts">
import type { Schemas } from '../api/client'
import { here } from '../frame/here'
import ActButton from '../kit/ActButton.vue'
import GoLink from '../kit/GoLink.vue'
import ProjectActs from './ProjectActs.vue'
import { SHARED_NAMES, standsAt, when, type Listed } from './listed'

/** Projects as pictures: what each looks like, of what it is, how far it has come and when it was changed. */
defineProps<{ projects: Schemas['ProjectListed'][] }>()
const emit = defineEmits<{ remove: [slug: string]; duplicate: [slug: string]; recover: [slug: string]; whose: [project: Listed] }>()

/** Whose it is and what others may do with it, where makers come in by name. */
function saidOf(project: Listed): string {
  if (!here.value?.by_name) return ''
  const whose = project.owner || 'the workshop’s'
  return project.shared === 'nobody' ? whose : `${whose}; shared ${SHARED_NAMES[project.shared]}`
}

function madeOf(project: Listed): string {
  const [first, ...more] = project.stocks
  return first ? `${first}${more.length ? ` and ${more.length} more` : ''}` : 'no stock yet'
}
</script>

<template>
  <ul class="cards" aria-label="Projects">
    <li v-for="project in projects" :key="project.slug" :class="{ wrong: project.trouble }">
      <template v-if="!project.trouble">
        <GoLink class="whole" :to="`/projects/${project.slug}`">
          <img :src="`/api/projects/${project.slug}/portrait?of=${project.state}`" alt="" width="220" height="150" loading="lazy" decoding="async" />
          <strong class="cut-off" :title="project.name">{{ project.name }}</strong>
        </GoLink>
        <span class="told cut-off" :title="project.stocks.join(', ')">{{ madeOf(project) }}</span>
        <span class="told cut-off">{{ standsAt(project) }}<template v-if="project.variant_of">; a variant of {{ project.variant_of }}</template></span>
        <span class="told">{{ when(project.changed) }}<template v-if="project.demo"> · demo</template></span>
        <span v-if="saidOf(project)" class="told cut-off" :title="saidOf(project)">{{ saidOf(project) }}</span>
      </template>
      <template v-else>
        <strong>{{ project.name }}</strong>
        <span>{{ project.trouble }}</span>
        <ActButton v-if="project.readable" @click="emit('recover', project.slug)">Go back to its state of {{ when(project.readable) }}</ActButton>
        <span v-else>No earlier state of it can be read either.</span>
      </template>
      <ProjectActs class="acts" :project="project" @remove="emit('remove', project.slug)" @duplicate="emit('duplicate', project.slug)" @whose="emit('whose', project)" />
    </li>
  </ul>
</template>

<style scoped>
.cards { list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(228px, 1fr)); gap: 1px; padding: 1px; }
li { display: flex; flex-direction: column; gap: 1px; padding: 12px 14px 10px; background: var(--ground); outline: 1px solid var(--rule); min-width: 0; }
li:hover, li:focus-within { background: var(--paper); }
.wrong { gap: 8px; background: var(--wrong-wash); }
.whole.go.el-link { display: block; color: inherit; }
.whole :deep(.el-link__inner) { display: grid; gap: 6px; grid-template-columns: minmax(0, 1fr); justify-items: start; }
img { width: 100%; height: 150px; object-fit: contain; }
strong { font-size: 14px; max-width: 100%; }
.told { color: var(--soft-ink); }
.acts { margin-top: auto; padding-top: 6px; }
</style>
