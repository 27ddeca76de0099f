import type { TunerPlaces, TunerPlacesRequest } from './tunerPlacesWorker.ts'
import { useWorker } from './useWorker.ts'

const begin = () =>
  new Worker(new URL('./tunerPlacesWorker.ts', import.meta.url), { type: 'module' })

/** A tuner in each place, on every channel; what was found last stays until the next is there. */
export const useTunerPlaces = (request: TunerPlacesRequest) =>
  useWorker<TunerPlacesRequest, TunerPlaces>(begin, request, { whenBusy: 'wait' })
