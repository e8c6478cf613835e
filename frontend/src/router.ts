import { createRouter, createWebHistory } from 'vue-router'
import WallView from './views/WallView.vue'

export const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', name: 'wall', component: WallView },
    { path: '/cameras', name: 'cameras', component: () => import('./views/CamerasView.vue') },
    { path: '/members', name: 'members', component: () => import('./views/MembersView.vue') },
    {
      path: '/house',
      name: 'house',
      component: () => import('./views/HouseView.vue'),
      props: (route) => (route.query.job ? { job: Number(route.query.job) } : {}),
    },
    { path: '/phone/:token', name: 'phone', component: () => import('./views/PhoneView.vue'), props: true },
    { path: '/help', name: 'help', component: () => import('./views/HelpView.vue') },
    {
      path: '/jobs/:id(\\d+)/:station(brief|shape|draft|check|make)',
      name: 'job',
      component: () => import('./views/JobView.vue'),
      props: (route) => ({ id: Number(route.params.id), station: route.params.station }),
    },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})
