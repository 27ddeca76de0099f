/**
 * An operator of any kind at a station of any kind, following a sheet as the application lets him: he skips, goes back,
 * answers wrongly, does not rest. Beside what the run knows stands the real station; whatever is keyed is looked at there,
 * with the solver alone.
 */
import {
  afterDone,
  against,
  cureOf,
  isKeyed,
  later,
  mostPower,
  type PlannedStep,
  planRun,
  type runModel,
  type RunSheet,
  type RunStation,
  solveChain,
} from '../src/index.ts'
import { atTheBeginning, type StepDone } from '../src/runs/station.ts'
import { settingsNow } from '../src/chain/tunerSettings.ts'
import { keyingTime } from '../src/limits/faults.ts'
import { ratingsOf } from '../src/limits/ratings.ts'
import { stressesOf } from '../src/limits/stress.ts'
import { phaseUnknown } from '../src/load/load.ts'
import { driveForW } from '../src/source/amplifier.ts'
import type { Chance, Stage } from './runStation.ts'

type Chain = RunStation['chain']

/** The station as it really stands. */
interface Real {
  connected: 'nothing' | 'antenna' | 'dummy' | 'cable'
  amplifierOn: boolean
  tunerIn: boolean
  /** Where the network really stands: set for this chain and frequency. */
  tuned: { chain: Chain; frequencyHz: number; key: string }
  tunings: number
  loaded: string
  /** Shares of what is permitted that were keyed and read, by what was connected then. */
  up: Map<string, number>
  powerUp: boolean
  /** Heat of parts over their limit, with the time it was so. */
  heat: Map<string, number>
  atS: number
}

/** What was found to happen that must never happen. */
export interface Harm {
  stepId: string
  what: string
}

const longest = (stages: readonly Stage[], from: number): number =>
  stages.reduce((best, stage, k) => {
    const least = best < 0 ? 0 : (stages[best] as { lengthM: number }).lengthM
    return stage.kind === 'line' && k >= from && stage.lengthM > least ? k : best
  }, -1)

/** The chain that is really there. */
function realChain({ chain }: RunStation, { connected, amplifierOn, tunerIn }: Real): Chain {
  const stages = chain.stages.map((stage): Stage => {
    if (stage.kind === 'amplifier') return { ...stage, bypassed: !amplifierOn }
    if (stage.kind === 'tuner') return { ...stage, bypassed: !tunerIn }
    return stage
  })
  if (connected === 'antenna') return { ...chain, stages }
  const output = stages.findLastIndex((s) => s.kind === 'amplifier' && !s.bypassed) + 1
  const through = connected === 'cable' ? longest(stages, output) : -1
  const load = { kind: 'fixed' as const, rOhm: 50, xOhm: 0 }
  return {
    ...chain,
    load,
    stages: [...stages.slice(0, output), ...(through < 0 ? [] : [stages[through]!])],
  }
}

const STEADY = ['key-down', 'data', 'FM'] as const
const SLACK = 1.012

export interface Walk {
  model: ReturnType<typeof runModel>
  steps: readonly PlannedStep[]
  real: Real
  phaseRad: number
}

/** How a station may stand before anything was done: nothing connected, dials left where they were, anything switched. */
function anyReal(station: RunStation, { one, maybe }: Chance): Real {
  const real: Real = {
    connected: one(['nothing', 'antenna', 'dummy'] as const),
    amplifierOn: maybe(0.5),
    tunerIn: maybe(0.5),
    tuned: { chain: station.chain, frequencyHz: 0, key: 'as it was left' },
    tunings: 0,
    loaded: 'as it was left',
    up: new Map(),
    powerUp: false,
    heat: new Map(),
    atS: 0,
  }
  const all = { ...real, connected: 'antenna' as const, amplifierOn: false, tunerIn: true }
  real.tuned.chain = realChain(station, all)
  real.tuned.frequencyHz = one(station.channels).frequencyHz
  return real
}

