import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

// `npm run dev` serves the page with hot reload beside a running `bead serve`.
/** The page holds answers to its schema; what the schema says to people stays behind. */
const wordless = {
  name: 'wordless-schema',
  enforce: 'pre' as const,
  transform(code: string, id: string) {
    if (!id.endsWith('page.schema.json')) return
    const words = ['description', 'title', 'additionalProperties', 'minimum', 'maximum', 'exclusiveMinimum']
    const drop = (k: string, v: unknown) => (words.includes(k) && typeof v !== 'object' ? undefined : v)
    return { code: JSON.stringify(JSON.parse(code, drop)), map: null }
  },
}

export default defineConfig({
  plugins: [react(), wordless],
  build: { target: 'es2022', chunkSizeWarningLimit: 2000 },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:7411', ws: true } } },
})
