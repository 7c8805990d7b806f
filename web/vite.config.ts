import tailwindcss from '@tailwindcss/vite'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

// Setting up a page for each file takes longer than the tests in it: most files take turns in the pages of few workers.
// Those that look at what a whole page shares (open dialogs, keys, what waits to be sent) have one of their own.
const tests = 'src/**/*.test.ts'
const ownPage = [
  'src/shed/shed.test.ts',
  'src/rooms/Parts.test.ts',
  'src/stations/shared/shared.test.ts',
]

// Built straight into the module's classes, so that no old hashed file is left behind.
export default defineConfig({
  plugins: [vue(), tailwindcss()],
  build: { outDir: 'target/classes/static', emptyOutDir: true, assetsInlineLimit: 0 },
  server: { proxy: { '/api': 'http://127.0.0.1:8620' } },
  test: {
    environment: 'jsdom',
    setupFiles: ['src/test/setup.ts'],
    testTimeout: 30_000,
    projects: [
      {
        extends: true,
        test: { name: 'pages', include: [tests], exclude: ownPage, pool: 'vmThreads' },
      },
      { extends: true, test: { name: 'own page', include: ownPage, pool: 'forks' } },
    ],
  },
})
