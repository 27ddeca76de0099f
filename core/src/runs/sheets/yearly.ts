import type { RunSheet } from '../sheet.ts'
import { CLEAR, CONNECTED, LOCAL_RULES } from './common.ts'

export const yearly: RunSheet = {
  id: 'yearly',
  version: 1,
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
    CONNECTED,
    CLEAR,
    {
      over: 'channels',
      steps: [
        {
          id: 'radio',
          kind: 'read',
          title: '{level}: at the radio, forward and reflected',
          state: { carrier: true },
          place: 'radio',
          figures: 'both',
          seconds: 5,
        },
        {
          id: 'meter',
          kind: 'read',
          title: '{level}: at the wattmeter',
          state: { carrier: true },
          place: 'meter',
          figures: 'both',
          seconds: 5,
        },
        {
          id: 'antenna',
          kind: 'read',
          title: '{level}: at the antenna’s end, where it can be reached safely',
          state: { carrier: true },
          place: 'antenna',
          figures: 'both',
          seconds: 5,
        },
      ],
    },
    { id: 'compare', kind: 'do', title: 'Look at Over the years in the Log: what changed?' },
  ],
}
