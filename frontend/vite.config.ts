import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  base: '/static/',
  plugins: [vue(), vuetify({ autoImport: true })],
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  test: { environment: 'happy-dom', server: { deps: { inline: ['vuetify'] } } },
})
