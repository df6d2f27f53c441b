import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

// `npm run dev` serves the page with hot reload beside a running `bead serve`.
export default defineConfig({
  plugins: [react()],
  build: { target: 'es2022', chunkSizeWarningLimit: 2000 },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:7411', ws: true } } },
})
