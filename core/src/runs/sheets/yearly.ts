import type { RunSheet, RunStep } from '../sheet.ts'
import {
  AMPLIFIER_BACK,
  CLEAR,
  CONNECTED,
  LINE_SWEEP,
  LOCAL_RULES,
  LOW_POWER_SETUP,
  ON_CHANNEL,
} from './common.ts'

const reading = (id: string, place: RunStep['place'], where: string): RunStep => ({
  id,
  kind: 'read',
  title: `{level}: ${where}`,
  state: { carrier: true },
  place,
  figures: 'both',
  seconds: 5,
})

export const yearly: RunSheet = {
  id: 'yearly',
  version: 3,
  title: 'Yearly round of the station',
  purpose: 'the same places, the same channels, every year: what grew?',
  needs: [],
  steps: [
    LOCAL_RULES,
    {
      id: 'heights',
      kind: 'caution',
      title: 'Heights and lightning',
      text: 'Nobody climbs alone, nor with thunder about. The arrester and its earth belong to the round.',
    },
    { id: 'earth', kind: 'check', title: 'Earth and arresters: clamps tight, no corrosion' },
    { id: 'outside', kind: 'check', title: 'Seals, drip loops, strain relief, guys' },
    LINE_SWEEP,
    CONNECTED,
    CLEAR,
    ...LOW_POWER_SETUP,
    {
      over: 'channels',
      steps: [
        ...ON_CHANNEL,
        reading('radio', 'radio', 'at the radio, forward and reflected'),
        reading('meter', 'meter', 'at the wattmeter'),
        reading('antenna', 'antenna', 'at the antenna’s end, where it can be reached safely'),
        AMPLIFIER_BACK,
      ],
    },
    { id: 'compare', kind: 'do', title: 'Look at Over the years in the Log: what changed?' },
  ],
}
