import { makeTemplate, TEMPLATE } from './station.ts'

export default async function prepare() {
  const { file, remove } = await makeTemplate()
  process.env[TEMPLATE] = file
  return remove
}