/** What is connected and set, so far as a network or an output is tuned for it. */
function keysOf({ model, real }: Pick<Walk, 'model' | 'real'>, channelId: string) {
  const { stages } = model.station.chain
  const tunerAt = stages.findIndex(({ kind }) => kind === 'tuner')
  const ahead = tunerAt >= 0 && stages.findLastIndex(({ kind }) => kind === 'amplifier') > tunerAt
  const tuner = `${channelId} ${real.connected} ${ahead ? real.amplifierOn : ''}`
  return {
    tuner,
    output: `${channelId} ${real.connected} ${real.tunerIn && !ahead && real.connected === 'antenna' ? real.tunings : ''}`,
    up: `${channelId} ${real.connected} ${real.amplifierOn} ${real.tunerIn ? real.tunings : 'out'}`,
  }
}

/**
 * Keys a step at the real station, as long as it says or half as long again, and looks at what happens.
 *
 * @param keyedS how long
 */
function key(walk: Walk, step: PlannedStep, keyedS: number): Harm[] {
  const { model, real, phaseRad } = walk
  const { station } = model
  const harm: Harm[] = []
  const found = (what: string) => harm.push({ stepId: step.id, what })
  const channel = station.channels.find(({ id }) => id === step.channelId)!
  const { state = {} } = step
  const setW = state.watts!
  if (real.connected === 'nothing') return [{ stepId: step.id, what: 'keyed without a load' }]
  if (real.connected !== (state.load ?? 'antenna')) found(`keyed into ${real.connected}`)
  const chain = realChain(station, real)
  const mode = state.carrier ? 'key-down' : channel.mode
  const at = { frequencyHz: channel.frequencyHz, powerW: setW, mode }
  const keys = keysOf(walk, step.channelId)
  const tunerAt = chain.stages.findIndex(({ kind, bypassed }) => kind === 'tuner' && !bypassed)
  const anyPhase = phaseUnknown(chain.load, at.frequencyHz)
  const setFor = real.tuned.key === keys.tuner
  const before = real.tuned
  if (step.tunes === 'tuner' && tunerAt >= 0) {
    real.tunings++
    real.tuned = { chain, frequencyHz: at.frequencyHz, key: keys.tuner }
  }
  const phase = anyPhase ? phaseRad : 0
  const asItStood = (): ReturnType<typeof solveChain> => {
    const stood = {
      ...before.chain,
      ...(anyPhase && { load: { kind: 'fixed' as const, rOhm: 50, xOhm: 0 } }),
    }
    const settings = settingsNow(stood, { frequencyHz: before.frequencyHz, powerW: 1 })
    // A tuned output was tuned for another load.
    const transmitter = { ...chain.transmitter, behaviour: 'levelled' as const }
    return solveChain(
      { ...chain, transmitter },
      { ...at, settings: settings.slice(0, chain.stages.length) },
      phase,
    )
  }
  // While it is being set a network passes through other settings; the one it was left in stands for them.
  const solved = [
    ...(tunerAt >= 0 && !setFor ? [asItStood()] : []),
    ...(tunerAt < 0 || setFor || step.tunes === 'tuner' ? [solveChain(chain, at, phase)] : []),
  ]
  const tenth =
    0.1 * Math.min(channel.around?.ratedW ?? channel.powerW, station.tuner?.ratedW ?? Infinity)
  const window = station.tuner?.tuneWindowW
  // The hotter of the ways that it may go.
  const warm = new Map(real.heat)
  for (const solution of solved) {
    if (tunerAt >= 0) {
      const matched = setFor && (anyPhase || solution.planes[tunerAt]!.swr <= 3 * SLACK)
      if (step.tunes === 'tuner' || !matched) {
        if (chain.stages.some(({ kind, bypassed }) => kind === 'amplifier' && !bypassed))
          found('amplifier on into a network that is not set')
        const tuning = step.tunes === 'tuner' || state.window
        const mostW = tuning && window ? Math.max(tenth, window[1]) : tenth
        if (solution.planes[tunerAt]!.netW > mostW * SLACK || (!window && setW > tenth * SLACK))
          found(`${setW} W set into a network that is not set, ${mostW} W at most`)
      }
      if (step.tunes === 'tuner' && window && solution.planes[tunerAt]!.netW > window[1] * SLACK)
        found('over the window of the tuner')
    }
    chain.stages.forEach((stage, k) => {
      if (stage.kind !== 'amplifier' || stage.bypassed) return
      const most = Math.min(
        stage.fullW,
        stage.ceilings?.[mode] ?? Infinity,
        ...(mode === 'key-down' ? STEADY.map((each) => stage.ceilings?.[each] ?? Infinity) : []),
      )
      const { driveW, trips } = solution.stages[k]!.amplifier!
      if (driveW > driveForW(stage, most) * SLACK) found(`driven with ${driveW} W`)
      if (trips) found('amplifier trips')
      if (stage.behaviour === 'peaked' && step.tunes !== 'amplifier' && real.loaded !== keys.output)
        found('amplifier not tuned for what it feeds')
    })
    harm.push(...stressHarm(walk, step, chain, solution, keyedS, warm))
  }
  // What was not heated cooled meanwhile.
  for (const [id, share] of warm)
    if (real.heat.get(id) === share)
      real.heat.set(id, share * Math.exp(-keyedS / timeConstantS(station, id)))
  if (step.tunes === 'amplifier') real.loaded = keysOf(walk, step.channelId).output
  // Brought up in steps.
  const surroundings = {
    ...(channel.around ?? { ambientC: 40 }),
    emission: { mode },
    ...(real.connected !== 'antenna' && {
      licence: undefined,
      loadAverageW: station.dummy?.continuousW,
    }),
  }
  const held: Chain = {
    ...chain,
    stages: chain.stages.map((stage) =>
      stage.kind === 'amplifier' && stage.ceilings
        ? {
            ...stage,
            ceilings: {
              ...stage.ceilings,
              'key-down': Math.min(...STEADY.map((each) => stage.ceilings?.[each] ?? stage.fullW)),
            },
          }
        : stage,
    ),
  }
  const full = Math.min(
    channel.powerW,
    permitted(walk, held, { ...at, powerW: channel.powerW }, surroundings),
  )
  const share = setW / full
  const upKey = keysOf(walk, step.channelId).up
  const first = Math.max(
    0.25,
    (state.window || step.tunes === 'tuner') && window ? window[1] / full : 0,
  )
  // What parts with a time constant allow for seconds is more than what they allow for hours.
  if (share > Math.max(first, 4 * (real.up.get(upKey) ?? 0)) * 1.1 && !timed(station))
    found(`brought up to ${share} of what is permitted at once`)
  if (step.kind === 'read') real.up.set(upKey, Math.max(share, real.up.get(upKey) ?? 0))
  real.powerUp = true
  return harm
}

