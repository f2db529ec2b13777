<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, defineAsyncComponent } from 'vue'
import { useRoute } from 'vue-router'

import { away } from './api/reach'
import { finding } from './frame/finding'
import { isHeard } from './frame/keys'

const FindInProject = defineAsyncComponent(() => import('./find/FindInProject.vue'))
const FindElsewhere = defineAsyncComponent(() => import('./find/FindElsewhere.vue'))
const route = useRoute()
const inProject = computed(() => route.params.station !== undefined)

useEventListener(window, 'keydown', (event) => {
  if (event.key !== '/' || event.ctrlKey || event.metaKey || !isHeard(event)) return
  event.preventDefault()
  finding.value = true
})

// Nothing leaves this machine by its own address; what goes over a network without encryption is said on every page.
const open = location.protocol === 'http:' && !['127.0.0.1', 'localhost', '[::1]'].includes(location.hostname)
if (open) document.documentElement.style.setProperty('--page', 'calc(100vh - 24px)')
</script>

<template>
  <RouterView />
  <component :is="inProject ? FindInProject : FindElsewhere" v-if="finding" v-model="finding" />
  <p v-if="open" class="open">This connection is open: whoever listens on this network can read the words and the drawings that pass here.</p>
  <p v-if="away" class="away" role="alert">The server does not answer. What is stored is safe; this page goes on by itself when it is back.</p>
</template>

<style scoped>
.open {
  position: fixed; z-index: 20; bottom: 0; left: 0; right: 0; height: 24px; margin: 0; padding: 3px 12px; overflow: hidden;
  background: var(--ink); color: var(--paper); font-size: 12.5px; white-space: nowrap; text-overflow: ellipsis;
}
.away {
  position: fixed; z-index: 30; bottom: 0; left: 0; right: 0; margin: 0; padding: 8px 16px; text-align: center;
  background: var(--wrong); color: var(--paper); font-size: 14px;
}
</style>
