/** What must never happen on a run sheet, in words: what is wrong, and the cure. */
import type { ChainDocument } from '@saltline/contract'
import { type Danger, formatPower, formatSwr, type PowerUnit, type Violation } from '@saltline/core'
import { kindName, partName } from './headroomWords.ts'

const loads = {
  antenna: 'the antenna',
  dummy: 'the dummy load',
  cable: 'the cable under test with the dummy load at its far end',
}
const nowhere = (now: string) => (now === 'unknown' ? 'nothing says how it stands' : `it is ${now}`)

const unsetWords = {
  'not tuned': 'The tuner is not set for this channel',
  'match not read': 'Nothing was read yet that shows the tuner’s match',
  'no match': 'The tuner finds no match on this channel',
}

export function violationWords(
  violation: Violation,
  document: ChainDocument,
  power: PowerUnit,
): { why: string; cure: string } {
  const watts = (value: number) => formatPower(value, power)
  switch (violation.rule) {
    case 'load':
      return {
        why: `Nothing is keyed without its load: this step needs ${loads[violation.needs]}, and ${violation.now === 'unknown' ? 'nothing says what is connected' : `${loads[violation.now]} is connected`}.`,
        cure: `A step before it: connect ${loads[violation.needs]}.`,
      }
    case 'amplifier':
      return {
        why: `The amplifier must be ${violation.needs === 'on' ? 'on' : 'in bypass'}; ${nowhere(violation.now)}.`,
        cure: `A step before it: amplifier ${violation.needs === 'on' ? 'on' : 'in bypass'}.`,
      }
    case 'tuner':
      return {
        why: `The tuner must be ${violation.needs === 'in' ? 'in circuit' : 'in bypass'}; ${nowhere(violation.now === 'in' ? 'in circuit' : violation.now)}.`,
        cure: `A step before it: tuner ${violation.needs === 'in' ? 'in circuit' : 'in bypass'}.`,
      }
    case 'which':
      return {
        why: `The chain has more than one ${violation.of}: a sheet cannot say which one it means.`,
        cure: `Make a chain with one ${violation.of} for it.`,
      }
    case 'window':
      return {
        why: `${watts(violation.watts)} would reach the tuner while it is being set; its window ends at ${watts(violation.mostW)}.`,
        cure: 'Use the power for tuning.',
      }
    case 'unset':
      return {
        why: `${unsetWords[violation.why]}${violation.swr === undefined ? '' : ` (SWR ${formatSwr(violation.swr)} at its input)`}: ${watts(violation.setW)} is more than the ${watts(violation.mostW)} that may go into it.`,
        cure:
          violation.why === 'match not read'
            ? 'Read forward and reflected in front of the tuner at low power first.'
            : 'Tune on this channel at low power first, and read the match.',
      }
    case 'amplifier while tuning':
      return {
        why: `${unsetWords[violation.why]}, and the amplifier is on.`,
        cure: 'Amplifier in bypass while the tuner is set; on when its match was read.',
      }
    case 'rating': {
      const { stress, setW } = violation
      return {
        why: `${partName(document, stress.part)}: ${kindName(stress)} over its limit at ${watts(setW)}.`,
        cure: 'Less power, or a shorter time. Headroom says how much is permitted.',
      }
    }
    case 'rest':
      return {
        why: `A part is still warm from the last time: rest another ${Math.ceil(violation.seconds)} s.`,
        cure: 'Rest first.',
      }
    case 'no limits':
      return {
        why: `Nothing says what the meter should show here, and so when to stop: ${violation.why}`,
        cure: 'Give the step an SWR to stop at, and no more than a tenth of the power.',
      }
    case 'in steps':
      return {
        why: `${watts(violation.setW)} at once: without a reading at less, ${watts(violation.mostW)} is the most here.`,
        cure: 'Read at a quarter of the power or less first.',
      }
    case 'retrim':
      return {
        why: 'The amplifier’s output is not tuned for what it feeds now.',
        cure: 'Tune and load it at a quarter of the drive first.',
      }
    case 'power down':
      return {
        why: 'What is connected changes while the power is still up.',
        cure: 'A step before it: power down.',
      }
  }
}

/** A danger of a sheet in one line, for the record. */
export const dangerText = (
  { title, violation }: Danger,
  document: ChainDocument,
  power: PowerUnit,
): string => `${title}: ${violationWords(violation, document, power).why}`.slice(0, 400)
