// Only an SWR is known: every figure that depends on the phase is a range.
import { answerChain, cableClasses, formatPower, formatSwr, rangeText } from '@saltline/core'

const cable = cableClasses.find(({ id }) => id === 'foam-7-75')
const chain = {
  transmitter: {
    behaviour: 'levelled',
    foldback: [
      [1.5, 1],
      [3, 0.4],
    ],
  },
  stages: [{ kind: 'line', cable, lengthM: 22 }],
  load: { kind: 'swr', swr: 2.6 },
}
const { solution, spread } = answerChain(chain, { frequencyHz: 7.1e6, powerW: 100 })
console.log(`${rangeText(solution.antennaW, spread.antennaW, formatPower)} at the antenna`)
console.log(
  `SWR ${rangeText(solution.planes[0].swr, spread.planes[0].swr, formatSwr)} at the radio`,
)
