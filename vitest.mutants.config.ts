/**
 * The tests that `npm run mutants` holds changes against: all of them but what is long, none in a thread of its own. What
 * must never happen on a run sheet is told by nothing else, however long it takes.
 */
import { defineConfig } from 'vitest/config'

/** Said by scripts/mutants.mjs: those alone. */
const some = process.env['MUTANTS_TESTS']

export default defineConfig({
  test: {
    include: some ? some.split(',') : ['{core,contract,server,web}/test/**/*.test.ts'],
    // The examples are read from the text of the sources, which is another one here.
    exclude: ['**/!(runSafety).long.test.ts', '**/node_modules/**', 'core/test/examples.test.ts'],
    setupFiles: ['scripts/properties.ts'],
    globalSetup: ['server/build.mjs'],
    testTimeout: 60_000,
    isolate: false,
  },
})
