/** A T network under three knobs, on the real solver. */
import { complex } from '../../complex.ts'
import { solveChain } from '../../chain/solve.ts'
import type { Chain } from '../../chain/chain.ts'
import { setTuner } from '../../tuner/tuner.ts'
import type { TunerStage } from '../../tuner/kinds.ts'
import { formatDb, formatSwr, formatVolt } from '../../units/format.ts'
import type { Settings } from '../play.ts'
import { between, choices, dial, type Exercise } from './exercise.ts'

/** The tuner on the bench. */
export const tuner: TunerStage & { kind: 'tuner'; method: 'network' } = {
  kind: 'tuner',
  method: 'network',
  network: 'T',
  shuntAt: 'either',
  capacitorF: [12e-12, 240e-12],
  coilH: [0.2e-6, 18e-6],
  coilQ: 150,
  capacitorQ: 1500,
}
/** What its capacitors hold, V peak. */
const HOLDS_V = 1000
const POWERS = [5, 10, 25, 50, 100]
const GOOD_SWR = 1.5
const MOST_LOSS_DB = 0.6

/** Knobs run from 0 to 100, coils and capacitors evenly on a logarithmic scale. */
const value = ([least, most]: readonly [number, number], knob: number): number =>
  least * (most / least) ** (knob / 100)

/** The network as three knobs set it. */
export const knobsOf = ({ input, coil, output }: Settings) => [
  {
    place: 'series' as const,
    part: 'capacitor' as const,
    value: value(tuner.capacitorF, Number(input)),
  },
  { place: 'shunt' as const, part: 'coil' as const, value: value(tuner.coilH, Number(coil)) },
  {
    place: 'series' as const,
    part: 'capacitor' as const,
    value: value(tuner.capacitorF, Number(output)),
  },
]

/** The chain of the exercise, solved as its knobs stand. */
export function solveKnobs(load: { rOhm: number; xOhm: number }, hz: number, settings: Settings) {
  const chain: Chain = {
    transmitter: {
      behaviour: 'levelled',
      foldback: [
        [2, 1],
        [3, 0.8],
        [8, 0.5],
      ],
    },
    stages: [tuner],
    load: { kind: 'fixed', ...load },
  }
  return solveChain(chain, {
    frequencyHz: hz,
    powerW: Number(settings['power']),
    mode: 'key-down',
    settings: [{ elements: knobsOf(settings), rho: 0, lossDb: 0, matched: true }],
  })
}

const peakOf = (solution: ReturnType<typeof solveKnobs>): number =>
  Math.max(
    ...solution.stages[0]!.tuner!.elements.filter(({ part }) => part === 'capacitor').map(
      ({ voltageRms }) => voltageRms * Math.SQRT2,
    ),
  )

const MARKS = ['full', 'swr', 'keyed', 'holds', 'cool'] as const
type Mark = (typeof MARKS)[number]

