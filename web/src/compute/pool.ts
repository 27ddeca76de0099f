/** Workers: each does one task at a time, and waits here between two. */
import { type Remote, wrap } from 'comlink'
import worker from './worker.ts?shared'

export interface Served {
  run: (
    name: string,
    request: unknown,
    progress: (done: number, partial?: unknown) => void,
  ) => unknown
}

export interface Hand {
  worker: Worker
  served: Remote<Served>
}

/** As many wait; a worker costs a few megabytes, and a new one some tens of milliseconds. */
const KEPT = 2

export class Pool {
  private readonly idle: Hand[] = []

  constructor(private readonly begin: () => Worker) {}

  /** One that is free: that which was used last, else a new one. A task never waits for another one. */
  take(): Hand {
    const idle = this.idle.pop()
    if (idle) return idle
    const worker = this.begin()
    return { worker, served: wrap<Served>(worker) }
  }

  /** Its task is done. */
  giveBack(hand: Hand): void {
    hand.worker.onerror = null
    if (this.idle.length < KEPT) this.idle.push(hand)
    else hand.worker.terminate()
  }
}

export const pool = new Pool(() => new Worker(worker, { type: 'module' }))
