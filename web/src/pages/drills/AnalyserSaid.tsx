import { type FindDrill, placeName, usualTolerances } from '@saltline/core'
import { useMemo } from 'react'
import { useTask } from '../../compute/useTask.ts'
import { sweepAnswer } from '../../model/lineSweeps.ts'
import {
  analyserPlanes,
  namesBehind,
  practiceSweep,
  USUAL_PLAN,
} from '../../model/practiceAnalyser.ts'
import { useUnits } from '../../platform/preferences.ts'

/** What one sweep from the first place of an analyser would have said, with everything wrong that was. */
export function AnalyserSaid({ drill }: { drill: FindDrill }) {
  const { length } = useUnits()
  const { chain } = drill.station
  const plane = analyserPlanes(chain)[0]
  const request = useMemo(
    () =>
      plane === undefined
        ? null
        : {
            ...{ chain, tolerances: usualTolerances, before: null, plan: USUAL_PLAN },
            ...practiceSweep(drill, drill.faults, { plane, farEnd: 'antenna' }, USUAL_PLAN, 0),
          },
    [drill, chain, plane],
  )
  const { result: along } = useTask('alongLine', request)
  if (plane === undefined || !along) return null
  const stages = namesBehind(drill, plane).map((name) => ({ name }))
  return (
    <p className="mt-2 text-sm">
      <b>The analyser, {placeName(drill, plane)}, would have said:</b>{' '}
      {sweepAnswer(along, stages, 'antenna', length).join(' ')}
    </p>
  )
}
