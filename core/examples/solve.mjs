// How many watts reach the antenna, and who took the rest.
import { cableClasses, formatDb, formatPower, ledgerOf, solveChain } from '@saltline/core'

const cable = cableClasses.find(({ id }) => id === 'pe-10')
const chain = {
  transmitter: { behaviour: 'levelled', foldback: [] },
  stages: [
    { kind: 'pad', lossDb: 0.1 },
    { kind: 'line', cable, lengthM: 34 },
  ],
  load: { kind: 'fixed', rOhm: 67, xOhm: -41 },
}
const solution = solveChain(chain, { frequencyHz: 8.3e6, powerW: 80 })
const { rows, antennaW } = ledgerOf(solution)
console.log(`${formatPower(antennaW)} at the antenna`)
for (const { stage, lossDb, lossW } of rows)
  console.log(
    `${stage < 0 ? 'not delivered' : chain.stages[stage].kind}: ${formatDb(lossDb)}, ${formatPower(lossW)}`,
  )
