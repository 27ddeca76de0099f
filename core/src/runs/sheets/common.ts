/** Steps that many sheets have in common. */
import type { RunState, RunStep } from '../sheet.ts'

export const LOCAL_RULES: RunStep = {
  id: 'rules',
  kind: 'caution',
  title: 'Local rules and licensed practice come first',
  text: 'Nobody touches antenna, feed line or an open connector while the key is down: RF burns. Never key without a load.',
}

export const HIGH_VOLTAGE: RunStep = {
  id: 'high-voltage',
  kind: 'caution',
  title: 'High voltage inside the amplifier',
  text: 'It kills, also after it is switched off. Covers stay on; everything here is done from the front panel. Work inside is for qualified people.',
}

export const HOT_LOAD: RunStep = {
  id: 'hot-load',
  kind: 'caution',
  title: 'The dummy load gets hot',
  text: 'Hot enough to burn, oil included. Ventilate, keep to its times, let it cool before it is touched.',
}

export const LINE_SWEEP: RunStep = {
  id: 'sweep',
  kind: 'do',
  title: 'Look along the line with an analyser, if there is one',
  text: 'Switch the transmitter off and make sure that nobody can key it. Discharge the antenna first. Connect the analyser where the line begins, behind the tuner, and connect everything again afterwards. Mend what it finds before anything is keyed.',
  sweep: { of: 'line', farEnd: 'antenna' },
}

export const CONNECTED: RunStep = {
  id: 'connected',
  kind: 'check',
  title: 'Antenna connected, connectors tight',
  text: 'The right antenna port, the right band on tuner and switches.',
  makes: { load: 'antenna' },
}

export const CLEAR: RunStep = {
  id: 'clear',
  kind: 'check',
  title: 'Frequency clear, identified',
  text: 'Listen first. Ask if it is in use, and give your identification as your rules say.',
}

export const VOICE_BACK: RunStep = {
  id: 'voice',
  kind: 'do',
  title: 'Back to the mode that is used, power as set',
  text: 'A power set in a menu may take seconds to appear: wait and look.',
}

export const POWER_DOWN: RunStep = {
  id: 'down',
  kind: 'do',
  title: 'Power down before anything is disconnected',
  makes: { power: 'down' },
}

export const AMPLIFIER_OUT: RunStep = {
  id: 'amplifier-out',
  kind: 'do',
  when: 'amplifier',
  title: 'Amplifier in bypass',
  text: 'Key up. The exciter’s power goes straight through.',
  makes: { amplifier: 'bypass' },
}

export const AMPLIFIER_ON: RunStep = {
  id: 'amplifier-on',
  kind: 'do',
  when: 'amplifier in use',
  title: 'Unkey, amplifier on',
  makes: { amplifier: 'on' },
}

export const TUNER_IN: RunStep = {
  id: 'tuner-in',
  kind: 'do',
  when: 'tuner in use',
  title: 'Tuner in circuit',
  makes: { tuner: 'in' },
}

export const TUNER_OUT: RunStep = {
  id: 'tuner-out',
  kind: 'do',
  when: 'tuner',
  title: 'Tuner in bypass',
  makes: { tuner: 'bypass' },
}

/** Tuner and amplifier as nothing can be hurt: the tuner as the chain has it, the amplifier in bypass. */
export const LOW_POWER_SETUP: readonly RunStep[] = [
  AMPLIFIER_OUT,
  TUNER_IN,
  { ...TUNER_OUT, when: 'tuner not in use' },
]

/** With the exciter alone, at the power that a tuner is set with. */
const EXCITER: RunState = { amplifier: 'bypass', window: true, carrier: true }

/** A tuner is set, and read to be: at low power, with the exciter alone. */
export const TUNE: RunStep = {
  id: 'set-tuner',
  kind: 'do',
  when: 'tuner in use',
  title: 'Tune at low power',
  text: 'Key. An automatic tuner: until it is quiet. By hand: from the dials noted for this channel, to least reflected.',
  tunes: 'tuner',
  state: { ...EXCITER, tuner: 'set' },
  seconds: 20,
}
export const MATCHED: RunStep = {
  id: 'matched',
  kind: 'read',
  when: 'tuner in use',
  title: 'Low power: forward and reflected in front of the tuner',
  state: { ...EXCITER, tuner: 'set' },
  place: 'tuner',
  figures: 'both',
  seconds: 5,
  mostSwr: 2,
}

/** An output network that is tuned for its load, on a quarter of the drive. */
export const RETRIM: RunStep = {
  id: 'retrim',
  kind: 'do',
  when: 'tuned amplifier in use',
  title: 'A quarter of the drive: tune, then load, for most output',
  tunes: 'amplifier',
  state: { carrier: true, share: 0.25 },
  seconds: 15,
}

/** The end of a channel: with the amplifier in bypass the next one can be tuned. */
export const AMPLIFIER_BACK: RunStep = {
  ...AMPLIFIER_OUT,
  id: 'amplifier-back',
  when: 'amplifier in use',
  title: '{level}: unkey, amplifier in bypass again',
}

/** On a channel: tuner set, amplifier on and tuned, read at a quarter. What follows may be keyed at full power. */
export const ON_CHANNEL: readonly RunStep[] = [
  TUNE,
  MATCHED,
  AMPLIFIER_ON,
  RETRIM,
  {
    id: 'quarter',
    kind: 'read',
    title: 'A quarter of the power: forward and reflected',
    state: { carrier: true, share: 0.25 },
    place: 'output',
    figures: 'both',
    seconds: 5,
  },
].map((step) => ({ ...step, title: `{level}: ${lower(step.title)}` }) as RunStep)

/** The first word small, where it follows a channel. */
function lower(title: string): string {
  return title[0]!.toLowerCase() + title.slice(1)
}
