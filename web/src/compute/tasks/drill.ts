/** The slow parts of a drill: what should be read on a sound station, and the debrief. */
import {
  chainUncertainty,
  expectReading,
  type ExpectedReading,
  findDrill,
  type FaultKind,
  type Level,
  type MeterReading,
  practiceMeters,
  strategyNeeds,
  trueNetW,
  type Waypoint,
  waypoints,
} from '@saltline/core'
import type { Task } from '../task.ts'

export interface DrillRequest {
  seed: string
  level: Level
  kind: FaultKind | undefined
  /** What was read, for the debrief; null for what should be read. */
  readings: readonly MeterReading[] | null
}

export interface DrillFigures {
  /** By operating point, plane, and instrument. */
  expected: ExpectedReading[][][] | null
  debrief: { way: Waypoint[]; needs: number | null; netW: number[] } | null
}

const DRAWS = 600

export const drillTask: Task<DrillRequest, DrillFigures> = ({
  seed,
  level,
  kind,
  readings,
}): DrillFigures => {
  const drill = findDrill(seed, level, kind)
  if (readings)
    return {
      expected: null,
      debrief: {
        way: waypoints(drill, readings),
        needs: strategyNeeds(drill),
        netW: trueNetW(drill),
      },
    }
  const { kase } = drill
  const ranges = chainUncertainty(kase.chain, kase.channels, kase.tolerances, { draws: DRAWS })
  return {
    expected: ranges.map(({ planes }, point) =>
      planes.map(({ forwardW, swr }) =>
        practiceMeters.map((meter) =>
          expectReading(
            {
              forwardW: forwardW.median,
              swr: swr.median,
              ranges: { forwardW, swr },
            },
            meter,
            kase.channels[point]!.emission,
          ),
        ),
      ),
    ),
    debrief: null,
  }
}
