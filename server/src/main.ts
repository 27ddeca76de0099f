/** The server as a program of its own; as a command of `saltline` it is begun by cli/main.ts. */
import { loadServer } from './loadServer.ts'
import { beginSmall } from './work/memory.ts'

const begun = beginSmall()
await loadServer().serve(process.argv.slice(2), begun)
