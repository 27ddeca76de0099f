/** What is stored and what is sent: schemas first, types inferred. */
export * from './api.ts'
export * from './cable.ts'
export * from './chain.ts'
export { limits } from './fields.ts'
export * from './ids.ts'
export * from './station.ts'
export * from './stationFile.ts'
