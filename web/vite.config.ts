import tailwind from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

const api = `http://127.0.0.1:${process.env['SALTLINE_PORT'] ?? '4173'}`

export default defineConfig({
  plugins: [react(), tailwind()],
  server: { host: '127.0.0.1', proxy: { '/api': { target: api } } },
  build: { target: 'es2023', chunkSizeWarningLimit: 700 },
  worker: { format: 'es' },
})