const known = new WeakMap<object, Map<string, number>>()
function permitted(
  { model }: Walk,
  chain: Chain,
  at: Parameters<typeof mostPower>[1],
  around: Parameters<typeof mostPower>[2],
): number {
  const own = known.get(model) ?? new Map<string, number>()
  known.set(model, own)
  const id = JSON.stringify([
    at,
    chain.stages.map(({ bypassed }) => bypassed),
    chain.load.kind,
    around.emission.mode,
  ])
  const found = own.get(id) ?? mostPower(chain, at, around).powerW
  own.set(id, found)
  return found
}

const timed = ({ chain, dummy, loadBurst }: RunStation): boolean =>
  dummy !== undefined ||
  loadBurst !== undefined ||
  chain.stages.some((stage) => ratingsOf(stage).timeConstantS !== undefined)

/** Every part against its limit: at once, or after the seconds that it is keyed. */
function stressHarm(
  { model: { station }, real }: Walk,
  step: PlannedStep,
  chain: Chain,
  solution: ReturnType<typeof solveChain>,
  keyedS: number,
  warm: ReadonlyMap<string, number>,
): Harm[] {
  const channel = station.channels.find(({ id }) => id === step.channelId)!
  const mode = step.state?.carrier ? ('key-down' as const) : channel.mode
  const dummy = real.connected === 'antenna' ? undefined : station.dummy
  const around = {
    ...(channel.around ?? { ambientC: 40 }),
    emission: { mode },
    ...(real.connected !== 'antenna' && { licence: undefined, loadAverageW: dummy?.continuousW }),
  }
  return stressesOf(chain.stages, solution, around).flatMap((own): Harm[] => {
    if (own.limit === null || own.kind === 'SWR' || own.kind === 'drive') return []
    const over = own.stress / own.limit
    const said = (now: number): Harm[] =>
      now > SLACK
        ? [{ stepId: step.id, what: `${own.kind} of part ${own.part} at ${now} of its limit` }]
        : []
    if (own.kind !== 'heat') return said(over)
    const end = own.part >= chain.stages.length
    const burst = end
      ? (dummy ??
        (around.loadAverageW && station.loadBurst
          ? { continuousW: around.loadAverageW, burst: station.loadBurst }
          : undefined))
      : undefined
    const tauS = end
      ? burst && keyingTime(burst, 0).timeConstantMinutes * 60
      : own.part < 0
        ? undefined
        : ratingsOf(chain.stages[own.part]!).timeConstantS
    if (!tauS) return said(over)
    const id = end
      ? real.connected
      : JSON.stringify(
          station.chain.stages.findIndex(
            (s) =>
              s.kind === chain.stages[own.part]!.kind &&
              JSON.stringify({ ...s, bypassed: 0 }) ===
                JSON.stringify({ ...chain.stages[own.part]!, bypassed: 0 }),
          ),
        )
    const from = warm.get(id) ?? 0
    const now = over + (from - over) * Math.exp(-keyedS / tauS)
    real.heat.set(id, Math.max(now, real.heat.get(id) ?? 0))
    return said(now)
  })
}

