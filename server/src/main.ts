/** The server as a program of its own; as a command of `saltline` it is begun by cli/main.ts. */
import { beginSmall } from './work/memory.ts'

const begun = beginSmall()
const { serve } = await import('./serve.ts')
await serve(process.argv.slice(2), begun)
