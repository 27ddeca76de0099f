import type { ChannelUncertainty } from '@saltline/core'
import type { ChannelAnswer } from './answers.ts'

/** An answer whose figures come with their ranges: every view that shows a spread then shows these. */
export function withRanges(
  answer: ChannelAnswer | null,
  ranges: ChannelUncertainty | undefined,
): ChannelAnswer | null {
  if (!answer?.ok || !ranges || ranges.planes.length !== answer.solution.planes.length)
    return answer
  const { solution, spread } = answer
  return {
    ...answer,
    spread: {
      phaseUnknown: spread?.phaseUnknown ?? false,
      antennaW: ranges.antennaW,
      transmitterNetW: ranges.transmitterNetW,
      planes: ranges.planes.map((plane, k) => {
        const volt = solution.planes[k]!.voltageRms
        return { ...plane, voltageRms: spread?.planes[k]!.voltageRms ?? { low: volt, high: volt } }
      }),
      stages: ranges.stages,
    },
  }
}
