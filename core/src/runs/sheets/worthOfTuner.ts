import type { RunSheet } from '../sheet.ts'
import { CLEAR, CONNECTED, LOCAL_RULES } from './common.ts'

export const worthOfTunerByMeter: RunSheet = {
  id: 'worth-of-tuner',
  version: 1,
  title: 'Is the tuner worth it? By meter',
  purpose: 'with and without, read at the antenna’s end of the shack',
  needs: ['tuner'],
  steps: [
    LOCAL_RULES,
    CONNECTED,
    CLEAR,
    {
      over: 'channels',
      steps: [
        {
          id: 'without',
          kind: 'read',
          title: '{level}: without the tuner, at the antenna',
          text: 'Forward less reflected is what goes into the antenna.',
          state: { tuner: 'bypass', share: 0.25, carrier: true },
          place: 'antenna',
          figures: 'both',
          seconds: 5,
        },
        {
          id: 'with',
          kind: 'read',
          title: '{level}: with the tuner set, at the antenna',
          state: { tuner: 'set', share: 0.25, carrier: true },
          place: 'antenna',
          figures: 'both',
          seconds: 5,
        },
        {
          id: 'seen',
          kind: 'read',
          title: '{level}: what the radio sees',
          state: { tuner: 'set', share: 0.25, carrier: true },
          place: 'radio',
          figures: 'both',
          seconds: 5,
        },
      ],
    },
    {
      id: 'verdict',
      kind: 'decide',
      title: 'More at the antenna with it?',
      text: 'Under a decibel nobody hears the difference; the radio may still be glad of the match.',
      choices: [{ label: 'Yes' }, { label: 'No' }, { label: 'Only on some channels' }],
    },
  ],
}
