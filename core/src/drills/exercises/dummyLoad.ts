/** How long a dummy load may be keyed. */
import { AMBIENT_C } from '../play.ts'
import { between, choices, type Exercise } from './exercise.ts'

export const dummyLoadTime: Exercise = {
  id: 'dummy-load',
  title: 'How long may the dummy load be keyed',
  goal: 'Say for how many seconds 100 W may be keyed into a cold load before it reaches its highest temperature; then key it for most of that time.',
  caution: 'A dummy load burns fingers long after the key is up.',
  lesson:
    'A load that takes the power for ever would settle at air temperature plus watts times kelvins per watt. On the way there it follows an exponential curve: after one time constant it has come 63 % of the way. So t = τ · ln(rise for ever / (rise for ever − rise allowed)), and it cools with the same τ.',
  timeS: 600,
  keyDownS: 300,
  asks: [{ id: 'seconds', label: 'It may be keyed for', unit: 's' }],
  sheet: 'into-dummy-load',
  term: 'Duty cycle',
  draw(random) {
    const kPerW = Number(between(random, 1.6, 2.6).toFixed(2))
    const timeConstantS = Math.round(between(random, 60, 120))
    const mostC = 130
    const rise = 100 * kPerW
    const limitS = timeConstantS * Math.log(rise / (rise - (mostC - AMBIENT_C)))
    return {
      simulation: {
        keyed: true,
        start: { power: 100 },
        controls: () => [
          { id: 'power', label: 'Set power', kind: 'choice', options: choices([25, 50, 100], 'W') },
        ],
        faces: () => [{ id: 'power', label: 'Power', unit: 'W', full: 150, divisions: 30 }],
        sense: ({ power }) => ({
          needles: { power: Number(power) },
          troubles: [],
          heatW: Number(power),
        }),
        heat: { kPerW, timeConstantS, mostC },
      },
      facts: [
        ['Rise', `${kPerW} K per watt`],
        ['Time constant', `${timeConstantS} s`],
        ['Highest temperature', `${mostC} °C, air ${AMBIENT_C} °C`],
      ],
      judge: (play, { seconds }, at) => [
        {
          what: 'time within a tenth',
          ok: seconds !== undefined && Math.abs(seconds / limitS - 1) <= 0.1,
        },
        {
          what: 'keyed at 100 W for half of that time at least',
          ok:
            play.settings['power'] === 100 &&
            Math.max(play.longestS, play.keyedAt === null ? 0 : at - play.keyedAt) >= limitS / 2,
        },
      ],
      truth: () => [
        ['It reaches its highest temperature after', `${limitS.toFixed(0)} s`],
        ['It would settle at', `${(AMBIENT_C + rise).toFixed(0)} °C`],
      ],
    }
  },
}
