import { proxy, type Remote, wrap } from 'comlink'
import type { Task } from './serve.ts'

/** How a request stands. */
export type Run<R> =
  | { state: 'running'; done: number; partial?: R | undefined }
  | { state: 'done'; value: R }
  | { state: 'problem'; message: string }
  | { state: 'stopped'; partial?: R | undefined }

type Served<Q, R> = Remote<{ run: Task<Q, R> }>

/**
 * Runs requests in a worker of its own, one at a time; every change is told with the request that it belongs to.
 *
 * A request while another runs: `end` ends that one with its worker, which is for long work; `wait` lets it finish, and
 * of all that come meanwhile runs the newest alone, which is for short work that would not be worth a new worker.
 */
export class Runner<Q, R> {
  private worker: Worker | null = null
  private served: Served<Q, R> | null = null
  private current: Q | null = null
  private waiting: Q | null = null
  private partial: R | undefined

  constructor(
    private readonly begin: () => Worker,
    private readonly tell: (request: Q, run: Run<R>) => void,
    private readonly whenBusy: 'end' | 'wait',
  ) {}

  ask(request: Q): void {
    if (this.current !== null && this.whenBusy === 'wait') {
      this.waiting = request
      return
    }
    if (this.current !== null) this.end()
    this.start(request)
  }

  /** Ends what runs, and says so, with what it had so far. */
  stop(): void {
    const { current, partial } = this
    this.end()
    if (current !== null) this.tell(current, { state: 'stopped', partial })
  }

  /** Ends what runs without a word; the worker goes with it. */
  end(): void {
    this.worker?.terminate()
    this.worker = null
    this.served = null
    this.current = null
    this.waiting = null
  }

  private start(request: Q): void {
    this.current = request
    this.partial = undefined
    this.tell(request, { state: 'running', done: 0 })
    const served = (this.served ??= this.connect())
    const progress = proxy((done: number, partial?: R) => {
      if (this.served !== served || this.current !== request) return
      this.partial = partial
      this.tell(request, { state: 'running', done, partial })
    })
    // Comlink's types lose what `Q` is; what is sent is what is asked for.
    const run = served.run as unknown as Task<Q, R>
    Promise.resolve(run(request, progress)).then(
      (value) => this.finish(served, request, { state: 'done', value }),
      (error: unknown) =>
        this.finish(served, request, {
          state: 'problem',
          message: error instanceof Error ? error.message : String(error),
        }),
    )
  }

  private connect(): Served<Q, R> {
    const worker = this.begin()
    this.worker = worker
    // A worker that cannot even begin answers nothing.
    worker.onerror = ({ message }) => {
      const { current } = this
      if (this.worker !== worker || current === null) return
      this.end()
      this.tell(current, { state: 'problem', message: message || 'The calculation broke off.' })
    }
    return wrap<{ run: Task<Q, R> }>(worker)
  }

  private finish(served: Served<Q, R>, request: Q, run: Run<R>): void {
    if (this.served !== served || this.current !== request) return
    this.current = null
    this.tell(request, run)
    const next = this.waiting
    this.waiting = null
    if (next !== null) this.start(next)
  }
}
