/** What was on its way when somebody signed out is not kept when it comes. */
import type { WorkboxPlugin } from 'workbox-core'

export class Forgetting {
  /** Counts what was forgotten. */
  private times = 0

  /** From now on nothing is kept that was asked for before. */
  forget(): void {
    this.times++
  }

  /** Of a strategy that keeps answers: those that succeeded, and were asked for since. */
  readonly plugin: WorkboxPlugin = {
    requestWillFetch: ({ request, state }) => {
      state!['times'] = this.times
      return Promise.resolve(request)
    },
    cacheWillUpdate: ({ response, state }) =>
      Promise.resolve(response.status === 200 && state!['times'] === this.times ? response : null),
  }
}
