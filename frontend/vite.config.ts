import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig } from 'vitest/config'

const SERVER_PAGES = 'signing-in.css'

export default defineConfig({
  base: '/static/',
  plugins: [vue(), vuetify({ autoImport: true })],
  build: {
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    rollupOptions: {
      input: ['index.html', 'src/signing-in.css'],
      // the server's own pages name this one
      output: {
        assetFileNames: (asset) => (asset.names.includes(SERVER_PAGES) ? `assets/${SERVER_PAGES}` : 'assets/[name]-[hash][extname]'),
      },
    },
  },
  test: { environment: 'happy-dom', server: { deps: { inline: ['vuetify'] } } },
})
