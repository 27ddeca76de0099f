/** What of a station can lie on the bench, and what a result does to it. */
import { type ChainDocument, limits, type StageDocument, type Station } from '@saltline/contract'
import {
  cableClasses,
  type FitPoint,
  fitAttenuation,
  lineConstants,
  matchedLossDb,
} from '@saltline/core'
import { today } from '../../platform/today.ts'
import { call } from '../../platform/api/client.ts'
import { addGear, queryClient, updateGear } from '../../platform/api/queries.ts'
import { copyOfClass } from '../../model/stages/line.ts'
import { changeStage } from '../../model/edits.ts'
import { instrumentsOf } from '../../model/places.ts'
import type { SheetResult, Subject } from '../../worksheets/worksheet.ts'

/** The cables and small parts of a chain. */
export const subjectsOf = (chainId: string, { name: chain, stages }: ChainDocument): Subject[] =>
  stages.flatMap((stage): Subject[] => {
    const place = { chainId, stageId: stage.id }
    const base = { key: `${chainId}/${stage.id}`, place, group: chain, name: stage.name }
    if (stage.kind === 'line')
      return [{ ...base, kind: 'line', lengthM: stage.lengthM, cable: stage.cable }]
    return stage.kind === 'pad' ? [{ ...base, kind: 'pad' }] : []
  })

/** Every class of cable and the station's own cables: a piece need not be in a chain to be judged. */
export const cableSubjects = (station: Station): Subject[] => [
  ...station.gear.flatMap((gear): Subject[] =>
    gear.kind === 'cable'
      ? [
          {
            key: `cable/${gear.id}`,
            place: null,
            group: 'Custom cable',
            name: gear.document.name,
            kind: 'line',
            cable: gear.document,
          },
        ]
      : [],
  ),
  ...cableClasses.map((cable): Subject => ({
    key: `class/${cable.id}`,
    place: null,
    group: 'Cable class',
    name: cable.name,
    kind: 'line',
    cable: copyOfClass(cable),
  })),
]

type Loss = readonly (readonly [hz: number, db: number])[]

/**
 * How many times its data sheet's loss a cable was measured to have, over all frequencies.
 *
 * @param lengthM of the piece that was measured: it need not be as long as the section it stands for
 */
export function ageingOf({ cable }: Subject, lengthM: number, loss: Loss): number {
  const sheet = loss.map(([hz]) => matchedLossDb(lineConstants(cable!, hz), lengthM))
  const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0)
  return sum(loss.map(([, db]) => db)) / sum(sheet)
}

/** Of a 5 to 95 % range, the share that holds nineteen times in twenty. */
function shareOf({ value, low, high }: NonNullable<SheetResult['lead']>): number {
  const [least, most] = limits.cableTolerance
  const share = ((high - low) / 2 / value) * (1.96 / 1.645)
  return Number(Math.min(most, Math.max(least, value > 0 ? share : most)).toFixed(4))
}

/** Edits one stage of a chain as it is stored now; the edit is a revision like any other. */
async function editStage(
  { place }: Subject,
  change: (stage: StageDocument) => StageDocument,
  summary: string,
): Promise<void> {
  if (!place) throw new Error('This piece is in no chain.')
  const { chainId, stageId } = place
  const state = await call('GET /chains/:chainId', { params: { chainId } })
  await call('PUT /chains/:chainId', {
    params: { chainId },
    body: {
      baseRevision: state.revision,
      epoch: state.epoch,
      document: changeStage(stageId, change)(state.document),
      summary,
    },
  })
  await queryClient.invalidateQueries({ queryKey: ['chain', chainId] })
}

/** Puts a measured loss into the chain; returns what was done, in words. */
export async function takeAsLoss(
  subject: Subject,
  lengthM: number,
  { loss = [], lead }: Pick<SheetResult, 'loss' | 'lead'>,
): Promise<string> {
  const { name } = subject
  const points = [...loss]
    .sort((a, b) => a[0] - b[0])
    .map(([hz, db]) => [hz, Math.max(0, db)] as [number, number])
  const factor =
    subject.kind === 'line' ? Math.max(1, Number(ageingOf(subject, lengthM, loss).toFixed(2))) : 1
  const date = today()
  await editStage(
    subject,
    (stage) =>
      stage.kind === 'line'
        ? {
            ...stage,
            ageing: { factor, date, reason: 'measured on the bench' },
            ...(lead && { lossKnown: { share: shareOf(lead), on: date } }),
          }
        : stage.kind === 'pad'
          ? { ...stage, lossDb: points[0]![1], points, atHz: undefined }
          : stage,
    `${name}: loss as measured`,
  )
  return subject.kind === 'line'
    ? `${name} now has ${factor} times the loss of its data sheet`
    : `${name} now has the measured loss`
}

/** Puts a measured velocity factor into the section's copy of its cable. */
export async function takeAsVelocityFactor(subject: Subject, factor: number): Promise<string> {
  const velocityFactor = Number(factor.toFixed(3))
  await editStage(
    subject,
    (stage) =>
      stage.kind === 'line' ? { ...stage, cable: { ...stage.cable, velocityFactor } } : stage,
    `${subject.name}: velocity factor as measured`,
  )
  return `${subject.name} now has a velocity factor of ${velocityFactor}`
}

/** Makes a cable of the station's own from a measured loss. @throws InputError where it has no law */
export async function makeOwnCable(
  station: Station,
  subject: Subject | null,
  lengthM: number,
  loss: Loss,
): Promise<{ name: string; points: FitPoint[] }> {
  const fit = fitAttenuation(loss.map(([hz, db]) => [hz / 1e6, (db * 100) / lengthM] as const))
  const name = `${subject?.name ?? 'Cable'}, measured`.slice(0, 80)
  await addGear(station.id, {
    kind: 'cable',
    document: {
      name,
      z0Ohm: subject?.cable?.z0Ohm ?? 50,
      velocityFactor: subject?.cable?.velocityFactor ?? 0.66,
      k1DbPer100m: fit.k1DbPer100m,
      k2DbPer100m: fit.k2DbPer100m,
      maxHz: Math.max(...loss.map(([hz]) => hz)),
    },
  })
  return { name, points: fit.points }
}

/** Keeps a correction with its instrument: its readings are corrected by it from now on. */
export async function keepCalibration(
  station: Station,
  { instrumentId, name, points, doubt }: NonNullable<SheetResult['calibration']>,
): Promise<string> {
  const instrument = instrumentsOf(station).find(({ id }) => id === instrumentId)
  if (!instrument) throw new Error('That instrument is no longer in Gear.')
  const on = today()
  await updateGear(instrumentId, {
    kind: 'instrument',
    document: {
      ...instrument.document,
      checkedOn: on,
      calibration: { on, points: points.map(([shown, real]) => [shown, real]), doubt },
    },
  })
  return `Readings of ${name} are corrected from now on; what it showed is kept beside them`
}
