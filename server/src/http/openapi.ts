import { problemSchema } from '@saltline/contract'
import { z } from 'zod'
import type { Route } from './route.ts'

/** The OpenAPI 3.1 description, made from the routes' own schemas. */
export function openApi(routes: readonly Route[], version: string) {
  const paths: Record<string, Record<string, unknown>> = {}
  for (const r of routes) {
    const path = `/api${r.path.replace(/:(\w+)/g, '{$1}')}`
    const parameters = [...r.path.matchAll(/:(\w+)/g)].map(([, name]) => ({
      name,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    }))
    for (const [name, schema] of Object.entries(r.query?.shape ?? {}))
      parameters.push({
        name,
        in: 'query',
        required: false,
        schema: refOf(schema as z.ZodType, 'input') as { type: string },
      })
    paths[path] ??= {}
    paths[path][r.method] = {
      summary: r.summary,
      ...(parameters.length > 0 && { parameters }),
      ...(r.body && { requestBody: { required: true, content: json(refOf(r.body, 'input')) } }),
      responses: {
        [r.status ?? 200]: { description: 'Done', content: json(refOf(r.response, 'output')) },
        default: {
          description: 'What went wrong, as problem details (RFC 9457)',
          content: { 'application/problem+json': { schema: refOf(problemSchema, 'output') } },
        },
      },
    }
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Salt Line',
      version,
      description: 'RF power from transmitter to antenna: stations, chains and their solutions.',
    },
    paths,
    components: { schemas: components() },
  }
}

const json = (schema: unknown) => ({ 'application/json': { schema } })

const uri = (id: string) => `#/components/schemas/${id}`

/** Schemas with an id become components, others are written where they stand. */
function refOf(schema: z.ZodType, io: 'input' | 'output'): unknown {
  const id = z.globalRegistry.get(schema)?.id
  if (id) return { $ref: uri(id) }
  return strip(z.toJSONSchema(schema, { io, unrepresentable: 'any' }))
}

function components(): Record<string, unknown> {
  const { schemas } = z.toJSONSchema(z.globalRegistry, { uri, unrepresentable: 'any', io: 'input' })
  return Object.fromEntries(Object.entries(schemas).map(([id, schema]) => [id, strip(schema)]))
}

/** `$schema` and `$id` belong to files of their own, not to parts of this document. */
function strip(schema: object): object {
  const { $schema: _schema, $id: _id, $defs, ...rest } = schema as Record<string, unknown>
  return $defs === undefined ? rest : hoist(rest)
}

/** Inner references of an inline schema point at the shared components. */
const hoist = (schema: object): object =>
  JSON.parse(JSON.stringify(schema).replaceAll('"#/$defs/', '"#/components/schemas/')) as object
