import type { Database } from '../db/connection.ts'
import type { Route } from '../http/route.ts'
import { attemptRoutes } from './attempts.ts'
import { chainRoutes } from './chains.ts'
import { dutyRoutes } from './duties.ts'
import { lineSweepRoutes } from './lineSweeps.ts'
import { logRoutes } from './log.ts'
import { runRoutes } from './runs.ts'
import { solveRoutes } from './solve.ts'
import { stationRoutes } from './stations.ts'
import { thingRoutes } from './things.ts'

/** Every address of the API that takes and gives JSON. */
export const apiRoutes = (db: Database): Route[] => [
  ...stationRoutes(db),
  ...chainRoutes(db),
  ...logRoutes(db),
  ...lineSweepRoutes(db),
  ...thingRoutes(db),
  ...dutyRoutes(db),
  ...runRoutes(db),
  ...attemptRoutes(db),
  ...solveRoutes(db),
]
