/** Stations of both generators as a classifier sees them: figures, and the names of answers. */
import {
  type Case,
  type Cause,
  type MeterReading,
  simulateReadings,
  usualTolerances,
} from '@saltline/core'
import { type HiddenKind, type Trial, trialAbroad } from '../../core/bench/abroad.ts'
import { askHome, type AskedHome } from './home.ts'

/** One station that is asked about, or learned from. */
export interface Question {
  /** Those of one group share a classifier. */
  group: string
  features: number[]
  /** What a classifier is to learn: the cause, as finely as it is drawn. */
  truth: string
  kase: Case
  /** Stations of one key share what a diagnosis rests on. */
  key: string
  names: (found: Cause) => boolean
  /** Answers that are not told apart here are one. */
  same: (answer: string) => string
  /** Whether one of these is right. */
  right: (answer: string) => boolean
}

/** Decibels of what is shown over what a sound station of nominal figures shows, and |ρ|. */
function featureOf(reading: MeterReading, sound: MeterReading): number[] {
  const db = (watts: number, of: number) => 10 * Math.log10((watts + 1e-3) / (of + 1e-3))
  const rho = ({ forwardW, reflectedW }: MeterReading) =>
    Math.sqrt(Math.max(0, reflectedW ?? 0) / Math.max(1e-3, forwardW ?? 0))
  return [
    db(reading.forwardW ?? 0, sound.forwardW ?? 0),
    db(reading.reflectedW ?? 0, sound.reflectedW ?? 0),
    rho(reading) - rho(sound),
  ]
}

/** The same station as it is written down, read without a fault. */
function soundReadings({ readings, tolerances, ...kase }: Case): MeterReading[] {
  const exact = { ...tolerances, length: 0, cable: 0, parts: 0, reflection: 0 }
  return simulateReadings(
    { ...kase, tolerances: exact },
    readings.map(({ point, plane, instrument }) => ({ point, plane, instrument })),
    { kind: 'none' },
    1,
  )
}

/** A cause as an answer, without its size. */
function labelOf(cause: Cause, siteOfReading: (reading: number) => string): string {
  switch (cause.kind) {
    case 'loss':
      return `loss ${cause.from}`
    case 'aged':
      return `aged ${cause.stage}`
    case 'transmitter':
      return `transmitter ${cause.point}`
    case 'meter':
      return `meter ${cause.instrument}`
    case 'slip':
      return `slip ${siteOfReading(cause.reading)}`
    default:
      return cause.kind
  }
}

/** Between which of the places that were read a stage is. */
const between = (planes: Iterable<number>) => {
  const read = [...new Set(planes)]
  return (stage: number) => read.filter((plane) => plane <= stage).length
}

/** Sound readings of each group at home, where all of it are read at the same places. */
const soundAtHome = new Map<string, MeterReading[]>()

export function homeQuestion(i: number, seed: number): Question {
  const asked: AskedHome = askHome(i, seed)
  const { kase, key, cause, names } = asked
  const group = `${key} ${kase.readings[0]!.instrument}`
  const sound = soundAtHome.get(group) ?? soundReadings(kase)
  soundAtHome.set(group, sound)
  const place = between(kase.readings.map(({ plane }) => plane))
  const truth = cause.kind === 'loss' ? `loss ${place(cause.from)}` : labelOf(cause, String)
  return {
    ...{ group, truth, kase, key, names },
    same: (answer) => answer,
    right: (answer) => answer === truth,
    features: kase.readings.flatMap((reading, r) => featureOf(reading, sound[r]!)),
  }
}

/** What a sound station abroad shows, by station, emission and site. */
const soundAbroad = new Map<string, MeterReading>()

/** Of all places that may be read on each channel, by the meter in use and by the other one: what was read, and that it was. */
function featuresAbroad({ station, planes, readings, ...trial }: Trial): number[] {
  const [main] = readings.map(({ instrument }) => instrument)
  const others = readings.map(({ instrument }) => instrument).filter((own) => own !== main)
  const kase: Case = { ...trial, readings, tolerances: usualTolerances }
  const keyOf = ({ point, plane, instrument }: MeterReading) =>
    `${station} ${kase.channels[0]!.emission.mode} ${point} ${plane} ${instrument}`
  const unknown = readings.filter((reading) => !soundAbroad.has(keyOf(reading)))
  if (unknown.length > 0)
    soundReadings({ ...kase, readings: unknown }).forEach((sound, i) =>
      soundAbroad.set(keyOf(unknown[i]!), sound),
    )
  const at = (point: number, fits: (reading: MeterReading) => boolean) => {
    const found = readings.find((reading) => reading.point === point && fits(reading))
    return found ? [1, ...featureOf(found, soundAbroad.get(keyOf(found))!)] : [0, 0, 0, 0]
  }
  return [
    ...trial.instruments.flatMap((_, own) => [Number(own === main), Number(others.includes(own))]),
    ...kase.channels.flatMap((_, point) => [
      ...planes.flatMap((plane) =>
        at(point, (reading) => reading.plane === plane && reading.instrument === main),
      ),
      ...at(point, ({ instrument }) => instrument !== main),
    ]),
  ]
}

export function abroadQuestion(kinds: readonly HiddenKind[], seed: number): Question {
  const trial = trialAbroad(kinds, seed)
  const { station, chain, channels, instruments, readings } = trial
  const place = between(readings.map(({ plane }) => plane))
  const names = trial.names[0]!
  const causes: Cause[] = [
    { kind: 'none' },
    ...[null, ...channels.keys()].map((point): Cause => ({ kind: 'transmitter', db: -3, point })),
    ...chain.stages.flatMap((stage, k): Cause[] => [
      { kind: 'loss', from: k, to: k, db: 1, how: 'matched' } as Cause,
      ...(stage.kind === 'line' ? [{ kind: 'aged', stage: k, factor: 2 } as Cause] : []),
    ]),
    { kind: 'antenna', point: null, change: { kind: 'moved', share: 0.03 } } as Cause,
    ...instruments.map(
      (_, instrument): Cause => ({ kind: 'meter', instrument, factor: 2, why: 'off' }) as Cause,
    ),
    { kind: 'averaging', instrument: 3 } as Cause,
    { kind: 'common mode', rho: 0.2 } as Cause,
    ...readings.map((_, reading): Cause => ({ kind: 'slip', reading }) as Cause),
  ]
  const single = new Set(readings.map(({ point }) => point)).size === 1
  const write = (cause: Cause) =>
    labelOf(cause, (reading) => siteOf(readings[reading]!, readings[0]!.instrument))
  // What is named by two causes is learned as the first of them.
  const truth = write(causes.find(names)!)
  const same = (answer: string): string => {
    const [kind, where] = answer.split(' ')
    if (kind === 'loss') return `loss ${place(Number(where))}`
    return kind === 'transmitter' && single ? 'transmitter' : answer
  }
  const right = new Set(causes.filter(names).map((cause) => same(write(cause))))
  return {
    ...{ group: station, truth, names, same, right: (answer) => right.has(answer) },
    key: `${station} ${channels[0]!.emission.mode !== 'FM'}`,
    kase: { ...trial, tolerances: usualTolerances },
    features: featuresAbroad(trial),
  }
}

const siteOf = ({ point, plane, instrument }: MeterReading, main: number) =>
  `${point}/${plane}/${instrument === main}`
