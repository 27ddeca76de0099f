/** A cable's loss by substitution, and whether it is still what the data sheet says. */
import { lineConstants, matchedLossDb } from '../../line/constants.ts'
import { even, pick } from '../../statistics/random.ts'
import { formatDb } from '../../units/format.ts'
import { practiceCable } from '../practiceStations.ts'
import { between, choices, type Exercise } from './exercise.ts'

const HZ = 28.5e6
const VERDICTS = ['as new', 'aged'] as const

export const substitution: Exercise = {
  id: 'substitution',
  title: 'A cable by substitution',
  goal: 'Read the power through a short lead, then with the cable in between; give its loss, and say whether it is aged.',
  caution: 'Key up before a connector is opened. The dummy load gets hot.',
  lesson:
    'Two readings with the same meter on the same range cancel most of its error: only their ratio counts. Read in the upper part of the scale and at one set power. Half as much again as the data sheet states is more than the scatter of new cables: that one is aged.',
  timeS: 180,
  keyDownS: 45,
  asks: [
    { id: 'lossDb', label: 'Loss of the cable', unit: 'dB' },
    { id: 'verdict', label: 'It is', unit: '', choices: VERDICTS },
  ],
  sheet: 'cable-acceptance',
  term: 'Insertion loss',
  draw(random) {
    const cable = practiceCable(pick(random, ['pe-5', 'foam-7', 'pe-10']))
    const lengthM = Math.round(between(random, 18, 40))
    const sheetDb = matchedLossDb(lineConstants(cable, HZ), lengthM)
    const agedBy = random() < 0.5 ? between(random, 0.96, 1.08) : between(random, 1.6, 2.4)
    const lossDb = sheetDb * agedBy
    const off = 1 + 0.04 * even(random)
    const through = (settings: Readonly<Record<string, number | string>>) =>
      (Number(settings['power']) * off) / (settings['path'] === 'cable' ? 10 ** (lossDb / 10) : 1)
    return {
      simulation: {
        keyed: true,
        start: { power: 50, path: 'lead', range: 100 },
        controls: () => [
          {
            id: 'power',
            label: 'Set power',
            kind: 'choice',
            options: choices([10, 25, 50, 90], 'W'),
          },
          {
            id: 'path',
            label: 'In front of meter and dummy load',
            kind: 'choice',
            cold: true,
            options: [
              { value: 'lead', label: 'short lead' },
              { value: 'cable', label: 'the cable' },
            ],
          },
          { id: 'range', label: 'Range', kind: 'choice', options: choices([10, 30, 100], 'W') },
        ],
        faces: ({ range }) => [
          { id: 'power', label: 'Power', unit: 'W', full: Number(range), divisions: 50 },
        ],
        sense: (settings) => ({
          needles: { power: through(settings) },
          troubles: [],
          heatW: through(settings),
        }),
        heat: { kPerW: 2.2, timeConstantS: 120, mostC: 150 },
      },
      facts: [
        ['Cable', `${lengthM} m of ${cable.name}`],
        ['Frequency', '28.5 MHz'],
        ['Data sheet', `${formatDb(sheetDb)} for this length`],
      ],
      judge: (_play, { lossDb: said, verdict }) => [
        { what: 'loss within 0.3 dB', ok: said !== undefined && Math.abs(said - lossDb) <= 0.3 },
        {
          what: 'said rightly whether it is aged',
          ok: verdict !== undefined && VERDICTS[verdict] === (agedBy > 1.3 ? 'aged' : 'as new'),
        },
      ],
      truth: () => [
        ['Loss', formatDb(lossDb)],
        ['Times the data sheet', agedBy.toFixed(2)],
      ],
    }
  },
}
