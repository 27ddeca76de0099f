/** What a sweep found of an open or shorted line, as edits of the chain: one press, undone like any other. */
import type { ChainDocument, StageDocument } from '@saltline/contract'
import {
  type AlongLine,
  decimals,
  formatLength,
  type LengthUnit,
  lineConstants,
  matchedLossDb,
  type SweepFigures,
} from '@saltline/core'
import { changeStage, type Edit } from './edits.ts'

type Line = Extract<StageDocument, { kind: 'line' }>

export interface Acceptance {
  label: string
  edit: Edit
}

/** As the ranges of lengths and of ageing have it: nothing is put right by less. */
const LEAST_SHARE = 0.01
const LEAST_LOSS_DB = 0.1
const MOST_AGED = 20

/**
 * The longest cable on the way takes what was found: nobody can say by the end alone which of them is longer, or loses more.
 *
 * @param middleHz of the sweep
 * @param swept the day of the sweep, and what it is called
 */
export function acceptances(
  { stages }: ChainDocument,
  plane: number,
  { end, placesM }: Pick<AlongLine, 'end' | 'placesM'>,
  figures: SweepFigures,
  middleHz: number,
  swept: { day: string; name: string },
  unit: LengthUnit,
): Acceptance[] {
  const longest = stages
    .slice(plane)
    .filter((stage): stage is Line => stage.kind === 'line' && !stage.bypassed)
    .reduce<Line | null>((best, line) => (best && best.lengthM >= line.lengthM ? best : line), null)
  if (!end || !longest) return []
  const { id, name, lengthM, cable } = longest
  const found: Acceptance[] = []
  const offM = end.atM - placesM.at(-1)!
  const longerM = Number((lengthM + offM).toFixed(2))
  if (Math.abs(offM) > LEAST_SHARE * placesM.at(-1)! && longerM > 0)
    found.push({
      label: `Make ${name} ${formatLength(longerM, unit)} long`,
      edit: changeStage(id, (own) => (own.kind === 'line' ? { ...own, lengthM: longerM } : own)),
    })
  const extra = figures.extraLossDb
  if (extra && extra.value >= LEAST_LOSS_DB) {
    const newDb = matchedLossDb(lineConstants(cable, middleHz), lengthM)
    const factor = Number(((longest.ageing?.factor ?? 1) + extra.value / newDb).toFixed(2))
    const share = Number(Math.min(1, (extra.high - extra.low) / 2 / (factor * newDb)).toFixed(4))
    if (factor <= MOST_AGED)
      found.push({
        label: `Let ${name} lose ${decimals((factor - 1) * 100, 0)}\u00a0% more than new`,
        edit: changeStage(id, (own) =>
          own.kind === 'line'
            ? {
                ...own,
                ageing: {
                  factor,
                  date: swept.day,
                  reason: `by the sweep ${swept.name}`.slice(0, 80),
                },
                lossKnown: { share, on: swept.day },
              }
            : own,
        ),
      })
  }
  return found
}
