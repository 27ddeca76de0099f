import { findDrill, kindsOf, levels } from '../src/drills/findDrill.ts'
import { simulateReadings } from '../src/diagnosis/simulate.ts'
import { prepare } from '../src/diagnosis/likelihood.ts'
import { weigh } from '../src/diagnosis/diagnose.ts'
import { nextReadings } from '../src/diagnosis/nextReading.ts'
import { nextSwaps } from '../src/diagnosis/nextSwap.ts'
import { twoThings } from '../src/diagnosis/pairs.ts'
const sum: Record<string, number> = { prep: 0, weigh: 0, next: 0, swap: 0, two: 0 }
let n = 0
let check = 0
for (let i = 0; i < 45; i++) {
  const level = levels[i % 3]!
  const kinds = kindsOf(level)
  const drill = findDrill(`zz-${i}`, level, kinds[i % kinds.length]!)
  const { kase } = drill
  const planes = [...drill.station.chain.stages.keys(), drill.station.chain.stages.length]
  const cause = drill.faults[0]!.cause
  if (!cause || ['swapped', 'piece', 'gap'].includes(cause.kind)) continue
  const sites = Array.from({ length: 20 }, (_, k) => ({
    point: k % kase.channels.length,
    plane: planes[(k * 2) % planes.length]!,
    instrument: 0,
  }))
  const readings = simulateReadings(kase, sites, cause as never, i)
  const own = { ...kase, readings }
  const t = [performance.now()]
  const p = prepare(own)
  t.push(performance.now())
  const weighed = weigh(own, undefined, p)
  t.push(performance.now())
  check += weighed.diagnosis.explanations[0]!.probability
  nextReadings(weighed, kase.instruments[1]!, planes)
  t.push(performance.now())
  nextSwaps(weighed)
  t.push(performance.now())
  twoThings(weighed)
  t.push(performance.now())
  if (i >= 9) {
    n++
    Object.keys(sum).forEach((k, j) => (sum[k]! += t[j + 1]! - t[j]!))
  }
}
console.log(
  n,
  Object.entries(sum)
    .map(([k, v]) => `${k} ${(v / n).toFixed(1)}`)
    .join('  '),
  check,
)
