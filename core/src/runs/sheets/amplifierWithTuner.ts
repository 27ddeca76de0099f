import type { RunSheet } from '../sheet.ts'
import { CLEAR, CONNECTED, HIGH_VOLTAGE, LOCAL_RULES, VOICE_BACK } from './common.ts'

export const amplifierWithTuner: RunSheet = {
  id: 'amplifier-with-tuner',
  version: 1,
  title: 'Amplifier with a separate tuner',
  purpose: 'tune with the exciter alone, then switch the amplifier in',
  needs: ['amplifier', 'tuner'],
  steps: [
    LOCAL_RULES,
    HIGH_VOLTAGE,
    CONNECTED,
    CLEAR,
    { id: 'standby', kind: 'do', title: 'Amplifier in bypass' },
    {
      id: 'tune',
      kind: 'do',
      title: 'With the exciter alone: tune to least reflected',
      state: { amplifier: 'bypass', tuner: 'set', share: 0.5, carrier: true },
      seconds: 20,
    },
    {
      id: 'tuned',
      kind: 'read',
      title: 'Exciter alone: forward and reflected in front of the tuner',
      state: { amplifier: 'bypass', tuner: 'set', share: 0.5, carrier: true },
      place: 'tuner',
      figures: 'both',
      seconds: 5,
      mostSwr: 1.5,
    },
    {
      id: 'good',
      kind: 'decide',
      title: 'Matched?',
      choices: [
        { label: 'Yes: switch the amplifier in' },
        { label: 'Tune again', backTo: 'tune' },
        { label: 'It finds no match: stop', end: 'stopped' },
      ],
    },
    { id: 'in', kind: 'do', title: 'Unkey. Amplifier on' },
    {
      over: 'levels',
      levels: [0.25, 0.5, 1],
      steps: [
        {
          id: 'level',
          kind: 'read',
          title: '{level} drive: output',
          state: { amplifier: 'on', tuner: 'set', carrier: true },
          place: 'output',
          figures: 'both',
          seconds: 5,
          mostSwr: 1.7,
        },
        { id: 'rest', kind: 'hold', title: 'Unkey. Rest', rest: true, seconds: 15 },
      ],
    },
    {
      id: 'steady',
      kind: 'caution',
      title: 'Back off for steady modes',
      text: 'Data, FM and carriers heat everything more than voice does: keep to the amplifier’s ceiling for the mode.',
    },
    { id: 'write', kind: 'do', title: 'Write down the dials', dials: 'tuner' },
    VOICE_BACK,
  ],
}
