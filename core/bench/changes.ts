/** How often the change finder sees a jump in mere noise, by length and correlation, and how often one that is there. */
import { seeded } from '../src/index.ts'
import { levelsOf } from '../src/statistics/changePoints.ts'
import { normal, type Random } from '../src/statistics/random.ts'

const ROWS = Number(process.env['ROWS'] ?? 1000)
const LENGTHS = [8, 9, 10, 11, 12, 13, 14, 16, 20, 27, 28, 40, 60, 120, 400]

/** Noise of deviation 1 whose neighbours are correlated. */
function noise(n: number, correlation: number, random: Random): number[] {
  let last = normal(random)
  return Array.from({ length: n }, () => {
    last = correlation * last + Math.sqrt(1 - correlation ** 2) * normal(random)
    return last
  })
}

const share = (seed: number, row: (random: Random) => number[]): string => {
  const random = seeded(seed)
  let cut = 0
  for (let i = 0; i < ROWS; i++) cut += Number(levelsOf(row(random)).length > 1)
  return `${((100 * cut) / ROWS).toFixed(1)} %`
}

const table = Object.fromEntries(
  LENGTHS.map((n) => [
    n,
    {
      ...Object.fromEntries(
        [0, 0.3, 0.5].map((correlation) => [
          `noise, correlation ${correlation}`,
          share(n * 7 + correlation * 100, (random) => noise(n, correlation, random)),
        ]),
      ),
      ...Object.fromEntries(
        [3, 4].map((step) => [
          `a step of ${step} deviations`,
          share(n * 11 + step, (random) =>
            noise(n, 0, random).map((v, i) => v + (i < n / 2 ? 0 : step)),
          ),
        ]),
      ),
    },
  ]),
)
console.log(`Rows that are cut, of ${ROWS} each (aim: 5 % of noise at most):`)
console.table(table)
