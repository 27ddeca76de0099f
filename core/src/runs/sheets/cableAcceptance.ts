import type { RunSheet } from '../sheet.ts'
import { HOT_LOAD, LOCAL_RULES, POWER_DOWN } from './common.ts'

export const cableAcceptance: RunSheet = {
  id: 'cable-acceptance',
  version: 1,
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
      id: 'swr',
      kind: 'read',
      title: 'Into the dummy load through it: SWR on the highest channel',
      text: 'A good cable on a good load shows little over 1.',
      state: { load: 'dummy', carrier: true, share: 0.25 },
      place: 'output',
      figures: 'swr',
      seconds: 5,
      mostSwr: 1.3,
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
