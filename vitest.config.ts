import { defineConfig } from 'vitest/config'

const shared = {
  setupFiles: ['scripts/properties.ts'],
  // Properties and servers share two cores with the browser; a hang still ends.
  testTimeout: 60_000,
  hookTimeout: 60_000,
}

export default defineConfig({
  test: {
    // The machine of the tests has two cores.
    maxWorkers: 2,
    projects: [
      {
        test: {
          ...shared,
          name: 'plain',
          include: ['{core,contract,server,web}/test/**/*.test.ts'],
          // Modules are loaded once for all files: no test changes one.
          isolate: false,
        },
      },
      {
        test: {
          ...shared,
          name: 'components',
          include: ['web/test/**/*.test.tsx'],
          environment: 'happy-dom',
        },
      },
    ],
  },
})
