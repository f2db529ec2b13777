import '@fontsource-variable/archivo/wdth.css'
import 'element-plus/es/components/dialog/style/css'
import 'element-plus/es/components/popover/style/css'
import './look/theme.css'

import { createPinia } from 'pinia'
import { createApp } from 'vue'

import App from './App.vue'
import { router } from './router'

createApp(App).use(createPinia()).use(router).mount('#app')
