/** Run sheets of the station's own. */
import type { RunSheetDocument, Station } from '@saltline/contract'
import { type RunSheet, runSheets, type RunStep } from '@saltline/core'

type Block = RunSheetDocument['steps'][number]

/** A sheet of the station as any other. */
const asSheet = (id: string, { name, ...document }: RunSheetDocument): RunSheet => ({
  ...document,
  id,
  title: name,
})

export const ownSheets = ({ gear }: Pick<Station, 'gear'>): RunSheet[] =>
  gear.flatMap((each) => (each.kind === 'sheet' ? [asSheet(each.id, each.document)] : []))

/** The sheets that ship, and the station's own behind them. */
export const sheetsOf = (station: Pick<Station, 'gear'>): RunSheet[] => [
  ...runSheets,
  ...ownSheets(station),
]

/** A copy to be changed. */
export function copyOfSheet({ id, title, purpose, needs, steps }: RunSheet): RunSheetDocument {
  return {
    name: `${title}, own`.slice(0, 80),
    purpose,
    version: 1,
    copiedFrom: id,
    needs: [...needs],
    steps: JSON.parse(JSON.stringify(steps)) as Block[],
  }
}

export const stepsOf = (blocks: readonly (Block | RunSheet['steps'][number])[]): RunStep[] =>
  blocks.flatMap((block) => ('over' in block ? [...block.steps] : [block]))

/** Cautions of the sheet it was copied from that it does not have any more. */
export function lostCautions({ copiedFrom, steps }: RunSheetDocument): RunStep[] {
  const original = runSheets.find(({ id }) => id === copiedFrom)
  if (!original) return []
  const kept = new Set(stepsOf(steps).map(({ id }) => id))
  return stepsOf(original.steps).filter(({ id, kind }) => kind === 'caution' && !kept.has(id))
}

/** A block in another place. */
export function moved<T>(items: readonly T[], index: number, by: -1 | 1): T[] {
  const to = index + by
  if (to < 0 || to >= items.length) return [...items]
  const next = [...items]
  next.splice(to, 0, ...next.splice(index, 1))
  return next
}
