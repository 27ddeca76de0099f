/**
 * Whether drills can be solved: a learner that follows the diagnosis and its next readings works through 500 seeds of
 * every kind on every level, within three times par. Prints the share that is found, and what it takes. Then how often the reading
 * that a debrief calls the best is the best of all places by many more outcomes than it thinks of itself (`MOMENTS=0` for none).
 */
import { DEBRIEF } from '../src/drills/debrief.ts'
import { bestNext } from '../src/drills/learner.ts'
import { findDrill, kindsOf, learn, levels, nextReadings, parOf } from '../src/index.ts'

const SEEDS = Number(process.env['SEEDS'] ?? 500)
const MOMENTS = Number(process.env['MOMENTS'] ?? 300)

for (const level of SEEDS > 0 ? levels : []) {
  const rows: Record<string, object> = {}
  for (const kind of kindsOf(level)) {
    let found = 0
    const took: number[] = []
    const began = performance.now()
    for (let i = 0; i < SEEDS; i++) {
      const drill = findDrill(`${kind}-${i}`, level, kind)
      const { right, readings, looks } = learn(drill)
      const used = readings.length + looks
      if (right && used <= 3 * parOf(drill.faults)) found++
      took.push(used)
    }
    took.sort((a, b) => a - b)
    rows[kind] = {
      found: `${((100 * found) / SEEDS).toFixed(1)} %`,
      'readings, median': took[SEEDS >> 1],
      'at 95 %': took[Math.floor(SEEDS * 0.95)],
      'ms a drill': ((performance.now() - began) / SEEDS).toFixed(0),
    }
  }
  console.log(`Find the fault, level ${level}: ${SEEDS} seeds of each kind (aim: 85 % found)`)
  console.table(rows)
}

/** Places in the order of what they settle, by so many outcomes that chance is out of it. */
const exactly = { rough: 4000, fine: 4000, ranked: 0, paired: 0, lessPower: false }
/** Places that settle the same share of the doubt to within this are no better than each other. */
const ALIKE = 0.002
const ranks = new Map<number, number>()
let among = 0
let lost = 0
let moments = 0
for (let i = 0; moments < MOMENTS; i++) {
  const level = levels[i % levels.length]!
  const kinds = kindsOf(level)
  const drill = findDrill(`moment-${i}`, level, kinds[i % kinds.length]!)
  const { readings } = learn(drill)
  for (let count = 0; count < Math.min(5, readings.length) && moments < MOMENTS; count++) {
    const taken = [...drill.record, ...readings.slice(0, count)]
    const { weighed, next } = bestNext(drill, taken, DEBRIEF)
    if (!next) continue
    const planes = [...drill.station.chain.stages.keys(), drill.station.chain.stages.length]
    const all = nextReadings(weighed, drill.kase.instruments[1]!, planes, () => 1, exactly)
    const known = new Set(taken.map(keyOf))
    const open = all.filter((one) => !known.has(keyOf({ ...one, instrument: one.instrument ?? 1 })))
    const own = open.findIndex(
      ({ point, plane, instrument }) =>
        point === next.point && plane === next.plane && instrument === next.instrument,
    )
    // Where nothing tells anything there is no best.
    if (!(open[0]!.settles > 0.02)) continue
    moments++
    ranks.set(own + 1, (ranks.get(own + 1) ?? 0) + 1)
    among += Number(open.filter((one) => one.settles > open[own]!.settles + ALIKE).length < 3)
    lost += 1 - open[own]!.settles / open[0]!.settles
  }
}
if (moments > 0) {
  const within = (most: number) =>
    [...ranks].reduce((sum, [rank, count]) => sum + (rank <= most ? count : 0), 0)
  console.log(
    `The debrief's best reading in ${moments} moments: the best of all in ${((100 * within(1)) / moments).toFixed(1)} %, ` +
      `within the first three in ${((100 * within(3)) / moments).toFixed(1)} % (aims: 60 and 95 %); ` +
      `in ${((100 * among) / moments).toFixed(1)} % no three settle ${100 * ALIKE} % more of the doubt; ` +
      `of what the best would settle it leaves ${((100 * lost) / moments).toFixed(1)} %`,
  )
}

function keyOf({ point, plane, instrument }: { point: number; plane: number; instrument: number }) {
  return `${point} ${plane} ${instrument}`
}
