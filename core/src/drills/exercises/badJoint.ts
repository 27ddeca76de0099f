/** Which joint of a run reflects, found by its distance on an analyser. */
import { frequencyGrid } from '../../chain/bandSweep.ts'
import type { Chain } from '../../chain/chain.ts'
import type { Cable } from '../../line/cable.ts'
import type { Stage } from '../../stages/stage.ts'
import { normal, pick, seeded } from '../../statistics/random.ts'
import { alongLine, expectedSweep } from '../../sweep/alongLine.ts'
import type { FarEnd } from '../../chain/farEnd.ts'
import { formatLength } from '../../units/format.ts'
import type { Settings, Trace } from '../play.ts'
import { practiceCable } from '../practiceStations.ts'
import { between, choices, type Exercise } from './exercise.ts'

/** Metres that are drawn. */
const DRAWN_M = 90
const LOW_HZ = 10e6
const NOISE = 0.001
const LEAST_DB = -60

/** The line is off the radio. */
const transmitter: Chain['transmitter'] = { behaviour: 'levelled', foldback: [] }

/** What an analyser takes a line for that it knows nothing of but a velocity factor. */
const plainLine = (velocityFactor: number): Chain => {
  const cable: Cable = { z0Ohm: 50, velocityFactor, k1DbPer100m: 0, k2DbPer100m: 0 }
  return {
    transmitter,
    stages: [{ kind: 'line', lengthM: DRAWN_M / 1.25, cable }],
    load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
  }
}

/** What stands on the screen of the analyser as it is set. */
function traceOf(run: Chain, settings: Settings, seed: number): Trace {
  const hz = frequencyGrid(LOW_HZ, Number(settings['until']) * 1e6, Number(settings['points']))
  const sweep = expectedSweep(run, 0, hz, settings['far'] as FarEnd)
  const random = seeded(seed)
  const noisy = (part: Float64Array) => part.map((value) => value + NOISE * normal(random))
  const seen = { frequencyHz: hz, re: noisy(sweep.re), im: noisy(sweep.im) }
  const along = alongLine(plainLine(Number(settings['factor'])), 0, seen, 'load')
  return {
    description: 'Reflection against distance, as the analyser works it out',
    x: along.distanceM,
    xUnit: 'm',
    y: along.measured.map((rho) => Math.max(LEAST_DB, 20 * Math.log10(rho))),
    yUnit: 'dB',
    low: LEAST_DB,
    high: 0,
    remark: `Tells ${formatLength(along.resolutionM)} apart, reaches ${formatLength(along.unambiguousM)}.`,
  }
}

export const badJoint: Exercise = {
  id: 'bad-joint',
  title: 'A bad joint by its distance',
  goal: 'One joint of this run reflects. Set the analyser so that it tells the joints apart and reaches the end, and say which joint it is and how far away.',
  caution: 'Discharge a long outdoor cable before an analyser is put to it.',
  lesson:
    'The span of frequencies decides what is told apart, the number of points how far it reaches: beyond that an echo is drawn too near. Distance is time, so every section needs its own velocity factor: set it so that a place you know, the open end, stands where it is. What lies behind a slower cable is nearer than it looks.',
  timeS: 240,
  keyDownS: 0,
  asks: [
    { id: 'joint', label: 'Joint', unit: '', choices: ['1 to 2', '2 to 3', '3 to 4'] },
    { id: 'metres', label: 'From the analyser', unit: 'm' },
  ],
  sheet: 'after-storm',
  term: 'Distance to fault',
  draw(random, seed) {
    // Of two kinds with unlike velocity factors, so that no one factor is right for all of it.
    const kinds = [practiceCable('foam-10'), practiceCable('pe-5')] as const
    const sections = Array.from({ length: 4 }, (_, i) => ({
      cable: kinds[i % 2]!,
      lengthM: Number(between(random, i % 2 === 0 ? 12 : 4, i % 2 === 0 ? 24 : 9).toFixed(1)),
    }))
    const joint = pick(random, [0, 1, 2])
    const bad: Stage = { kind: 'series', rOhm: between(random, 9, 22), xOhm: 0 }
    const stages = sections.flatMap(({ cable, lengthM }, i): Stage[] => [
      { kind: 'line', cable, lengthM },
      ...(i === joint ? [bad] : []),
    ])
    const run: Chain = { transmitter, stages, load: { kind: 'fixed', rOhm: 75, xOhm: 0 } }
    const metres = sections.slice(0, joint + 1).reduce((sum, { lengthM }) => sum + lengthM, 0)
    return {
      simulation: {
        keyed: false,
        start: { until: 100, points: 51, far: 'antenna', factor: 0.66 },
        controls: () => [
          {
            id: 'until',
            label: `Sweep from ${LOW_HZ / 1e6} MHz to`,
            kind: 'choice',
            options: choices([30, 60, 100, 200, 400], 'MHz'),
          },
          {
            id: 'points',
            label: 'Points',
            kind: 'choice',
            options: [51, 101, 201, 401].map((value) => ({ value, label: String(value) })),
          },
          {
            id: 'far',
            label: 'Far end',
            kind: 'choice',
            options: [
              { value: 'antenna', label: 'the antenna' },
              { value: 'open', label: 'open' },
              { value: 'load', label: 'a 50 Ω load' },
            ],
          },
          {
            id: 'factor',
            label: 'Velocity factor',
            kind: 'knob',
            least: 0.5,
            most: 1,
            step: 0.005,
            unit: '',
          },
        ],
        faces: () => [],
        sense: () => ({ needles: {}, troubles: [] }),
        trace: (settings, count) => traceOf(run, settings, seed + count),
      },
      facts: [
        ...sections.map(
          ({ lengthM, cable }, i) =>
            [
              `Section ${i + 1}`,
              `${formatLength(lengthM)}, velocity factor ${cable.velocityFactor}`,
            ] as const,
        ),
      ],
      judge: (_play, { joint: said, metres: far }) => [
        { what: 'the joint that reflects', ok: said === joint },
        {
          what: 'its distance along the cable within a metre',
          ok: far !== undefined && Math.abs(far - metres) <= 1,
        },
      ],
      truth: () => [
        ['Joint', `${joint + 1} to ${joint + 2}`],
        ['Distance along the cable', formatLength(metres)],
      ],
    }
  },
}
