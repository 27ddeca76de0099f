import * as schema from './schema.ts'

/** Every table, those first that others point at. */
export const allTables = [
  schema.record,
  schema.stations,
  schema.gear,
  schema.antennas,
  schema.sweeps,
  schema.chains,
  schema.chainRevisions,
  schema.rounds,
  schema.readings,
  schema.roundMeans,
  schema.lineSweeps,
  schema.events,
  schema.measurements,
  schema.runs,
  schema.attempts,
  schema.things,
  schema.duties,
  schema.dutyMarks,
  schema.arrivals,
]
