import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import type { Database } from '../db/open.ts'
import { addAntenna } from '../store/antennas.ts'
import { createChain } from '../store/chains.ts'
import { addGear, createStation, listStations } from '../store/stations.ts'
import * as demo from './merrowPoint.ts'
import { instruments, tellStory } from './story.ts'

/** Adds the demo station to a database that holds no station yet. */
export async function seedDemo(db: Database): Promise<void> {
  if ((await listStations(db)).length > 0) return
  await createStation(db, demo.station, demo.stationId)
  for (const document of [demo.petrel, demo.dunlin])
    await addGear(db, demo.stationId, { kind: 'transmitter', document }, document.gearId)
  for (const { id, document } of instruments)
    await addGear(db, demo.stationId, { kind: 'instrument', document }, id)
  for (const { id, ...body } of demo.stagesAsGear) await addGear(db, demo.stationId, body, id)
  for (const { id, sweepId, file, name, note } of demo.antennas) {
    const touchstone = readFileSync(resolve(import.meta.dirname, 'antennas', file), 'utf8')
    await addAntenna(
      db,
      demo.stationId,
      { name, note, sweepName: 'computed', touchstone, phaseKnown: true },
      { antenna: id, sweep: sweepId },
    )
  }
  for (const { id, document } of demo.chains) await createChain(db, demo.stationId, document, id)
  await tellStory(db)
}
