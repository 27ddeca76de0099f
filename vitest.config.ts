import { defineConfig } from 'vitest/config'
import { sharedWorker } from './web/sharedWorker.ts'

const shared = {
  setupFiles: ['scripts/properties.ts'],
  // However slow the machine is, a test that gets on may go on; one that hangs ends.
  testTimeout: 900_000,
  hookTimeout: 900_000,
}

export default defineConfig({
  test: {
    // The machine of the tests has two cores; what waits leaves them to a third.
    maxWorkers: 3,
    projects: [
      {
        plugins: [sharedWorker()],
        test: {
          ...shared,
          name: 'plain',
          globalSetup: ['server/build.mjs'],
          include: ['{core,contract,server,web}/test/**/*.test.ts'],
          // Modules are loaded once for all files: no test changes one.
          isolate: false,
        },
      },
      {
        plugins: [sharedWorker()],
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
