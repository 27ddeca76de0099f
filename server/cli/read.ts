/** What is typed behind an option, in the grammar of the fields. */
import { readFileSync } from 'node:fs'
import { text as allOf } from 'node:stream/consumers'
import { type ChainDocument, chainDocumentSchema, limits } from '@saltline/contract'
import {
  type CableClass,
  cableClasses,
  type Dimension,
  findsCable,
  parseQuantity,
  type Stage,
} from '@saltline/core'
import { Refusal } from './say.ts'

/**
 * A quantity behind an option, in its dimension's own unit.
 *
 * @throws Refusal that names the option
 */
export function quantity(
  option: string,
  text: string,
  dimension: Dimension,
  unit: string,
  [min, max]: readonly [number, number],
): number {
  const parsed = parseQuantity(text, dimension, unit, { min, max })
  if (!parsed.ok) throw new Refusal(`--${option} ${text}: ${parsed.message}`)
  if (parsed.other !== undefined)
    throw new Refusal(
      `--${option} ${text}: that may be ${parsed.value} or ${parsed.other}. Write it without a sign between thousands.`,
    )
  return parsed.value
}

export const lengthOf = (text: string): number =>
  quantity('length', text, 'length', 'm', limits.lengthM)
export const frequencyOf = (text: string): number =>
  quantity('frequency', text, 'frequency', 'MHz', limits.frequencyHz)
export const powerOf = (text: string): number =>
  quantity('power', text, 'power', 'W', limits.powerW)
export const swrOf = (text: string): number => quantity('swr', text, 'swr', '', limits.swr)

/** A class of cable by its identity, name, marking or trade size. @throws Refusal where none or several are meant */
export function cableOf(text: string): CableClass {
  const exact = cableClasses.find(
    ({ id, name }) => id === text || name.toLowerCase() === text.toLowerCase(),
  )
  if (exact) return exact
  const found = cableClasses.filter((sheet) => findsCable({ ...sheet, sheet }, text))
  const byMarking = found.filter(({ jacketMarkings }) =>
    jacketMarkings.some((marking) => plain(marking) === plain(text)),
  )
  const [only, ...more] = byMarking.length > 0 ? byMarking : found
  if (!only)
    throw new Refusal(`“${text}” is no cable that is known. “saltline cables” lists them all.`)
  if (more.length > 0)
    throw new Refusal(
      `“${text}” may be ${[only, ...more].map(({ name }) => name).join(' or ')}: write one of them.`,
    )
  return only
}

const plain = (text: string): string => text.toLowerCase().replace(/[^a-z0-9]/g, '')

/** `5 mm solid PE:17m` is a length of a cable. */
export function sectionOf(text: string): Extract<Stage, { kind: 'line' }> {
  const cut = text.lastIndexOf(':')
  if (cut < 0)
    throw new Refusal(`“${text}”: write a cable, a colon and a length, as in "5 mm solid PE:17m".`)
  return {
    kind: 'line',
    cable: cableOf(text.slice(0, cut).trim()),
    lengthM: lengthOf(text.slice(cut + 1).trim()),
  }
}

/** A file, or standard input for `-`. @throws Refusal where it cannot be read */
export async function textOf(path: string): Promise<string> {
  if (path === '-') return allOf(process.stdin)
  try {
    return readFileSync(path, 'utf8')
  } catch (error) {
    throw new Refusal(`“${path}” cannot be read: ${(error as Error).message}.`)
  }
}

/** A chain as the program saves and exports it, alone or with what the API says around it. @throws Refusal */
export async function chainOf(path: string): Promise<ChainDocument> {
  const text = await textOf(path)
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch (error) {
    throw new Refusal(`“${path}” is no JSON: ${(error as Error).message}.`)
  }
  const inside = (data as { document?: unknown } | null)?.document
  const parsed = chainDocumentSchema.safeParse(inside ?? data)
  if (parsed.success) return parsed.data
  const [issue] = parsed.error.issues
  throw new Refusal(`“${path}” is no chain: ${issue!.path.join('.')}: ${issue!.message}`)
}
