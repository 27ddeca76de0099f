/** The one worker there is: does any task. What a task throws becomes the message of a problem. */
import { expose } from 'comlink'
import type { Task } from './task.ts'
import { tasks } from './tasks.ts'

const served: Record<string, () => Promise<Task<never, unknown>>> = tasks

expose({
  run: async (
    name: string,
    request: never,
    progress: (done: number, partial?: unknown) => void,
  ): Promise<unknown> => (await served[name]!())(request, progress),
})
