/** Runs of sheets: how they begin, go on and end; what of a step goes into the log. */
import type {
  ChainDocument,
  ChannelDocument,
  Run,
  RunBody,
  RunEntry,
  RunStepDocument,
  Station,
} from '@saltline/contract'
import {
  type Chain,
  chainOfStep,
  type Done,
  formatFrequency,
  formatPower,
  formatSwr,
  isKeyed,
  type PlannedStep,
  type PowerUnit,
  type RunChannel,
  type RunNeed,
  type RunSheet,
  type RunStation,
  type StopReason,
} from '@saltline/core'
import { settingOf } from './answers.ts'
import { dialText } from './dials.ts'
import { kindName, partName, surroundingsOf } from './headroomWords.ts'
import { violationWords } from './violationWords.ts'

export const runChannelOf = (document: ChainDocument, channel: ChannelDocument): RunChannel => ({
  id: channel.id,
  name: formatFrequency(channel.frequencyHz),
  frequencyHz: channel.frequencyHz,
  mode: channel.mode,
  powerW: settingOf(document.transmitter, channel),
  around: surroundingsOf(document, channel),
})

/** The station as run sheets see it. */
export function runStationOf(
  document: ChainDocument,
  chain: Chain,
  station: Pick<Station, 'gear'>,
): RunStation {
  const tuner = document.stages.find((stage) => stage.kind === 'tuner')
  const dummy = station.gear.find(
    (each) => each.kind === 'instrument' && each.document.load !== undefined,
  )
  return {
    chain,
    channels: document.channels.map((each) => runChannelOf(document, each)),
    tuner: tuner && {
      tuneWindowW: tuner.tuneWindowW,
      tuneTimeS: tuner.tuneTimeS,
      ratedW: tuner.ratedW,
    },
    ...(dummy?.kind === 'instrument' && { dummy: dummy.document.load }),
    loadBurst: document.loadBurst,
  }
}

/** A run that begins, with its steps as they were written out for the chain as it is now. */
export function newRun(
  sheet: Pick<RunSheet, 'id' | 'version' | 'title'>,
  planned: readonly PlannedStep[],
  {
    document,
    channel,
    by,
    power = 'W',
    despite,
  }: {
    document: ChainDocument
    channel: ChannelDocument
    by: string
    power?: PowerUnit
    /** Why it is begun although it asks for what must never happen. */
    despite?: { why: string; dangers: string[] } | undefined
  },
): RunBody {
  return {
    sheetId: sheet.id,
    sheetVersion: sheet.version,
    title: sheet.title,
    channelId: channel.id,
    frequencyHz: channel.frequencyHz,
    by,
    steps: planned.map((step) => runStepOf(step, document, power, despite !== undefined)),
    next: 0,
    entries: [],
    outcome: 'running',
    checked: true,
    ...(despite && { begunDespite: despite }),
    note: '',
  }
}

/** A step as it goes into a run: what must not be keyed on this chain is left out, and says why. */
function runStepOf(
  { dangers, mistakes: _, ...step }: PlannedStep,
  document: ChainDocument,
  power: PowerUnit,
  despite: boolean,
): RunStepDocument {
  const plain = JSON.parse(JSON.stringify(step)) as RunStepDocument
  if (!dangers || despite || !isKeyed(step)) return plain
  const { id, channelId, title } = plain
  const [first] = dangers
  return {
    id,
    channelId,
    kind: 'caution',
    title: `Left out: ${title}`.slice(0, 160),
    text: `${violationWords(first!, document, power).why} This step is not keyed.`,
  }
}

/** What was done on a run, as far as it says how the station stands. */
export const doneOf = ({ entries }: Pick<RunBody, 'entries'>): Done[] =>
  entries.map(({ stepId, outcome, at, keyedS, stop, forwardW, swr }) => ({
    stepId,
    outcome,
    withinLimits: stop === undefined && (forwardW !== undefined || swr !== undefined),
    atS: Date.parse(at) / 1000,
    ...(keyedS !== undefined && { keyedS }),
  }))

/** The part of a run that is sent. */
export const bodyOf = ({
  id: _id,
  chainId: _chain,
  revision: _revision,
  startedAt: _started,
  changedAt: _changed,
  ...body
}: Run): RunBody => body

/** The run with an entry for its present step, at whichever step comes then. */
export function withEntry(
  run: RunBody,
  entry: RunEntry,
  then?: { backTo?: string | undefined; end?: 'done' | 'stopped' | undefined },
): RunBody {
  const entries = [...run.entries, entry]
  if (then?.end) return { ...run, entries, outcome: then.end }
  const back = then?.backTo === undefined ? -1 : run.steps.findIndex(({ id }) => id === then.backTo)
  const next = back >= 0 ? back : run.next + 1
  return { ...run, entries, next, outcome: next >= run.steps.length ? 'done' : run.outcome }
}

/** The newest entry of a step. */
export const lastEntry = (
  { entries }: Pick<RunBody, 'entries'>,
  stepId: string,
): RunEntry | undefined => entries.findLast((entry) => entry.stepId === stepId)

/**
 * What was entered at a step on this very pass: going back to it corrects that. A choice that led back to it, or to a
 * step in front of it, begins a new pass.
 */
