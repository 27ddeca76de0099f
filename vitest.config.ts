import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['{core,contract,server,web}/test/**/*.test.ts'],
    testTimeout: 20_000,
  },
})
