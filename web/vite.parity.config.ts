// Builds what only computes as one script, so that tests and the bench can run it in a browser without the screens.
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vite'

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: {
    target: 'es2022',
    outDir: 'dist-parity',
    lib: { entry: 'src/checks.ts', name: 'LiveInk', formats: ['iife'], fileName: () => 'live-ink.js' },
  },
})
