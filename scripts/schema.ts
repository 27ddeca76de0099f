/** `npm run schema`: writes docs/station.schema.json from the schema that the server validates with. */
import { writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { stationFileSchema } from '../contract/src/index.ts'
import { format } from 'oxfmt'
import { z } from 'zod'

const file = resolve(import.meta.dirname, '../docs/station.schema.json')
const text = JSON.stringify(z.toJSONSchema(stationFileSchema, { io: 'input' }))
writeFileSync(file, (await format(file, text, { printWidth: 100 })).code)
