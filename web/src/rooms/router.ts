import { createRouter, createWebHistory } from 'vue-router'
import JobsRoom from './JobsRoom.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/jobs' },
    { path: '/jobs', component: JobsRoom, meta: { title: 'Jobs' } },
    { path: '/jobs/:id(\\d+)/:station(\\d+)?', component: () => import('./JobRoom.vue') },
    { path: '/jobs/:id(\\d+)/chain', component: () => import('./ChainRoom.vue') },
    {
      path: '/machines',
      component: () => import('./MachinesRoom.vue'),
      meta: { title: 'Machines' },
    },
    { path: '/machines/:key', component: () => import('./ProfileEditor.vue') },
    { path: '/media', component: () => import('./MediaRoom.vue'), meta: { title: 'Media' } },
    {
      path: '/media/register',
      component: () => import('./RegisterRoom.vue'),
      meta: { title: 'Register of cards' },
    },
    { path: '/images', component: () => import('./ImagesRoom.vue'), meta: { title: 'Images' } },
    { path: '/crossings/:id(\\d+)', component: () => import('./CrossingRoom.vue') },
    { path: '/parts', component: () => import('./PartsRoom.vue'), meta: { title: 'Parts' } },
    {
      path: '/reckoner',
      component: () => import('./ReckonerRoom.vue'),
      meta: { title: 'Reckoner' },
    },
    { path: '/roms', component: () => import('./RomsRoom.vue'), meta: { title: 'ROM bench' } },
    { path: '/roms/:id(\\d+)', component: () => import('./RomRoom.vue') },
    { path: '/:rest(.*)', component: () => import('./NotThere.vue'), meta: { title: 'Not there' } },
  ],
})
