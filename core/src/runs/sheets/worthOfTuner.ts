import type { RunSheet, RunState } from '../sheet.ts'
import { AMPLIFIER_OUT, CLEAR, CONNECTED, LOCAL_RULES, MATCHED, TUNE } from './common.ts'

const exciter = (tuner: RunState['tuner'], share: number): RunState => ({
  tuner,
  amplifier: 'bypass',
  share,
  carrier: true,
})

export const worthOfTunerByMeter: RunSheet = {
  id: 'worth-of-tuner',
  version: 2,
  title: 'Is the tuner worth it? By meter',
  purpose: 'with and without, read at the antenna’s end of the shack',
  needs: ['tuner'],
  steps: [
    LOCAL_RULES,
    CONNECTED,
    CLEAR,
    AMPLIFIER_OUT,
    {
      over: 'channels',
      steps: [
        {
          id: 'bypass',
          kind: 'do',
          title: '{level}: tuner in bypass',
          makes: { tuner: 'bypass' },
        },
        {
          id: 'first',
          kind: 'read',
          title: '{level}: without the tuner, a tenth of the power, at the radio',
          text: 'What the radio sees without it.',
          state: exciter('bypass', 0.1),
          place: 'radio',
          figures: 'both',
          seconds: 5,
        },
        {
          id: 'without',
          kind: 'read',
          title: '{level}: without the tuner, at the antenna',
          text: 'Forward less reflected is what goes into the antenna. Power down before a meter is moved.',
          state: exciter('bypass', 0.25),
          place: 'antenna',
          figures: 'both',
          seconds: 5,
        },
        { id: 'in', kind: 'do', title: '{level}: tuner in circuit', makes: { tuner: 'in' } },
        { ...TUNE, when: 'tuner', title: '{level}: tune at low power' },
        {
          ...MATCHED,
          when: 'tuner',
          title: '{level}: low power, forward and reflected in front of the tuner',
        },
        {
          id: 'with',
          kind: 'read',
          title: '{level}: with the tuner set, at the antenna',
          state: exciter('set', 0.25),
          place: 'antenna',
          figures: 'both',
          seconds: 5,
        },
        {
          id: 'seen',
          kind: 'read',
          title: '{level}: what the radio sees',
          state: exciter('set', 0.25),
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
