import type { Reading } from '@saltline/contract'
import type { readings } from '../db/schema.ts'

/** A row as it is sent. */
export const asReading = ({
  n: _n,
  stationId: _station,
  deletedAt: _deleted,
  chainRevision: _revision,
  ...row
}: typeof readings.$inferSelect): Reading => row
