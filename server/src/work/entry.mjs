// Where a worker thread begins: it reads TypeScript as the server itself does.
import { register } from 'tsx/esm/api'

register()
export const { answer, begin, preview, restore, writeFile } = await import('./worker.ts')
