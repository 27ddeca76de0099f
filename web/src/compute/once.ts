import { Runner } from './runner.ts'

/**
 * Computes one thing in a worker that ends with it.
 *
 * @throws Error with what the worker said
 */
export function once<Q extends object, R>(begin: () => Worker, request: Q): Promise<R> {
  return new Promise((resolve, reject) => {
    const runner = new Runner<Q, R>(
      begin,
      (_, run) => {
        if (run.state === 'running') return
        runner.end()
        if (run.state === 'done') resolve(run.value)
        else reject(new Error(run.state === 'problem' ? run.message : 'It was stopped.'))
      },
      'end',
    )
    runner.ask(request)
  })
}
