/**
 * Whether drills can be solved: a learner that follows the diagnosis and its next readings works through 500 seeds of
 * every kind on every level, within three times par. Prints the share that is found, and what it takes.
 */
import { findDrill, kindsOf, learn, levels, parOf } from '../src/index.ts'

const SEEDS = Number(process.env['SEEDS'] ?? 500)

for (const level of levels) {
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
