import type { RunSheet } from '../sheet.ts'
import { CLEAR, CONNECTED, LOCAL_RULES } from './common.ts'

export const afterStorm: RunSheet = {
  id: 'after-storm',
  version: 1,
  title: 'After a storm',
  purpose: 'look first, then a tenth of the power, then up',
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
    CONNECTED,
    CLEAR,
    {
      id: 'low',
      kind: 'read',
      title: 'A tenth of the power: forward and reflected',
      state: { share: 0.1, carrier: true },
      place: 'meter',
      figures: 'both',
      seconds: 5,
      mostSwr: 3,
    },
    {
      id: 'as-before',
      kind: 'decide',
      title: 'As before the storm?',
      choices: [{ label: 'Yes: go on' }, { label: 'No: stop and look', end: 'stopped' }],
    },
    {
      over: 'channels',
      steps: [
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
      ],
    },
  ],
}
