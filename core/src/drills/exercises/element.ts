/** The element of a through-line meter: forward and reflected want different ones. */
import { swrOf } from '../../load/reflection.ts'
import { pick } from '../../statistics/random.ts'
import { between, choices, type Exercise } from './exercise.ts'

const ELEMENTS = [1, 2.5, 5, 10, 25, 50, 100, 250, 500]
/** A needle is read well from here on, as a share of full scale. */
const LEGIBLE = 0.2

export const element: Exercise = {
  id: 'meter-element',
  title: 'The element for a through-line meter',
  goal: 'Choose elements with which forward and reflected power can both be read, read them, and give the SWR.',
  caution: 'Change an element only with the key up: the meter’s line is open without it.',
  lesson:
    'An element is read well in the upper part of its scale and not at all below a tenth of it. Reflected power at a good match is a hundredth of the forward power, so it needs an element of its own. Start with the large one: a needle that hits the stop may not come back.',
  timeS: 150,
  keyDownS: 45,
  asks: [{ id: 'swr', label: 'SWR', unit: '' }],
  sheet: null,
  term: 'Directivity',
  draw(random) {
    const watts = pick(random, [12, 30, 60, 110, 180, 320]) * between(random, 0.9, 1.1)
    const rho = between(random, 0.12, 0.3)
    const watt = (way: number | string) => (way === 'reflected' ? watts * rho * rho : watts)
    return {
      simulation: {
        keyed: true,
        start: { element: 500, way: 'forward' },
        controls: () => [
          {
            id: 'element',
            label: 'Element',
            kind: 'choice',
            cold: true,
            options: choices(ELEMENTS, 'W'),
          },
          {
            id: 'way',
            label: 'Its arrow points',
            kind: 'choice',
            options: [
              { value: 'forward', label: 'to the antenna' },
              { value: 'reflected', label: 'to the radio' },
            ],
          },
        ],
        faces: ({ element }) => [
          { id: 'power', label: 'Power', unit: 'W', full: Number(element), divisions: 50 },
        ],
        sense: (settings) => ({ needles: { power: watt(settings['way']!) }, troubles: [] }),
        advance(memory, settings, seconds) {
          if (settings['keyed'] !== 'yes') return memory
          const way = String(settings['way'])
          const share = watt(way) / Number(settings['element'])
          const seen = Number(memory[way] ?? 0) + (share >= LEGIBLE && share <= 1 ? seconds : 0)
          return { ...memory, [way]: seen }
        },
      },
      facts: [['Radio', `about ${Number(watts.toPrecision(1))} W, steady carrier`]],
      judge(play, { swr }) {
        const true_ = swrOf(rho)
        return [
          {
            what: 'forward read on a scale that shows it',
            ok: Number(play.memory['forward'] ?? 0) > 1,
          },
          {
            what: 'reflected read on a scale that shows it',
            ok: Number(play.memory['reflected'] ?? 0) > 1,
          },
          {
            what: 'SWR within 0.1',
            ok: swr !== undefined && Math.abs(swr - true_) <= 0.1,
          },
        ]
      },
      truth: () => [
        ['Forward', `${watts.toFixed(1)} W`],
        ['Reflected', `${(watts * rho * rho).toFixed(2)} W`],
        ['SWR', swrOf(rho).toFixed(2)],
      ],
    }
  },
}
