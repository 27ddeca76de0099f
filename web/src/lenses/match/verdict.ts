/** Is a tuner worth it here? In words. */
import {
  formatDb,
  formatPower,
  type PlaceAnswer,
  type PlaceRanges,
  type PowerUnit,
  type TunerPlace,
} from '@saltline/core'
import { ofSamples } from '../../model/wattsText.ts'

export const placeNames: Record<TunerPlace, string> = {
  none: 'without a tuner',
  radio: 'tuner at the radio',
  feedPoint: 'tuner at the feed point',
}

/** A difference that nobody would do anything for, dB. */
const NOTHING = 0.1

export interface Verdict {
  best: PlaceAnswer
  words: string
}

export function verdictOf(answers: readonly PlaceAnswer[], unit: PowerUnit = 'W'): Verdict {
  const at = (place: TunerPlace) => answers.find((answer) => answer.place === place)!
  const [none, radio, feedPoint] = [at('none'), at('radio'), at('feedPoint')]
  const best = answers.reduce((a, b) => (b.antennaW > a.antennaW ? b : a))
  const over = (other: PlaceAnswer) => 10 * Math.log10(best.antennaW / other.antennaW)
  const watts = (answer: PlaceAnswer) => formatPower(answer.antennaW, unit)
  if (best.place === 'none') {
    const lost = 10 * Math.log10(none.antennaW / radio.antennaW)
    return {
      best,
      words:
        lost < NOTHING
          ? 'A tuner makes no difference here.'
          : `No tuner wins: ${watts(none)} against ${watts(radio)} with one at the radio, which would take ${formatDb(lost)}.`,
    }
  }
  if (over(none) < NOTHING) return { best, words: 'A tuner makes no difference here.' }
  if (best.place === 'radio')
    return {
      best,
      words: `A tuner at the radio wins by ${formatDb(over(none))}: ${watts(radio)} against ${watts(none)} without.`,
    }
  const gain = over(radio)
  return {
    best,
    words:
      gain < NOTHING
        ? `A tuner wins by ${formatDb(over(none))}, ${watts(best)} against ${watts(none)}; at the radio it does as well as at the feed point.`
        : `A tuner at the feed point wins: ${watts(feedPoint)}, ${formatDb(gain)} more than at the radio (${watts(radio)}) and ${formatDb(over(none))} more than without (${watts(none)}).`,
  }
}

/** How often the place that wins is the best of them, in a sentence. */
export function howSureOf(answers: readonly PlaceAnswer[], ranges: readonly PlaceRanges[]): string {
  const { place } = verdictOf(answers).best
  const { best } = ranges.find((own) => own.place === place)!
  const subject = place === 'none' ? 'No tuner is' : `A ${placeNames[place]} is`
  return `Ranges are 5–95 %. ${subject} the best of the three, or within 0.1 dB of it, in ${ofSamples(best)}.`
}
