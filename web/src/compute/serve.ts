import { expose } from 'comlink'

/** What a worker does: one request in, one result out, and its progress meanwhile, with what it has so far. */
export type Task<Q, R> = (
  request: Q,
  progress: (done: number, partial?: R) => void,
) => R | Promise<R>

/** Makes a worker of a task. What it throws becomes the message of a problem. */
export const serve = <Q, R>(run: Task<Q, R>): void => expose({ run })
