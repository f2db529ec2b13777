import { createRouter, createWebHistory } from 'vue-router'

import ProjectPage from './pages/ProjectPage.vue'
import ProjectsPage from './pages/ProjectsPage.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: ProjectsPage },
    { path: '/projects/:slug', redirect: (to) => `/projects/${String(to.params.slug)}/shape` },
    { path: '/projects/:slug/:station', component: ProjectPage },
    { path: '/starters', component: () => import('./pages/StartersPage.vue') },
    { path: '/starters/:kind', component: () => import('./pages/StarterPage.vue') },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})
