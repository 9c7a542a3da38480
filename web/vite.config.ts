import { fileURLToPath } from 'node:url'
import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  // Pure functions: one process is enough, and what they import is read once.
  test: { environment: 'node', include: ['src/**/*.test.ts'], pool: 'threads', isolate: false, maxWorkers: 1 },
  build: { target: 'es2022', sourcemap: false, reportCompressedSize: false, assetsInlineLimit: 0, manifest: true },
})
