import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { sql } from 'drizzle-orm'
import { type Database, openDatabase } from '../db/open.ts'
import { inServer } from '../home.ts'
import { addAntenna } from '../store/antennas.ts'
import { replaceAll } from '../store/backup.ts'
import { createChain } from '../store/chains.ts'
import { addGear, createStation, listStations } from '../store/stations.ts'
import { addThing } from '../store/things.ts'
import { inFolder } from '../work/folder.ts'
import * as demo from './merrowPoint.ts'
import { instruments, tellStory } from './story.ts'

/** Adds the demo station to a database that holds no station yet: all of it at once, or nothing. */
export async function addDemo(db: Database): Promise<void> {
  const { count } = await db.get<{ count: number }>(sql`SELECT count(*) AS count FROM stations`)
  if (count > 0) return
  await inFolder(async (folder) => {
    const file = join(folder, 'demo.sqlite')
    const demo = await openDatabase(file, { create: true, fill: seedDemo })
    demo.close()
    await replaceAll(db.file, file)
  })
}

/** Writes the demo station, part by part, into a database that nobody else uses yet. */
export async function seedDemo(db: Database): Promise<void> {
  if ((await listStations(db)).length > 0) return
  await createStation(db, demo.station, demo.stationId)
  for (const document of [demo.petrel, demo.dunlin])
    await addGear(db, demo.stationId, { kind: 'transmitter', document }, document.gearId)
  for (const { id, document } of instruments)
    await addGear(db, demo.stationId, { kind: 'instrument', document }, id)
  for (const { id, ...body } of demo.stagesAsGear) await addGear(db, demo.stationId, body, id)
  for (const { id, sweepId, file, name, note } of demo.antennas) {
    const touchstone = readFileSync(inServer('src/demo/antennas', file), 'utf8')
    await addAntenna(
      db,
      demo.stationId,
      { name, note, sweepName: 'computed', touchstone, phaseKnown: true },
      { antenna: id, sweep: sweepId },
    )
  }
  for (const { id, document } of demo.chains) await createChain(db, demo.stationId, document, id)
  for (const { id, ...thing } of demo.things) await addThing(db, demo.stationId, thing, id)
  await tellStory(db)
}
