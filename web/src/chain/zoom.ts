import type { ChannelAnswer } from './answers.ts'

/** Below this part of the setting the band is too thin to read, and a closer look is offered. */
const THIN = 0.4

/** A round top for a closer look at what little leaves the radio, W; null where the band is thick. */
export function zoomOf(settingW: number, answer: ChannelAnswer | null): number | null {
  if (!answer?.ok) return null
  const most = Math.max(...answer.solution.planes.map((plane) => plane.netW))
  if (!(most > 0) || most > THIN * settingW) return null
  const magnitude = 10 ** Math.floor(Math.log10(most))
  return [1, 1.5, 2, 3, 5, 7.5, 10].map((m) => m * magnitude).find((w) => w >= most)!
}
