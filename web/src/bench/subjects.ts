/** What of a station can lie on the bench, and what a result does to it. */
import {
  type ChainDocument,
  chainStateSchema,
  type StageDocument,
  type Station,
} from '@saltline/contract'
import { type FitPoint, fitAttenuation, lineConstants, matchedLossDb } from '@saltline/core'
import { call } from '../api/client.ts'
import { addGear, queryClient } from '../api/queries.ts'
import { changeStage } from '../chain/edits.ts'
import type { Subject } from './worksheet.ts'

/** The cables and small parts of a chain. */
export const subjectsOf = (chainId: string, { name: chain, stages }: ChainDocument): Subject[] =>
  stages.flatMap((stage): Subject[] => {
    const base = { chainId, chain, stageId: stage.id, name: stage.name }
    if (stage.kind === 'line')
      return [{ ...base, kind: 'line', lengthM: stage.lengthM, cable: stage.cable }]
    return stage.kind === 'pad' ? [{ ...base, kind: 'pad' }] : []
  })

type Loss = readonly (readonly [hz: number, db: number])[]

/** How many times its data sheet's loss a cable was measured to have, over all frequencies. */
export function ageingOf({ cable, lengthM = 0 }: Subject, loss: Loss): number {
  const sheet = loss.map(([hz]) => matchedLossDb(lineConstants(cable!, hz), lengthM))
  const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0)
  return sum(loss.map(([, db]) => db)) / sum(sheet)
}

/** Edits one stage of a chain as it is stored now; the edit is a revision like any other. */
async function editStage(
  { chainId, stageId }: Subject,
  change: (stage: StageDocument) => StageDocument,
  summary: string,
): Promise<void> {
  const state = await call('GET', `/chains/${chainId}`, chainStateSchema)
  await call('PUT', `/chains/${chainId}`, chainStateSchema, {
    baseRevision: state.revision,
    document: changeStage(stageId, change)(state.document),
    summary,
  })
  await queryClient.invalidateQueries({ queryKey: ['chain', chainId] })
}

/** Puts a measured loss into the chain; returns what was done, in words. */
export async function takeAsLoss(subject: Subject, loss: Loss): Promise<string> {
  const { name } = subject
  const points = [...loss]
    .sort((a, b) => a[0] - b[0])
    .map(([hz, db]) => [hz, Math.max(0, db)] as [number, number])
  const factor =
    subject.kind === 'line' ? Math.max(1, Number(ageingOf(subject, loss).toFixed(2))) : 1
  const date = new Date().toISOString().slice(0, 10)
  await editStage(
    subject,
    (stage) =>
      stage.kind === 'line'
        ? { ...stage, ageing: { factor, date, reason: 'measured on the bench' } }
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
  subject: Subject,
  lengthM: number,
  loss: Loss,
): Promise<{ name: string; points: FitPoint[] }> {
  const fit = fitAttenuation(loss.map(([hz, db]) => [hz / 1e6, (db * 100) / lengthM] as const))
  const name = `${subject.name}, measured`
  await addGear(station.id, {
    kind: 'cable',
    document: {
      name,
      z0Ohm: subject.cable?.z0Ohm ?? 50,
      velocityFactor: subject.cable?.velocityFactor ?? 0.66,
      k1DbPer100m: fit.k1DbPer100m,
      k2DbPer100m: fit.k2DbPer100m,
      maxHz: Math.max(...loss.map(([hz]) => hz)),
    },
  })
  return { name, points: fit.points }
}
