import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // the Content-Security-Policy allows no data: addresses
  build: { assetsInlineLimit: 0, modulePreload: { polyfill: false } },
})