/** Thermal time constant of a part by its name among the warm ones, s. */
function timeConstantS(station: RunStation, id: string): number {
  const antennaW = station.channels.find(({ around }) => around?.loadAverageW)?.around?.loadAverageW
  const loads = {
    dummy: station.dummy,
    cable: station.dummy,
    antenna: station.loadBurst && { continuousW: antennaW ?? 1, burst: station.loadBurst },
  }
  const load = id in loads ? loads[id as keyof typeof loads] : undefined
  return load
    ? keyingTime(load, 0).timeConstantMinutes * 60
    : ratingsOf(station.chain.stages[Number(id)]!).timeConstantS!
}

/** Time goes by, and parts cool. */
function pause({ model: { station }, real }: Walk, seconds: number): void {
  real.atS += seconds
  for (const [id, share] of real.heat)
    real.heat.set(id, share * Math.exp(-seconds / timeConstantS(station, id)))
}

/** What the operator does to the real station at a step that is not keyed. */
function change(walk: Walk, { makes = {}, id }: PlannedStep): Harm[] {
  const { real } = walk
  const harm: Harm[] =
    makes.load && makes.load !== real.connected && real.powerUp
      ? [{ stepId: id, what: 'connected with the power up' }]
      : []
  if (makes.load) real.connected = makes.load
  if (makes.amplifier) real.amplifierOn = makes.amplifier === 'on'
  if (makes.tuner) real.tunerIn = makes.tuner === 'in'
  if (makes.power === 'down') real.powerUp = false
  return harm
}

const MOST_STEPS = 160

