/**
 * Stop rules of run sheets against simulated readings: how often a sound station is told to unkey, and how often a dangerous
 * one is not. Stations are drawn within their tolerances and read by meters with their errors; dangers are what happens at a
 * station: an antenna that opens or shorts, a joint that opens, full power where a little was meant, hardly any power, a
 * network left on another channel.
 *   npx tsx core/bench/stops.ts [readings]
 */
import {
  expectStep,
  isKeyed,
  limitsAt,
  meterTells,
  type Meter,
  planRun,
  type Random,
  type RatedChain,
  type RunChannel,
  runModel,
  runSheets,
  missingFor,
  seeded,
  solveChain,
  stopFor,
  swrLimitOf,
  usualTolerances,
} from '../src/index.ts'
import { settingsNow } from '../src/chain/tunerSettings.ts'
import { stationDraws } from '../src/chain/drawStation.ts'
import { impedanceOf, rhoOfSwr } from '../src/load/reflection.ts'
import { leakOf, readingDoubtW, showing, shownOf } from '../src/measure/meter.ts'
import { chainOfStep } from '../src/runs/stateOf.ts'
import { atTheBeginning } from '../src/runs/station.ts'
import { even } from '../src/statistics/random.ts'
import { drawnStation } from '../test/runStation.ts'

const READINGS = Number(process.argv[2] ?? 20_000)

const meters: Record<string, Meter> = {
  'needle, 5 % of full scale': {
    kind: 'peak',
    rangesW: [5, 20, 50, 200, 500, 2000],
    accuracy: 0.05,
    accuracyOf: 'full scale',
    divisions: 40,
    directivityDb: 25,
  },
  'figures, 5 % of reading': {
    kind: 'peak',
    rangesW: [],
    accuracy: 0.05,
    accuracyOf: 'reading',
    directivityDb: 30,
  },
}

/** What is shown of a wave: each reading with errors of its own, the leak at any phase. */
function read(
  meter: Meter,
  forwardW: number,
  rho: number,
  mode: RunChannel['mode'],
  random: Random,
) {
  const errors = () => ({ off: even(random), mark: even(random) })
  const phase = 2 * Math.PI * random()
  const leak = leakOf(meter)
  const seen = Math.min(1, Math.hypot(rho + leak * Math.cos(phase), leak * Math.sin(phase)))
  const shown = shownOf(meter, forwardW, { mode })
  return {
    forwardW: showing(meter, shown, errors()),
    reflectedW: showing(meter, shown * seen * seen, errors()),
  }
}

const WORKING_SWR = 3
/** A danger has so many times the SWR that a step allows: what is nearer to it the meter may not tell. */
const OVER = 2

type Danger = 'open' | 'short' | 'joint' | 'full power' | 'no power' | 'dials'
const DANGERS: readonly Danger[] = ['open', 'short', 'joint', 'full power', 'no power', 'dials']
const OPEN = { kind: 'fixed' as const, rOhm: 1e9, xOhm: 0 }
const SHORT = { kind: 'fixed' as const, rOhm: 0, xOhm: 0 }

/** The waves at the plane of a step with something wrong; null where it does not show or does not hurt there. */
function dangerAt(
  danger: Danger,
  chain: RatedChain,
  at: Parameters<typeof solveChain>[1],
  plane: number,
  {
    channel,
    channels,
    random,
  }: { channel: RunChannel; channels: readonly RunChannel[]; random: Random },
) {
  const settings = settingsNow(chain, at)
  const solved = (own: RatedChain, more = {}) =>
    solveChain(own, { ...at, settings: settings.slice(0, own.stages.length), ...more }).planes[
      Math.min(plane, own.stages.length)
    ]!
  switch (danger) {
    case 'open':
      return solved({ ...chain, load: OPEN })
    case 'short':
      return solved({ ...chain, load: SHORT })
    case 'joint': {
      const joint = plane + 1 + Math.floor(random() * Math.max(1, chain.stages.length - plane))
      return solved({ ...chain, stages: chain.stages.slice(0, joint), load: OPEN })
    }
    case 'full power':
      return at.powerW < 0.3 * channel.powerW ? solved(chain, { powerW: channel.powerW }) : null
    case 'no power':
      return solved(chain, { powerW: at.powerW * 0.15 })
    case 'dials': {
      const tuner = chain.stages.findIndex(
        (s) => s.kind === 'tuner' && !s.bypassed && s.method !== 'given',
      )
      const other = channels.find(
        ({ frequencyHz }) => Math.abs(frequencyHz / at.frequencyHz - 1) > 0.2,
      )
      if (tuner < plane || !other) return null
      const elsewhere = settingsNow(chain, { ...at, frequencyHz: other.frequencyHz })
      return solved(chain, { settings: elsewhere })
    }
  }
}

