import type { Cable } from '../line/cable.ts'

/** A class of cable by what it is; values are typical of the class, not of any one make. */
export interface CableClass extends Cable {
  id: string
  name: string
  /** Outer diameter, mm. */
  outerMm: number
  /** Standard type designations seen on jackets of this class. */
  jacketMarkings: string[]
}

/** Typical classes to start from: thin to thick, with k₁ and k₂ fitted to typical attenuation. */
export const cableClasses: readonly CableClass[] = [
  {
    id: 'pe-2.8',
    name: '2.8 mm solid PTFE',
    outerMm: 2.5,
    z0Ohm: 50,
    velocityFactor: 0.7,
    k1DbPer100m: 2.5,
    k2DbPer100m: 0.006,
    maxHz: 3e9,
    jacketMarkings: ['RG-316'],
  },
  {
    id: 'pe-5',
    name: '5 mm solid PE',
    outerMm: 5,
    z0Ohm: 50,
    velocityFactor: 0.66,
    k1DbPer100m: 1.45,
    k2DbPer100m: 0.006,
    maxHz: 1e9,
    jacketMarkings: ['RG-58', 'RG-58C/U'],
  },
  {
    id: 'foam-5',
    name: '5 mm foam PE',
    outerMm: 5,
    z0Ohm: 50,
    velocityFactor: 0.83,
    k1DbPer100m: 0.97,
    k2DbPer100m: 0.003,
    maxHz: 3e9,
    jacketMarkings: [],
  },
  {
    id: 'foam-7',
    name: '7 mm foam PE',
    outerMm: 7.3,
    z0Ohm: 50,
    velocityFactor: 0.83,
    k1DbPer100m: 0.72,
    k2DbPer100m: 0.0025,
    maxHz: 3e9,
    jacketMarkings: [],
  },
  {
    id: 'foam-7-75',
    name: '7 mm foam PE, 75 Ω',
    outerMm: 6.9,
    z0Ohm: 75,
    velocityFactor: 0.82,
    k1DbPer100m: 0.62,
    k2DbPer100m: 0.0016,
    maxHz: 2.4e9,
    jacketMarkings: ['RG-6'],
  },
  {
    id: 'pe-10',
    name: '10 mm solid PE',
    outerMm: 10.3,
    z0Ohm: 50,
    velocityFactor: 0.66,
    k1DbPer100m: 0.62,
    k2DbPer100m: 0.0045,
    maxHz: 1e9,
    jacketMarkings: ['RG-213', 'RG-213/U'],
  },
  {
    id: 'foam-10',
    name: '10 mm foam PE',
    outerMm: 10.3,
    z0Ohm: 50,
    velocityFactor: 0.85,
    k1DbPer100m: 0.38,
    k2DbPer100m: 0.0012,
    maxHz: 6e9,
    jacketMarkings: [],
  },
  {
    id: 'corrugated-13',
    name: '13 mm corrugated',
    outerMm: 16,
    z0Ohm: 50,
    velocityFactor: 0.88,
    k1DbPer100m: 0.212,
    k2DbPer100m: 0.00045,
    maxHz: 8e9,
    jacketMarkings: [],
  },
]
