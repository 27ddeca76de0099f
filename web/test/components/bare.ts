/** The least that a page needs around it. */
import type { Station } from '@saltline/contract'

/** What runs beside the page: here it never answers. */
export class SilentWorker extends EventTarget {
  postMessage() {}
  terminate() {}
}

/** A station with nothing in it. */
export const station: Station = {
  id: 'station',
  name: 'Skerry',
  place: '',
  note: '',
  swrLimit: 2,
  environment: 'residential',
  currency: '',
  prices: { perM: {} },
  chains: [],
  gear: [],
  antennas: [],
}