for (const [name, meter] of Object.entries(meters)) {
  const random = seeded(7)
  let sound = 0
  let falseStops = 0
  let looks = 0
  let tooLow = 0
  const tried: Record<string, [number, number]> = {}
  const rules: Record<string, number> = {}
  for (let seed = 50_000; sound < READINGS; seed++) {
    const { station } = drawnStation(seed)
    if (station.chain.load.kind === 'swr') continue
    const model = runModel(station)
    for (const sheet of runSheets) {
      if (missingFor(station.chain, sheet).length > 0 || sound >= READINGS) continue
      const steps = planRun(sheet, model, station.channels[0]!)
      for (const step of steps) {
        if (step.kind !== 'read' || step.dangers || !isKeyed(step)) continue
        const moment = model.momentOf(step, atTheBeginning)
        const { chain, at, plane } = chainOfStep(station.chain, step, moment.channel)
        const expected = expectStep(station.chain, step, moment.channel, {
          tolerances: usualTolerances,
          meter,
        })
        const limits = limitsAt(moment)
        const judge = (forwardW: number, swr: number) => {
          const shown = read(meter, forwardW, rhoOfSwr(swr), at.mode!, random)
          const asked =
            step.figures === 'swr'
              ? {
                  swr:
                    (Math.sqrt(shown.forwardW) + Math.sqrt(shown.reflectedW)) /
                    Math.max(
                      1e-9,
                      Math.abs(Math.sqrt(shown.forwardW) - Math.sqrt(shown.reflectedW)),
                    ),
                }
              : step.figures === 'forward'
                ? { forwardW: shown.forwardW }
                : shown
          return stopFor(step, asked, { meter, expected, limits })
        }
        // A chain that its data put over the limit is rightly stopped: it is neither sound nor missed.
        if (step.mostSwr !== undefined && expected.chainSwr.high > step.mostSwr) continue
        // What a station in working order shows; a mismatch worse than that is not told from a fault by its SWR.
        if (expected.swr > WORKING_SWR) continue
        const draw = stationDraws(chain, [at], usualTolerances)
        for (let i = 0; i < 8; i++) {
          const real = draw(random)
          const z = impedanceOf(real.reflection[0]!, 50)
          const drawn = solveChain(
            { ...chain, stages: real.stages, load: { kind: 'fixed', rOhm: z.re, xOhm: z.im } },
            { ...at, powerW: real.powerW[0]! },
          ).planes[plane]!
          // What lies beyond the limit is no sound station.
          if (step.mostSwr !== undefined && drawn.swr > step.mostSwr) continue
          sound++
          const judged = judge(drawn.forwardW, drawn.swr)
          if (judged?.is === 'look') looks++
          if (judged?.is !== 'stop') continue
          falseStops++
          if (process.env['SHOW'])
            console.log(
              'FALSE',
              seed,
              sheet.id,
              step.id,
              judged.reason,
              expected.watts,
              expected.chainRange,
              'is',
              drawn.forwardW,
              limits.filter((l) => l.headroomDb !== null && l.headroomDb < 1),
            )
          rules[judged.reason.rule] = (rules[judged.reason.rule] ?? 0) + 1
        }
        const danger = DANGERS[Math.floor(random() * DANGERS.length)]!
        const wave = dangerAt(danger, chain, at, plane, {
          channel: moment.channel,
          channels: station.channels,
          random,
        })
        if (!wave || step.figures === 'forward') continue
        // Behind so much loss, or where it changes nothing, nobody could tell.
        const limit = swrLimitOf(step, expected) ?? Infinity
        const changed =
          Math.abs(10 * Math.log10(wave.forwardW / expected.watts)) > 4 ||
          wave.swr > Math.max(3, OVER * limit)
        if (!changed || (step.figures === 'swr' && wave.swr < 3)) continue
        if (danger === 'no power' && wave.forwardW > 0.4 * expected.chainRange.low) continue
        // At so little power the meter cannot tell a fault from its own error, and the page says so.
        const shownW = shownOf(meter, expected.watts, { mode: at.mode! })
        if (!meterTells(meter, shownW) || wave.forwardW < readingDoubtW(meter, wave.forwardW)) {
          tooLow++
          continue
        }
        const own = (tried[danger] ??= [0, 0])
        own[0]++
        if (judge(wave.forwardW, wave.swr)?.is !== 'stop') {
          own[1]++
          if (process.env['SHOW'])
            console.log(
              seed,
              sheet.id,
              step.id,
              danger,
              step.mostSwr,
              'expected',
              expected.watts,
              expected.chainRange,
              expected.swr,
              expected.swrRange,
              'is',
              wave.forwardW,
              wave.swr,
            )
        }
      }
    }
  }
  const all = Object.values(tried).reduce(([a, b], [c, d]) => [a + c, b + d], [0, 0])
  console.log(
    `${name}: ${sound} sound readings, ${falseStops} false stops (${((100 * falseStops) / sound).toFixed(3)} %), ${((100 * looks) / sound).toFixed(1)} % to look; ` +
      `${all[0]} dangers, ${all[1]} missed (${((100 * all[1]) / all[0]).toFixed(2)} %), ${tooLow} at a power too low for the meter`,
  )
  console.log('  false stops by rule', rules, ' missed of tried', tried)
}
