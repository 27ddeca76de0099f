/** The server as a program of its own; as a command of `saltline` it is begun by cli/main.ts. */
import { serve } from './serve.ts'

await serve(process.argv.slice(2))
