import type { Gear, Station } from '@saltline/contract'

export type OwnCable = Gear & { kind: 'cable' }

/** The cables that the station has made for itself. */
export const ownCables = (station: Pick<Station, 'gear'>): OwnCable[] =>
  station.gear.filter((gear): gear is OwnCable => gear.kind === 'cable')
