/**
 * `npx tsx core/bench/sweeps.ts [stations]`: how often the truth lies within the ranges of what is fitted to sweeps of drawn
 * stations, nine times in ten if they say what they should, and how long a large fit takes.
 */
import { fitSweep, type FittedFigure, usualTolerances } from '../src/index.ts'
import { drawSwept } from './sweptStations.ts'

const stations = Number(process.argv[2] ?? 3000)
const inside = new Map<string, { all: number; inside: number; told: number }>()
const note = (name: string, truth: number, { low, high, told }: FittedFigure) => {
  const own = inside.get(name) ?? { all: 0, inside: 0, told: 0 }
  inside.set(name, {
    all: own.all + 1,
    inside: own.inside + Number(truth >= low && truth <= high),
    told: own.told + Number(told),
  })
}
let misfits = 0
const times: number[] = []
for (let seed = 1; seed <= stations; seed++) {
  const { chain, farEnd, sweep, truth } = drawSwept(seed, { analyser: 0.01 })
  const since = performance.now()
  const fit = fitSweep(chain, 0, sweep, farEnd, usualTolerances)!
  times.push(performance.now() - since)
  misfits += Number(!fit.fits)
  for (const { stage, lengthM, lossDb } of fit.lines) {
    const own = truth.lines.get(stage)!
    note('length', own.lengthM, lengthM)
    note('loss', own.lossDb, lossDb)
  }
  for (const { stage, rOhm, xOhm } of fit.joints) {
    const own = truth.joints.get(stage)!
    note('joint, resistance', own.rOhm, rOhm)
    note('joint, reactance', own.xOhm, xOhm)
  }
  if (truth.resonanceHz !== null)
    note('resonance', truth.resonanceHz, fit.antenna!.resonator!.resonanceHz)
}
let all = 0
let right = 0
for (const [name, own] of inside) {
  all += own.all
  right += own.inside
  console.log(
    `${name.padEnd(20)} ${((100 * own.inside) / own.all).toFixed(1)} % of ${own.all} inside, ${((100 * own.told) / own.all).toFixed(0)} % told`,
  )
}
times.sort((a, b) => a - b)
console.log(`all                  ${((100 * right) / all).toFixed(1)} % of ${all} inside`)
console.log(`${misfits} of ${stations} do not fit`)
console.log(
  `a fit: median ${Math.round(times[Math.floor(stations / 2)]!)} ms, at 95 % ${Math.round(times[Math.floor(0.95 * stations)]!)} ms`,
)
