/** A velocity factor from the dip of an open line. */
import { SPEED_OF_LIGHT } from '../../constants.ts'
import { lineConstants } from '../../line/constants.ts'
import { pick } from '../../statistics/random.ts'
import { practiceCable } from '../practiceStations.ts'
import { between, type Exercise } from './exercise.ts'

export const velocityFactorDip: Exercise = {
  id: 'velocity-factor',
  title: 'A velocity factor from a dip',
  goal: 'Find the lowest frequency at which the open cable looks like a short, and work out its velocity factor.',
  caution: 'Discharge a long outdoor cable before an analyser is put to it.',
  lesson:
    'An open line looks like a short where it is a quarter of a wavelength long. The first dip is the sharpest ruler: velocity factor = 4 · length · frequency / speed of light. Lead and connectors belong to the length.',
  timeS: 180,
  keyDownS: 0,
  asks: [{ id: 'factor', label: 'Velocity factor', unit: '' }],
  sheet: null,
  term: 'Velocity factor',
  draw(random) {
    const cable = practiceCable(pick(random, ['pe-5', 'foam-5', 'foam-7', 'ptfe-5', 'pe-10']))
    const lengthM = Number(between(random, 5, 14).toFixed(2))
    const factor = cable.velocityFactor * between(random, 0.985, 1.015)
    const dipHz = (factor * SPEED_OF_LIGHT) / (4 * lengthM)
    return {
      simulation: {
        keyed: false,
        start: { mhz: 3, far: 'open' },
        controls: () => [
          {
            id: 'mhz',
            label: 'Frequency',
            kind: 'knob',
            least: 2,
            most: 30,
            step: 0.02,
            unit: 'MHz',
          },
          {
            id: 'far',
            label: 'Far end',
            kind: 'choice',
            options: [
              { value: 'open', label: 'open' },
              { value: 'short', label: 'shorted' },
            ],
          },
        ],
        faces: () => [{ id: 'ohm', label: '|Z|', unit: 'Ω', full: 200, divisions: 40 }],
        sense(settings) {
          const hz = Number(settings['mhz']) * 1e6
          const { alpha } = lineConstants(cable, hz)
          const angle = (2 * Math.PI * hz * lengthM) / (factor * SPEED_OF_LIGHT)
          const a = alpha * lengthM
          // |coth| of an open line, |tanh| of a shorted one, on its own impedance.
          const up = Math.hypot(Math.cosh(a) * Math.cos(angle), Math.sinh(a) * Math.sin(angle))
          const down = Math.hypot(Math.sinh(a) * Math.cos(angle), Math.cosh(a) * Math.sin(angle))
          const ratio = settings['far'] === 'open' ? up / down : down / up
          // The scale ends here: high impedances are not an error of use.
          return { needles: { ohm: Math.min(200, cable.z0Ohm * ratio) }, troubles: [] }
        },
      },
      facts: [['Length', `${lengthM} m, connectors included`]],
      judge: (_play, { factor: said }) => [
        {
          what: 'velocity factor within 1.5 %',
          ok: said !== undefined && Math.abs(said / factor - 1) <= 0.015,
        },
      ],
      truth: () => [
        ['First dip', `${(dipHz / 1e6).toFixed(2)} MHz`],
        ['Velocity factor', factor.toFixed(3)],
      ],
    }
  },
}
