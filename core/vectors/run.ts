/**
 * Compares the solver with a file of solved chains and prints the worst relative error of each
 * quantity: `SALTLINE_VECTORS=/any/file.json npm run -s vectors`. Exits 1 where one is over its limit.
 */
import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { compareVectors, limitOf, type VectorCase } from './compare.ts'

const file = process.env['SALTLINE_VECTORS'] ?? resolve(import.meta.dirname, 'chains.json')
const cases = JSON.parse(readFileSync(file, 'utf8')) as VectorCase[]
const worst = compareVectors(cases)
let failed = 0
console.log(`${cases.length} cases from ${file}`)
for (const [quantity, { error, caseId }] of [...worst].sort(([a], [b]) => (a < b ? -1 : 1))) {
  const ok = error <= limitOf(quantity)
  if (!ok) failed++
  console.log(
    `${ok ? 'ok  ' : 'FAIL'} ${quantity.padEnd(26)} ${error.toExponential(2)}  (worst in ${caseId}, limit ${limitOf(quantity)})`,
  )
}
process.exitCode = failed > 0 ? 1 : 0
