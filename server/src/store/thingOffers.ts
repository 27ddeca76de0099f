/** What may become a thing of the register: entries of Gear, antennas, and equal parts of chains. */
import {
  figuresOf,
  type OfferedThing,
  sameFigures,
  type StageDocument,
  type UnmarkedThing,
} from '@saltline/contract'
import type { Database } from '../db/open.ts'
import { readStation } from './stations.ts'
import { chainsAsTheyStand, entriesOf, rowsOf, stagesOf } from './things.ts'

/** Entries of Gear and antennas that are no thing yet, each with a mark that is free. */
export async function unmarkedThings(db: Database, stationId: string): Promise<UnmarkedThing[]> {
  const station = await readStation(db, stationId)
  const rows = await rowsOf(db, stationId)
  const known = new Set(rows.flatMap(({ body }) => body.of?.id ?? []))
  const marks = new Set(rows.map(({ body }) => body.mark))
  return entriesOf(station)
    .filter(({ of }) => !known.has(of.id))
    .map(({ letter, ...entry }) => ({ mark: freeMark(letter, marks), ...entry }))
}

/**
 * What may be made one thing: stages that are equal by name and figures in several chains, and amplifiers and tuners that
 * the station keeps in Gear, with the stages that are equal to them.
 */
export async function offeredThings(db: Database, stationId: string): Promise<OfferedThing[]> {
  const station = await readStation(db, stationId)
  const rows = await rowsOf(db, stationId)
  const known = new Set(rows.map(({ id }) => id))
  const marks = new Set(rows.map(({ body }) => body.mark))
  const isThing = (figures: StageDocument) =>
    rows.some(({ body }) => body.stage && sameFigures(body.stage, figures))
  const groups: Group[] = station.gear.flatMap(({ kind, document }) =>
    (kind === 'amplifier' || kind === 'tuner') && !isThing(document)
      ? [{ stage: document, least: 0, places: [] }]
      : [],
  )
  for (const { stage, ...place } of stagesOf(await chainsAsTheyStand(db, stationId))) {
    if (stage.thingId !== undefined && known.has(stage.thingId)) continue
    const group = groups.find(
      (each) =>
        sameFigures(each.stage, stage) &&
        // One thing does not stand twice in a chain.
        each.places.every(({ chainId }) => chainId !== place.chainId),
    )
    if (group) group.places.push(place)
    else groups.push({ stage, least: 2, places: [place] })
  }
  return groups
    .filter(({ places, least }) => places.length >= least)
    .map(({ stage, places }) => ({
      mark: freeMark(lettersOfStages[stage.kind] ?? 'P', marks),
      stage: figuresOf(stage),
      places,
    }))
}

interface Group {
  stage: StageDocument
  /** How often it must stand to be worth an offer. */
  least: number
  places: OfferedThing['places']
}

const lettersOfStages: Partial<Record<StageDocument['kind'], string>> = {
  line: 'L',
  tuner: 'T',
  amplifier: 'A',
}

/** The first that is free, taken from now on. */
function freeMark(letter: string, taken: Set<string>): string {
  for (let n = 1; ; n++) {
    const mark = `${letter}${n}`
    if (taken.has(mark)) continue
    taken.add(mark)
    return mark
  }
}
