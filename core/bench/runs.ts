/**
 * Run sheets on random stations: whatever an operator does, nothing keyed hurts; and a sheet made worse is caught.
 *   npx tsx core/bench/runs.ts [stations] [first seed]
 * With WALKS=1 the walks alone.
 */
import { checkSheet, missingFor, runModel, runSheets } from '../src/index.ts'
import { mutant } from '../test/runMutants.ts'
import { chance, drawnStation } from '../test/runStation.ts'
import { obey, walkSheet } from '../test/runWalk.ts'

const [stations = 300, first = 1000] = process.argv.slice(2).map(Number)
const sum = { runs: 0, keyed: 0, refused: 0, harm: 0, worse: 0, dangerous: 0, caught: 0 }
for (let seed = first; seed < first + stations; seed++) {
  const { station, phaseRad } = drawnStation(seed)
  const model = runModel(station)
  if (process.env['WALKS'] && seed % 500 === 0)
    console.log(`station ${seed}, ${sum.harm} that hurt`)
  for (const sheet of runSheets) {
    if (missingFor(station.chain, sheet).length > 0) continue
    const { harm, keyed, refused } = walkSheet(sheet, model, chance(seed * 31 + 7), phaseRad)
    sum.runs++
    sum.keyed += keyed
    sum.refused += refused
    for (const { stepId, what } of harm) {
      sum.harm++
      console.log(`station ${seed}, ${sheet.id}, ${stepId}: ${what}`)
    }
    if (process.env['WALKS']) continue
    const made = mutant(sheet, chance(seed * 977 + sheet.id.length))
    sum.worse++
    if (obey(made.sheet, model, chance(seed * 7), phaseRad).length === 0) continue
    sum.dangerous++
    if (checkSheet(made.sheet, model, station.channels[0]!).length > 0) sum.caught++
    else console.log(`station ${seed}, ${sheet.id}, ${made.change}: not caught`)
  }
}
console.log(
  `${stations} stations, ${sum.runs} runs: ${sum.keyed} steps keyed, ${sum.refused} refused, ${sum.harm} that hurt; ` +
    `${sum.worse} sheets made worse, ${sum.dangerous} of them dangerous, ${sum.caught} caught`,
)
