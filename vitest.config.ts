import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['{core,contract,server,web}/test/**/*.test.ts'],
    setupFiles: ['scripts/properties.ts'],
    // Modules are loaded once for all files: no test changes one. The machine of the tests has two cores.
    isolate: false,
    maxWorkers: 2,
    // Properties and servers share two cores with the browser; a hang still ends.
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
})
