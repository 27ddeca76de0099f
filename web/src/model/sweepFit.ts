/** What a sweep says of each part of a chain, in words, and as edits: one press, undone like any other. */
import type { ChainDocument, LoadDocument, StageDocument } from '@saltline/contract'
import {
  conversionOf,
  decimals,
  type FittedFigure,
  formatFrequency,
  type LengthUnit,
  type SweepFit,
} from '@saltline/core'
import { changeStage, type Edit } from './edits.ts'

export interface FitRow {
  /** The part, and which of its figures. */
  part: string
  what: string
  written: string
  found: string
  range: string
  /** What is written down lies outside the range. */
  off: boolean
  take: { label: string; edit: Edit } | null
}

/** The day of a sweep, and what it is called. */
export interface Swept {
  day: string
  name: string
}

type Line = Extract<StageDocument, { kind: 'line' }>
type Resonator = Extract<LoadDocument, { kind: 'resonator' }>

/** A document holds no more: see the contract’s limits of ageing. */
const AGED = [1, 20] as const
/** What reflects less is a good joint, |ρ|. */
const LEAST_RHO = 0.01
const LEAST_EXTRA_DB = 0.05
/** Ranges of lengths and losses that are kept hold nineteen times in twenty; these nine in ten. */
const WIDER = 1.96 / 1.645

const isOff = ({ written, low, high }: FittedFigure) => written < low || written > high
const db = (value: number) => `${decimals(Math.max(0, value), 2)}\u00a0dB`
const ohm = (value: number) => `${decimals(value, 1)}\u00a0Ω`

/** To a hundredth: a sweep tells lengths better than a tape that is pulled along a duct. */
const lengthText = (unit: LengthUnit) => (m: number) =>
  `${decimals(conversionOf('length', unit)!.fromOwn(m), 2)}\u00a0${unit}`

function rowOf(
  part: string,
  what: string,
  figure: FittedFigure,
  text: (value: number) => string,
  take: FitRow['take'],
): FitRow {
  const off = isOff(figure)
  return {
    ...{ part, what, off, take: off ? take : null },
    written: text(figure.written),
    found: text(figure.value),
    range: `${text(figure.low)} to ${text(figure.high)}`,
  }
}

/**
 * What a sweep tells, a row a figure.
 *
 * @param stages of the chain from the plane of the sweep on
 */
export function fitRows(
  fit: SweepFit,
  stages: readonly StageDocument[],
  load: LoadDocument,
  swept: Swept,
  unit: LengthUnit,
): FitRow[] {
  const length = lengthText(unit)
  const at = formatFrequency(fit.middleHz)
  const rows: FitRow[] = []
  /** The joint in front of a stage, or of what stands at the far end. */
  const joint = (k: number, part: string) => {
    const own = fit.joints.find(({ stage }) => stage === k)
    if (!own) return
    const { rOhm, xOhm, extraDb, rho } = own
    if (rho >= LEAST_RHO && (isOff(rOhm) || isOff(xOhm)))
      rows.push({
        ...{ part, what: `joint at its input, at ${at}`, off: true, take: null },
        written: '',
        found: `|ρ|\u00a0${decimals(rho, 2)}`,
        range: `${ohm(Math.max(0, rOhm.low))} to ${ohm(Math.max(0, rOhm.high))} in series, reactance ${ohm(xOhm.value)}`,
      })
    if (extraDb.low > LEAST_EXTRA_DB)
      rows.push(rowOf(part, 'loss at its input that belongs to no part', extraDb, db, null))
  }
  stages.forEach((stage, k) => {
    joint(k, stage.name)
    const line = fit.lines.find((own) => own.stage === k)
    if (!line || stage.kind !== 'line') return
    if (line.lengthM.told)
      rows.push(
        rowOf(stage.name, 'length', line.lengthM, length, takeLength(stage, line.lengthM, length)),
      )
    if (line.lossDb.told)
      rows.push(rowOf(stage.name, `loss at ${at}`, line.lossDb, db, takeLoss(stage, line, swept)))
  })
  joint(stages.length, 'Far end')
  if (fit.lossDb.told) rows.push(rowOf('All of the way', `loss at ${at}`, fit.lossDb, db, null))
  const { antenna } = fit
  if (antenna?.resonator && load.kind === 'resonator') {
    const { resonanceHz, q, rOhm } = antenna.resonator
    const take = takeResonator(load, antenna.resonator)
    rows.push(rowOf(load.name, 'resonance', resonanceHz, (hz) => formatFrequency(hz), take))
    rows.push(rowOf(load.name, 'Q', q, (value) => decimals(value, 1), null))
    rows.push(rowOf(load.name, 'resistance', rOhm, ohm, null))
  } else if (antenna?.frequencies.told)
    rows.push(
      rowOf(
        load.name,
        'its frequencies, against its own sweep',
        antenna.frequencies,
        (share) => `${decimals(100 * share, 2)}\u00a0%`,
        null,
      ),
    )
  return rows
}

