import { createRouter, createWebHistory } from 'vue-router'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: () => import('./pages/ProjectsPage.vue') },
    { path: '/projects/:slug', redirect: (to) => `/projects/${String(to.params.slug)}/shape` },
    { path: '/projects/:slug/way-in', component: () => import('./pages/BroughtPage.vue') },
    { path: '/projects/:slug/way-in/:id', component: () => import('./pages/WayInPage.vue') },
    { path: '/projects/:slug/versions', component: () => import('./pages/VersionsPage.vue') },
    { path: '/projects/:slug/measured', component: () => import('./measured/MeasuredPage.vue') },
    { path: '/projects/:slug/bed', component: () => import('./pages/BedPicturePage.vue') },
    { path: '/projects/:slug/:station', component: () => import('./pages/ProjectPage.vue') },
    { path: '/shelf', component: () => import('./shelf/ShelfPage.vue') },
    { path: '/machine', component: () => import('./device/DevicePage.vue') },
    { path: '/look/:slug', component: () => import('./pages/LookPage.vue') },
    { path: '/queue', component: () => import('./queue/QueuePage.vue') },
    { path: '/day', component: () => import('./queue/DayPage.vue') },
    { path: '/day/:machine', component: () => import('./queue/AtMachinePage.vue') },
    { path: '/enter', component: () => import('./queue/EnterPage.vue') },
    { path: '/service', component: () => import('./service/ServicePage.vue') },
    { path: '/service/:id', component: () => import('./service/EnquiryPage.vue') },
    { path: '/starters', component: () => import('./pages/StartersPage.vue') },
    { path: '/starters/:kind', component: () => import('./pages/StarterPage.vue') },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})