export const handTuner: Exercise = {
  id: 't-network',
  title: 'A T network by hand',
  goal: `Least reflected at 5 or 10 W, then up in steps to 100 W: SWR ${formatSwr(GOOD_SWR)} or better there, with no arc and little heat.`,
  caution: 'Turn the knobs at low power only. A capacitor that arcs at power burns.',
  lesson:
    'A T network matches a load in many ways, and the meter cannot tell the good ones from the bad. Begin with both capacitors large and find the dip with the coil: much capacitance and little coil mean little voltage and little heat. Raise the power in steps, and stop when the reflected power jumps.',
  timeS: 240,
  keyDownS: 90,
  asks: [],
  sheet: 'hand-tuner',
  term: 'SWR',
  draw(random) {
    const hz = 7.6e6
    // A load that the network matches, and well.
    let load = { rOhm: 100, xOhm: 0 }
    for (;;) {
      load = { rOhm: between(random, 15, 220), xOhm: between(random, -120, 120) }
      const best = setTuner(tuner, complex(load.rOhm, load.xOhm), hz, 50)
      if (best.matched && best.lossDb < 0.3) break
    }
    /** What is right of a setting. */
    const marksOf = (settings: Settings, keyed: boolean): Record<Mark, boolean> => {
      const solution = solveKnobs(load, hz, settings)
      const full = settings['power'] === 100
      return {
        full,
        swr: solution.planes[0]!.swr <= GOOD_SWR,
        keyed: full && keyed,
        holds: full && peakOf(solution) <= HOLDS_V,
        cool: solution.stages[0]!.lossDb <= MOST_LOSS_DB,
      }
    }
    const countOf = (marks: Record<Mark, boolean>) => Object.values(marks).filter(Boolean).length
    /** The best that was reached with the key down: it stays when the key goes up, as it must. */
    const bestOf = (memory: Settings): Record<Mark, boolean> | null =>
      memory['full'] === undefined
        ? null
        : (Object.fromEntries(MARKS.map((mark) => [mark, memory[mark] === 'yes'])) as Record<
            Mark,
            boolean
          >)
    return {
      simulation: {
        keyed: true,
        advance(memory, settings) {
          if (settings['keyed'] !== 'yes') return memory
          const marks = marksOf(settings, true)
          const best = bestOf(memory)
          if (best && countOf(best) >= countOf(marks)) return memory
          const kept = MARKS.map((mark) => [mark, marks[mark] ? 'yes' : 'no'] as const)
          return { ...memory, ...Object.fromEntries(kept) }
        },
        start: { power: 5, input: 50, coil: 50, output: 50, range: 10 },
        controls: () => [
          { id: 'power', label: 'Set power', kind: 'choice', options: choices(POWERS, 'W') },
          dial('input', 'Capacitor, transmitter side'),
          dial('coil', 'Coil'),
          dial('output', 'Capacitor, antenna side'),
          {
            id: 'range',
            label: 'Range',
            kind: 'choice',
            options: choices([1, 3, 10, 30, 100], 'W'),
          },
        ],
        faces: ({ range }) => [
          { id: 'forward', label: 'Forward', unit: 'W', full: Number(range), divisions: 50 },
          { id: 'reflected', label: 'Reflected', unit: 'W', full: Number(range), divisions: 50 },
        ],
        sense(settings) {
          const solution = solveKnobs(load, hz, settings)
          const { forwardW, reflectedW } = solution.planes[0]!
          return {
            needles: { forward: forwardW, reflected: reflectedW },
            troubles: peakOf(solution) > HOLDS_V ? ['arc'] : [],
          }
        },
      },
      facts: [
        ['Frequency', '7.6 MHz'],
        ['Capacitors', '12 to 240 pF, 1 kV peak'],
        ['Coil', '0.2 to 18 µH'],
      ],
      judge(play) {
        const now = marksOf(play.settings, play.keyedAt !== null)
        const best = bestOf(play.memory)
        const marks = best && countOf(best) > countOf(now) ? best : now
        return [
          { what: '100 W set', ok: marks.full },
          { what: `SWR ${formatSwr(GOOD_SWR)} or better`, ok: marks.swr },
          { what: 'keyed at 100 W', ok: marks.keyed },
          { what: 'capacitors hold the voltage', ok: marks.holds },
          { what: `no more than ${formatDb(MOST_LOSS_DB)} of heat in the tuner`, ok: marks.cool },
        ]
      },
      truth(play) {
        const solution = solveKnobs(load, hz, play.settings)
        return [
          [
            'Load',
            `${load.rOhm.toFixed(0)} ${load.xOhm < 0 ? '−' : '+'} j${Math.abs(load.xOhm).toFixed(0)} Ω`,
          ],
          ['SWR as set', formatSwr(solution.planes[0]!.swr)],
          ['Tuner loss as set', formatDb(solution.stages[0]!.lossDb)],
          ['Highest capacitor voltage, peak', formatVolt(peakOf(solution))],
          [
            'Least loss that is possible',
            formatDb(setTuner(tuner, complex(load.rOhm, load.xOhm), hz, 50).lossDb),
          ],
        ]
      },
    }
  },
}
