import type { RunSheet } from '../sheet.ts'
import { CLEAR, CONNECTED, LOCAL_RULES, LOW_POWER_SETUP } from './common.ts'

export const beforeKeying: RunSheet = {
  id: 'before-keying',
  version: 3,
  title: 'Before keying',
  purpose: 'load, connectors, frequency, power: a minute that saves a transmitter',
  needs: [],
  steps: [
    LOCAL_RULES,
    CONNECTED,
    {
      id: 'rated',
      kind: 'check',
      title: 'What is connected is rated for the power',
      shows: 'ratings',
      text: 'Antenna or dummy load, switch, arrester, wattmeter: also what is not in the chain.',
    },
    { id: 'up', kind: 'do', title: 'Switch on only now that all is connected' },
    ...LOW_POWER_SETUP,
    {
      id: 'low',
      kind: 'do',
      title: 'Set a tenth of the power',
      state: { window: true, amplifier: 'bypass' },
      text: 'The lowest sensible power. One set in a menu may take seconds to appear.',
    },
    CLEAR,
    {
      id: 'first',
      kind: 'read',
      title: 'Key briefly: forward and reflected',
      state: { window: true, carrier: true, amplifier: 'bypass' },
      figures: 'both',
      place: 'meter',
      seconds: 5,
      mostSwr: 3,
    },
    {
      id: 'go',
      kind: 'decide',
      title: 'As expected?',
      choices: [{ label: 'Yes: ready' }, { label: 'No: stop and look', end: 'stopped' }],
    },
    {
      id: 'power',
      kind: 'do',
      title: 'Set the power that is used',
      text: 'Set the tuner for its channel first; bring an amplifier in last. Their sheets say how.',
      state: { share: 1 },
    },
  ],
}