export interface Walked {
  harm: Harm[]
  keyed: number
  refused: number
  ended: boolean
}

/** A sheet, written out for a station and followed by an operator who does what he likes. */
export function walkSheet(
  sheet: RunSheet,
  model: ReturnType<typeof runModel>,
  operator: Chance,
  phaseRad: number,
): Walked {
  const steps = planRun(sheet, model, model.station.channels[0]!)
  const walk: Walk = { model, steps, real: anyReal(model.station, operator), phaseRad }
  let known = atTheBeginning
  const result: Walked = { harm: [], keyed: 0, refused: 0, ended: false }
  const { one, maybe, between } = operator
  let next = 0
  for (let i = 0; i < MOST_STEPS && next < steps.length; i++) {
    const step = steps[next]!
    pause(walk, between(0.5, 4))
    const enter = (entry: Partial<StepDone> = {}) => {
      known = afterDone(model, step, known, { outcome: 'done', atS: walk.real.atS, ...entry })
    }
    if (maybe(0.06)) {
      next = Math.max(0, next - one([1, 2, 3]))
      continue
    }
    const state = later(known, walk.real.atS)
    const violations = against(model, step, state)
    if (step.dangers || violations.length > 0) {
      result.refused++
      const moment = model.momentOf(step, state)
      const cure = violations
        .map((each) => cureOf(each, moment, steps))
        .find((index) => index !== null)
      const rest = violations.find((each) => each.rule === 'rest')
      if (rest && violations.length === 1 && maybe(0.8)) pause(walk, rest.seconds)
      else if (cure !== undefined && cure !== null && maybe(0.7)) next = cure
      else {
        enter({ outcome: 'skipped' })
        next++
      }
      continue
    }
    if (maybe(0.05)) {
      enter({ outcome: 'skipped' })
      next++
      continue
    }
    if (isKeyed(step)) {
      const keyedS = (step.seconds ?? 10) * one([0.3, 1, 1.49])
      result.harm.push(...key(walk, step, keyedS))
      result.keyed++
      walk.real.atS += keyedS
      // A wrong figure, or one over its limit that he goes on past: neither makes it safe to go up.
      enter({ keyedS, withinLimits: maybe(0.9), atS: walk.real.atS })
    } else {
      if (step.rest) pause(walk, (step.seconds ?? 0) * one([0, 0.2, 1]))
      result.harm.push(...change(walk, step))
      enter()
    }
    const choice = step.kind === 'decide' ? one(step.choices!) : undefined
    if (choice?.end && maybe(0.5)) return { ...result, ended: true }
    const back = steps.findIndex(({ id }) => id === choice?.backTo)
    next = back >= 0 ? back : next + 1
  }
  return { ...result, ended: next >= steps.length }
}

/**
 * A sheet followed to the letter, by somebody who does every step at once and asks nothing: what it does to the station.
 * Choices are taken by chance.
 */
export function obey(
  sheet: RunSheet,
  model: ReturnType<typeof runModel>,
  operator: Chance,
  phaseRad: number,
): Harm[] {
  const steps = planRun(sheet, model, model.station.channels[0]!)
  const walk: Walk = { model, steps, real: anyReal(model.station, operator), phaseRad }
  const harm: Harm[] = []
  let next = 0
  for (let i = 0; i < MOST_STEPS && next < steps.length; i++) {
    const step = steps[next]!
    if (isKeyed(step)) {
      const keyedS = (step.seconds ?? 10) * 1.49
      harm.push(...key(walk, step, keyedS))
      walk.real.atS += keyedS
    } else {
      if (step.rest) pause(walk, step.seconds ?? 0)
      harm.push(...change(walk, step))
    }
    const choice = step.kind === 'decide' ? operator.one(step.choices!) : undefined
    const back = steps.findIndex(({ id }) => id === choice?.backTo)
    next = back >= 0 ? back : next + 1
  }
  return harm
}
