import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['{core,contract,server,web}/test/**/*.test.ts'],
    setupFiles: ['scripts/properties.ts'],
    // Properties and servers share two cores with the browser; a hang still ends.
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
})
