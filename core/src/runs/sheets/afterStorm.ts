import type { RunSheet } from '../sheet.ts'
import {
  AMPLIFIER_BACK,
  CLEAR,
  CONNECTED,
  LINE_SWEEP,
  LOCAL_RULES,
  LOW_POWER_SETUP,
  ON_CHANNEL,
} from './common.ts'

export const afterStorm: RunSheet = {
  id: 'after-storm',
  version: 3,
  title: 'After a storm',
  purpose: 'look first, then low power on every channel, then up',
  needs: [],
  steps: [
    LOCAL_RULES,
    {
      id: 'danger',
      kind: 'caution',
      title: 'Wait until it has passed',
      text: 'No thunder about. A wire on the ground may lie on a power line: keep away and call those whose line it is.',
    },
    { id: 'look', kind: 'check', title: 'Antenna, guys, feed line: all where they were' },
    {
      id: 'water',
      kind: 'check',
      title: 'Connectors and boxes outside: dry inside, seals whole',
      text: 'Salt water in a cable shows as loss that grows.',
    },
    { id: 'arrester', kind: 'check', title: 'Arresters: not blackened, not shorted (ohmmeter)' },
    LINE_SWEEP,
    CONNECTED,
    CLEAR,
    ...LOW_POWER_SETUP,
    {
      over: 'channels',
      steps: [
        ...ON_CHANNEL,
        {
          id: 'as-before',
          kind: 'decide',
          title: '{level}: as before the storm?',
          choices: [{ label: 'Yes: go on' }, { label: 'No: stop and look', end: 'stopped' }],
        },
        {
          id: 'full',
          kind: 'read',
          title: '{level}: the power that is used, forward and reflected',
          state: { carrier: true },
          place: 'meter',
          figures: 'both',
          seconds: 5,
          mostSwr: 3,
        },
        AMPLIFIER_BACK,
      ],
    },
  ],
}
