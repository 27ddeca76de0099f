/** A server in somebody else’s process, for tests in the browser. */
export { keepPassphrase } from './src/access/passphrase.ts'
export { accessFileOf, openAccess } from './src/access/store.ts'
export { createApp } from './src/app.ts'
export { openDatabase } from './src/db/open.ts'
export { seedDemo } from './src/demo/seed.ts'
export { warmUp } from './src/work/pool.ts'
