/**
 * On a first visit the page asks before the service worker is there to keep what comes. Once it is, it is asked for again,
 * on its way through it: a reload without the server then finds all of it.
 */
const asked = new Set<string>()

const worker =
  typeof navigator !== 'undefined' && 'serviceWorker' in navigator
    ? navigator.serviceWorker
    : undefined

/** Notes an address that was answered past the service worker. */
export function noteFirst(address: string): void {
  if (worker && !worker.controller) asked.add(address)
}

worker?.addEventListener('controllerchange', () => {
  // Read to its end: an answer that nobody reads keeps its connection.
  for (const address of asked)
    void fetch(address)
      .then((answer) => answer.arrayBuffer())
      .catch(() => undefined)
  asked.clear()
})
