/** What a worker is asked for: one request in, one result out, and meanwhile how far it is and what it has so far. */
export type Task<Q, R> = (
  request: Q,
  progress: (done: number, partial?: R) => void,
) => R | Promise<R>
