import { proxy } from 'comlink'
import { type Hand, type Pool, pool } from './pool.ts'
import type { RequestOf, ResultOf, TaskName } from './tasks.ts'

/** How a request stands. */
export type Run<R> =
  | { state: 'running' }
  | { state: 'done'; value: R }
  | { state: 'problem'; message: string }
  | { state: 'stopped' }

/** What a new request does to the one that runs; see `Runner`. */
export type WhenBusy = 'end' | 'wait'

interface Watch<Q, R> {
  /** It begins anew with each request. */
  progress: (request: Q, done: number, partial?: R) => void
  tell: (request: Q, run: Exclude<Run<R>, { state: 'running' }>) => void
}

/**
 * Runs requests of one task, one at a time; what each came to is told with the request that it belongs to.
 *
 * A request while another runs: `end` ends that one with its worker, which is for long work; `wait` lets it finish, and
 * of all that come meanwhile runs the newest alone, which is for short work that would not be worth a new worker.
 */
export class Runner<Q, R> {
  private hand: Hand | null = null
  private current: Q | null = null
  private waiting: Q | null = null

  constructor(
    private readonly task: string,
    private readonly watch: Watch<Q, R>,
    private readonly whenBusy: WhenBusy,
    private readonly workers: Pool = pool,
  ) {}

  ask(request: Q): void {
    if (this.current !== null && this.whenBusy === 'wait') {
      this.waiting = request
      return
    }
    this.end()
    this.start(request)
  }

  /** Ends what runs, and says so. */
  stop(): void {
    const { current } = this
    this.end()
    if (current !== null) this.watch.tell(current, { state: 'stopped' })
  }

  /** Ends what runs without a word; the worker goes with it. */
  end(): void {
    this.hand?.worker.terminate()
    this.hand = null
    this.current = null
    this.waiting = null
  }

  private start(request: Q): void {
    this.current = request
    this.watch.progress(request, 0)
    const hand = this.workers.take()
    this.hand = hand
    // A worker that cannot even begin answers nothing.
    hand.worker.onerror = ({ message }) => {
      if (this.hand !== hand) return
      this.end()
      this.watch.tell(request, {
        state: 'problem',
        message: message || 'The calculation broke off.',
      })
    }
    const progress = proxy((done: number, partial?: unknown) => {
      // What a task has so far is of the kind that it ends with.
      if (this.hand === hand && this.current === request)
        this.watch.progress(request, done, partial as R)
    })
    hand.served.run(this.task, request, progress).then(
      (value) => this.finish(hand, request, { state: 'done', value: value as R }),
      (error: unknown) =>
        this.finish(hand, request, {
          state: 'problem',
          message: error instanceof Error ? error.message : String(error),
        }),
    )
  }

  private finish(hand: Hand, request: Q, run: Parameters<Watch<Q, R>['tell']>[1]): void {
    if (this.hand !== hand) return
    this.workers.giveBack(hand)
    this.hand = null
    this.current = null
    const next = this.waiting
    this.waiting = null
    this.watch.tell(request, run)
    if (next !== null && this.current === null) this.start(next)
  }
}

/**
 * Does a task once.
 *
 * @throws Error with what the task said
 */
export function runTask<N extends TaskName>(name: N, request: RequestOf<N>): Promise<ResultOf<N>> {
  return new Promise((resolve, reject) => {
    const tell = (_: unknown, run: Run<ResultOf<N>>) => {
      if (run.state === 'done') resolve(run.value)
      else reject(new Error(run.state === 'problem' ? run.message : 'It was stopped.'))
    }
    new Runner<RequestOf<N>, ResultOf<N>>(name, { progress: () => undefined, tell }, 'end').ask(
      request,
    )
  })
}