export function entryOfThisPass(
  { entries, steps }: Pick<RunBody, 'entries' | 'steps'>,
  stepId: string,
): RunEntry | undefined {
  const own = steps.findIndex(({ id }) => id === stepId)
  const i = entries.findLastIndex((entry) => entry.stepId === stepId)
  const again = entries.slice(i + 1).some((entry) => {
    const choices = steps.find(({ id }) => id === entry.stepId)?.choices ?? []
    const to = choices.find(({ label }) => label === entry.words)?.backTo
    return to !== undefined && steps.findIndex(({ id }) => id === to) <= own
  })
  return i < 0 || again ? undefined : entries[i]
}

/** The reading before, at the same place and in the same state: what a jump is measured against. */
export function earlierReading(run: RunBody, step: RunStepDocument): RunEntry | undefined {
  const key = stateKey(step)
  const same = new Set(run.steps.filter((each) => stateKey(each) === key).map(({ id }) => id))
  return run.entries.findLast(
    (entry) => same.has(entry.stepId) && (entry.forwardW !== undefined || entry.swr !== undefined),
  )
}

const stateKey = ({ state, place, channelId }: RunStepDocument): string =>
  JSON.stringify([state ?? {}, place ?? 'meter', channelId])

/** Whether a step is done on the chain as it stands: only then is its reading one for the log. */
export function asItStands(chain: Chain, step: RunStepDocument, channel: RunChannel): boolean {
  if ((step.state?.load ?? 'antenna') !== 'antenna') return false
  const { chain: stepped } = chainOfStep(chain, step, channel)
  return stepped.stages.every(
    (stage, k) => Boolean(stage.bypassed) === Boolean(chain.stages[k]!.bypassed),
  )
}

const needs: Record<RunNeed, string> = {
  tuner: 'a tuner',
  'hand tuner': 'a tuner with knobs',
  'automatic tuner': 'a tuner that sets itself',
  amplifier: 'an amplifier',
  cable: 'a length of cable',
}
export const needText = (missing: readonly RunNeed[]): string =>
  missing.map((need) => needs[need]).join(' and ')

/** Why to unkey, and what to do about it. */
export function stopWords(
  reason: StopReason,
  document: ChainDocument,
  power: PowerUnit,
): { why: string; advice: string } {
  switch (reason.rule) {
    case 'SWR':
      return {
        why: `SWR ${formatSwr(reason.swr)} (${formatSwr(reason.range.low)} to ${formatSwr(reason.range.high)} with this meter), more than ${formatSwr(reason.most)} that this step allows.`,
        advice:
          'Check that the antenna is the right one and connected; trim the match at low power.',
      }
    case 'reflected':
      return {
        why: `${Math.round(100 * reason.share)} % of the power comes back; it was ${Math.round(100 * reason.before)} %.`,
        advice:
          'Something moved, arced or came loose. Feel for warm connectors only with the key up.',
      }
    case 'forward fell':
      return {
        why: `Forward power fell to ${formatPower(reason.watts, power)}; it was ${formatPower(reason.before, power)}.`,
        advice: 'A protection may have acted, or the supply sagged. Read the SWR at low power.',
      }
    case 'far below':
      return {
        why: `${formatPower(reason.watts, power)} is less than half of what is expected, ${formatPower(reason.expected, power)}.`,
        advice:
          'Is the radio in a reduced-power mode, the meter on the right range, the right port chosen?',
      }
    case 'far above':
      return {
        why: `${formatPower(reason.watts, power)} is far more than the expected ${formatPower(reason.expected, power)}.`,
        advice:
          'Is the power set as this step says, the amplifier as it should be, the range right?',
      }
    case 'part':
      return {
        why: `${partName(document, reason.stress.part)}: ${kindName(reason.stress)} over its limit by ${reason.overDb.toFixed(1)} dB.`,
        advice: 'Turn the power down. Headroom says how much it bears.',
      }
    case 'time':
      return {
        why: `The key was down for ${Math.round(reason.seconds)} s; ${Math.round(reason.most)} s are meant.`,
        advice: 'Let it cool before the next step.',
      }
  }
}

/** The figure of an entry, as it stands in lists. */
export function entryFigure(entry: RunEntry, power: PowerUnit): string {
  if (entry.outcome === 'skipped') return 'skipped'
  if (entry.forwardW !== undefined)
    return [
      formatPower(entry.forwardW, power),
      ...(entry.reflectedW === undefined ? [] : [`${formatPower(entry.reflectedW, power)} back`]),
    ].join(', ')
  if (entry.swr !== undefined) return `SWR ${formatSwr(entry.swr)}`
  if (entry.keyedS !== undefined) return `${Math.round(entry.keyedS)} s`
  return (entry.dials && dialText(entry.dials)) ?? entry.words ?? ''
}

/** Places in plain words. */
export const placeWords: Record<NonNullable<RunStepDocument['place']>, string> = {
  radio: 'at the radio',
  output: 'at the output',
  meter: 'at the wattmeter',
  tuner: 'in front of the tuner',
  antenna: 'at the antenna',
}

/** How the step is run: power, carrier or mode, what is switched through. */
export function stateWords(step: RunStepDocument, watts: number, power: PowerUnit): string {
  const { state = {} } = step
  return [
    `${formatPower(watts, power)} set`,
    ...(state.carrier ? ['steady carrier'] : []),
    ...(state.tuner === 'bypass' ? ['tuner in bypass'] : []),
    ...(state.amplifier === 'bypass' ? ['amplifier in bypass'] : []),
    ...(state.load === 'dummy' ? ['dummy load'] : []),
    ...(state.load === 'cable' ? ['cable under test, dummy load at its far end'] : []),
  ].join(', ')
}
