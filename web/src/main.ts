import '@fontsource-variable/atkinson-hyperlegible-next/wght.css'
import '@fontsource-variable/literata/wght.css'
import '@fontsource-variable/literata/wght-italic.css'
import 'element-plus/theme-chalk/base.css'
import './styles/tokens.css'
import './styles/base.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createRouter, createWebHistory } from 'vue-router'
import App from './App.vue'
import { STATIONS } from './stations'

const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/this-screen', name: 'this-screen', component: () => import('./screen-check/ThisScreen.vue') },
    ...STATIONS.map((s) => ({ path: `/${s.path}`, name: s.path, component: s.load })),
    { path: '/:rest(.*)*', redirect: `/${STATIONS[0]!.path}` },
  ],
})

// over the air a server may be out of reach; beside it that would help nobody
if (location.protocol === 'https:' && 'serviceWorker' in navigator && location.pathname !== '/mirror')
  window.addEventListener('load', () => void navigator.serviceWorker.register('/worker.js').catch(() => undefined))

if (location.pathname === '/mirror') {
  // who looks on has no desk
  void import('./mirror/MirrorPage.vue').then(({ default: page }) => createApp(page).use(createPinia()).mount('#desk'))
} else createApp(App).use(createPinia()).use(router).mount('#desk')
