import '@fontsource/atkinson-hyperlegible-next/latin-400.css'
import '@fontsource/atkinson-hyperlegible-next/latin-600.css'
import '@fontsource/atkinson-hyperlegible-next/latin-700.css'
import 'vuetify/styles'
import './styles.css'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import { vuetify } from './vuetify'

createApp(App).use(vuetify).use(router).mount('#app')