function takeLength(
  { id, name }: Line,
  { value }: FittedFigure,
  text: (m: number) => string,
): FitRow['take'] {
  const lengthM = Number(value.toFixed(2))
  if (!(lengthM > 0)) return null
  return {
    label: `Make ${name} ${text(lengthM)} long`,
    edit: changeStage(id, (own) => (own.kind === 'line' ? { ...own, lengthM } : own)),
  }
}

function takeLoss(
  { id, name, ageing }: Line,
  { lossPerMetre: { value, low, high } }: SweepFit['lines'][number],
  { day, name: file }: Swept,
): FitRow['take'] {
  const factor = Number(((ageing?.factor ?? 1) * value).toFixed(2))
  if (factor <= AGED[0] || factor > AGED[1]) return null
  const share = Number(Math.min(1, (WIDER * (high - low)) / 2 / value).toFixed(4))
  return {
    label: `Let ${name} lose ${decimals((factor - 1) * 100, 0)}\u00a0% more than new`,
    edit: changeStage(id, (own) =>
      own.kind === 'line'
        ? {
            ...own,
            ageing: { factor, date: day, reason: `by the sweep ${file}`.slice(0, 80) },
            lossKnown: { share, on: day },
          }
        : own,
    ),
  }
}

function takeResonator(
  { name }: Resonator,
  found: { resonanceHz: FittedFigure; q: FittedFigure; rOhm: FittedFigure },
): FitRow['take'] {
  const figures = {
    resonanceHz: Math.round(found.resonanceHz.value / 100) * 100,
    q: Number(found.q.value.toFixed(2)),
    rOhm: Number(found.rOhm.value.toFixed(1)),
  }
  return {
    label: `Let ${name} resonate at ${formatFrequency(figures.resonanceHz)}`,
    edit: (document: ChainDocument) =>
      document.load.kind === 'resonator'
        ? { ...document, load: { ...document.load, ...figures } }
        : document,
  }
}

/** What the sweep cannot say, and how well it fits, a sentence each. */
export function fitDoubts(fit: SweepFit, stages: readonly { name: string }[]): string[] {
  const names = (kind: 'lengthM' | 'lossDb') =>
    fit.lines
      .filter((line) => !line[kind].told)
      .map(({ stage }) => stages[stage]!.name)
      .join(', ')
  const [lengths, losses] = [names('lengthM'), names('lossDb')]
  return [
    ...(fit.fits
      ? []
      : [
          `The chain does not fit this sweep well: |ρ| ${decimals(fit.rms, 3)} is left. Something reflects that is no part of it; look along the line.`,
        ]),
    ...fit.together.map(
      ({ what, stages: [a, b] }) =>
        `The ${what === 'length' ? 'lengths' : 'losses'} of ${stages[a]!.name} and ${stages[b]!.name} are known better together than one by one.`,
    ),
    ...(lengths ? [`It says nothing new of the length of ${lengths}.`] : []),
    ...(losses ? [`It says nothing new of the loss of ${losses}.`] : []),
    ...(fit.lines.some(({ lengthM }) => lengthM.told)
      ? [
          'Lengths are for the velocity factors that are written down: a sweep cannot tell one from the other.',
        ]
      : []),
  ]
}
