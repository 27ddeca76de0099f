import type { RunSheet } from '../sheet.ts'
import { CLEAR, CONNECTED, LOCAL_RULES, VOICE_BACK } from './common.ts'

/** Two schools: as little as possible, and enough for the sensor. Where a window is known it decides. */
export const automaticTuner: RunSheet = {
  id: 'automatic-tuner',
  version: 1,
  title: 'Automatic tuner without a control lead',
  purpose: 'a carrier inside its window, tune, tune again, along the band, then full power',
  needs: ['automatic tuner'],
  steps: [
    LOCAL_RULES,
    CONNECTED,
    CLEAR,
    {
      id: 'window',
      kind: 'do',
      title: 'Set a steady carrier inside the tuner’s window',
      text: 'Its maker gives the least and the most. Some hold to as little as possible, others to enough for the sensor: with too little it cannot sense the reflection, so take the upper part of the window, never more.',
      state: { window: true, share: 0.15, carrier: true },
    },
    {
      over: 'channels',
      steps: [
        {
          id: 'tune',
          kind: 'hold',
          title: '{level}: key until it has tuned',
          text: 'Listen or look until it is quiet. Then unkey.',
          state: { window: true, share: 0.15, carrier: true },
          seconds: 10,
        },
        {
          id: 'again',
          kind: 'hold',
          title: '{level}: tune again to refine',
          state: { window: true, share: 0.15, carrier: true },
          seconds: 10,
        },
        {
          id: 'tuned',
          kind: 'read',
          title: '{level}: forward and reflected',
          state: { tuner: 'set', window: true, share: 0.15, carrier: true },
          place: 'radio',
          figures: 'both',
          seconds: 5,
          mostSwr: 2,
        },
        {
          id: 'next',
          kind: 'decide',
          title: '{level}: does it hold the match?',
          choices: [
            { label: 'Yes' },
            { label: 'Tune again', backTo: 'tune' },
            { label: 'It finds none: stop', end: 'stopped' },
          ],
        },
      ],
    },
    VOICE_BACK,
    {
      id: 'full',
      kind: 'read',
      title: 'Check at full power',
      text: 'A match found at low power must hold at full: an arc or a heated core shows here.',
      state: { tuner: 'set', carrier: true, share: 1 },
      place: 'radio',
      figures: 'both',
      seconds: 5,
      mostSwr: 2,
    },
  ],
}
