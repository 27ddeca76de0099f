import { InputError } from '../errors.ts'
import type { OnePortSweep } from '../formats/touchstone.ts'
import { REFERENCE_OHM } from '../constants.ts'
import type { Stage } from '../stages/stage.ts'
import { formatFrequency } from '../units/format.ts'
import { deembed, deembedSize } from './deembed.ts'

/** A sweep at the feed point, or why the measurement and the cable cannot both be right. */
export type Carried = { possible: true; sweep: OnePortSweep } | { possible: false; message: string }

/**
 * Carries a sweep that was measured in front of some stages through them to the feed point.
 *
 * @param stages from the plane of the measurement to the antenna; none for the feed point itself
 * @param phaseKnown false where only |ρ| was measured: it stands in `re`
 */
export function carryToFeedPoint(
  sweep: OnePortSweep,
  stages: readonly Stage[],
  phaseKnown = true,
): Carried {
  const n = sweep.frequencyHz.length
  const re = new Float64Array(n)
  const im = new Float64Array(n)
  let contradictions = 0
  let first = 0
  for (let i = 0; i < n; i++) {
    const hz = sweep.frequencyHz[i]!
    const measured = { re: sweep.re[i]!, im: sweep.im[i]! }
    let through
    try {
      through = phaseKnown
        ? deembed(stages, hz, REFERENCE_OHM, measured)
        : deembedSize(stages, hz, REFERENCE_OHM, measured.re)
    } catch (error) {
      if (!(error instanceof InputError)) throw error
      return { possible: false, message: error.message }
    }
    const { reflection, possible } = through
    if (!possible && contradictions++ === 0) first = hz
    re[i] = reflection.re
    im[i] = reflection.im
  }
  if (contradictions > 0) {
    const where = `${contradictions} of ${n} points, the first at ${formatFrequency(first)}`
    return {
      possible: false,
      message:
        stages.length === 0
          ? `At ${where}, the antenna would return more than it gets. Check the analyser’s calibration.`
          : `At ${where}, the antenna would have to return more than it gets. Either the stages between lose less than given here (a better or shorter cable), or the sweep was measured somewhere else.`,
    }
  }
  return { possible: true, sweep: { ...sweep, re, im } }
}
