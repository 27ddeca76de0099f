import type { RunSheet } from '../sheet.ts'
import { AMPLIFIER_OUT, HOT_LOAD, LOCAL_RULES, POWER_DOWN } from './common.ts'

export const cableAcceptance: RunSheet = {
  id: 'cable-acceptance',
  version: 3,
  title: 'Acceptance of a new or repaired cable',
  purpose: 'look, ohmmeter, SWR into a load, loss: before it goes up',
  needs: ['cable'],
  steps: [
    LOCAL_RULES,
    HOT_LOAD,
    {
      id: 'look',
      kind: 'check',
      title: 'Jacket whole, no kink, connectors straight, pins in the middle',
      text: 'The marking on the jacket is the class that was ordered.',
    },
    {
      id: 'open',
      kind: 'check',
      title: 'Ohmmeter, far end open: no connection',
      text: 'Inner to outer conductor. Bend the connectors while looking.',
    },
    { id: 'short', kind: 'check', title: 'Ohmmeter, far end shorted: less than an ohm' },
    {
      id: 'sweep',
      kind: 'do',
      title: 'Sweep the cable alone, its far end open, if there is an analyser',
      text: 'Its length and its loss are in it, and whatever reflects on the way: a kink, water, a bad connector.',
      sweep: { of: 'cable', farEnd: 'open' },
    },
    AMPLIFIER_OUT,
    {
      id: 'cable-on',
      kind: 'check',
      title: 'The cable between the radio and the dummy load, connectors tight',
      text: 'Nothing else in between but the meter.',
      makes: { load: 'cable' },
    },
    {
      id: 'swr',
      kind: 'read',
      title: 'Into the dummy load through it: SWR on the highest channel',
      text: 'What is expected is what this cable shows when it is as its data say: little over 1 where it is of 50 Ω.',
      state: { load: 'cable', amplifier: 'bypass', carrier: true, share: 0.25 },
      place: 'output',
      figures: 'swr',
      seconds: 5,
      on: 'highest',
    },
    {
      id: 'loss',
      kind: 'do',
      title: 'Measure its loss on the Bench: by substitution, or from one end',
      text: 'The sheet says whether it is as new, aged or to be replaced, and keeps it.',
    },
    {
      id: 'wiggle',
      kind: 'check',
      title: 'Readings stand still while both ends are bent',
    },
    {
      id: 'accepted',
      kind: 'decide',
      title: 'Accepted?',
      choices: [{ label: 'Yes: label it with the date' }, { label: 'No: back', end: 'stopped' }],
    },
    POWER_DOWN,
    { id: 'seal', kind: 'do', title: 'Outdoors: seal the connectors, a drip loop, strain relief' },
  ],
}
