/** Monte Carlo of a chain, and the weighing of explanations. */
import {
  type Case,
  type Chain,
  chainUncertainty,
  type ChannelUncertainty,
  type Diagnosis,
  type Meter,
  type NextReading,
  nextReadings,
  type OperatingPoint,
  type Tolerances,
  weigh,
} from '@saltline/core'
import { serve } from './serve.ts'

export type UncertaintyRequest =
  | { task: 'ranges'; chain: Chain; at: OperatingPoint[]; tolerances: Tolerances }
  | { task: 'diagnosis'; kase: Case; another: Meter; planes: number[] }

export type UncertaintyResult =
  | { task: 'ranges'; ranges: ChannelUncertainty[] }
  | { task: 'diagnosis'; diagnosis: Diagnosis; next: NextReading[] }

/** On which channel a place is read seldom matters: the best one stands for it. */
const samePlace = (a: NextReading, b: NextReading): boolean =>
  a.plane === b.plane && a.instrument === b.instrument

serve((request: UncertaintyRequest, progress): UncertaintyResult => {
  if (request.task === 'ranges') {
    const { chain, at, tolerances } = request
    return { task: 'ranges', ranges: chainUncertainty(chain, at, tolerances, { progress }) }
  }
  const weighed = weigh(request.kase, progress)
  const next = nextReadings(weighed, request.another, request.planes)
    .filter((own, i, all) => i === all.findIndex((other) => samePlace(own, other)))
    .slice(0, 3)
  return { task: 'diagnosis', diagnosis: weighed.diagnosis, next }
})
