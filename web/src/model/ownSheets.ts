/** Run sheets of the station's own. */
import type { RunSheetDocument, Station } from '@saltline/contract'
import { type RunSheet, runSheets, type RunStep } from '@saltline/core'

type Block = RunSheetDocument['steps'][number]

/** A sheet of the station as any other. */
export const asSheet = (id: string, { name, ...document }: RunSheetDocument): RunSheet => ({
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

type Makes = Exclude<Block, { over: string }>['makes']

/** What a step may change in the station, as it is chosen from a list. */
export const changes = [
  { id: 'nothing', label: 'nothing changes', makes: undefined },
  { id: 'antenna', label: 'the antenna is connected', makes: { load: 'antenna' } },
  { id: 'dummy', label: 'the dummy load is connected', makes: { load: 'dummy' } },
  { id: 'cable', label: 'the cable under test is connected', makes: { load: 'cable' } },
  { id: 'amplifier-bypass', label: 'the amplifier is in bypass', makes: { amplifier: 'bypass' } },
  { id: 'amplifier-on', label: 'the amplifier is on', makes: { amplifier: 'on' } },
  { id: 'tuner-bypass', label: 'the tuner is in bypass', makes: { tuner: 'bypass' } },
  { id: 'tuner-in', label: 'the tuner is in circuit', makes: { tuner: 'in' } },
  { id: 'down', label: 'the power is down', makes: { power: 'down' } },
] as const satisfies readonly { id: string; label: string; makes: Makes }[]
export type Change = (typeof changes)[number]['id']

export const makesOf = (change: Change): Makes => changes.find(({ id }) => id === change)!.makes

/** The first change of several that a step makes. */
export const changeOf = (makes: Makes): Change =>
  changes.find(
    ({ makes: own }) =>
      own &&
      makes &&
      Object.entries(own).every(([key, value]) => makes[key as keyof typeof makes] === value),
  )?.id ?? 'nothing'
