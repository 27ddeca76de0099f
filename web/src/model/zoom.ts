import type { ChannelAnswer } from './answers.ts'

/** Below this part of the setting the band is too thin to read, and a closer look is offered. */
const THIN = 0.4

/** The top of the spine's scale, W: the setting, or what an amplifier puts out. */
export function topOf(settingW: number, answer: ChannelAnswer | null): number {
  if (!answer?.ok) return settingW
  const outputs = answer.solution.stages.map(({ amplifier }) => amplifier?.outputW ?? 0)
  return Math.max(settingW, ...outputs)
}

/** A round top for a closer look at what little leaves the radio, W; null where the band is thick. */
export function zoomOf(topW: number, answer: ChannelAnswer | null): number | null {
  if (!answer?.ok) return null
  const most = Math.max(...answer.solution.planes.map((plane) => plane.netW))
  if (!(most > 0) || most > THIN * topW) return null
  const magnitude = 10 ** Math.floor(Math.log10(most))
  return [1, 1.5, 2, 3, 5, 7.5, 10].map((m) => m * magnitude).find((w) => w >= most)!
}
