/** What the interface and its service worker agree on. */

/** Where answers are kept for reading without the server; emptied when somebody signs out. */
export const SEEN = 'saltline-seen'

/** On an answer from there: when it was fetched. */
export const KEPT_HEADER = 'x-saltline-kept'

/** Tells the service worker that somebody signs out: what is on its way is not kept. */
export const FORGET = 'saltline-forget'
