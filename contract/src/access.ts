/** Who may read and write when the server is open to the network: signing in, bringing a phone in, tokens. */
import { z } from 'zod'
import { idSchema } from './ids.ts'
import { line } from './text.ts'

/** What a token may: read; that and enter readings, runs, attempts and live figures; everything but access itself. */
export const scopeSchema = z.enum(['read', 'enter', 'everything'])
export type Scope = z.infer<typeof scopeSchema>

export const accessStateSchema = z
  .object({
    /** False where the server is this machine's alone, and asks nobody. */
    network: z.boolean(),
    signedIn: z.boolean(),
  })
  .meta({ id: 'AccessState' })
export type AccessState = z.infer<typeof accessStateSchema>

export const signInSchema = z.object({ passphrase: z.string().min(1).max(200) })
export const joinSchema = z.object({ code: z.string().min(1).max(40) })

export const codeSchema = z.object({
  /** Good once, for two minutes. */
  code: z.string(),
  expiresAt: z.iso.datetime(),
  /** Addresses that lead a phone here, the code in them. */
  links: z.array(z.string()),
})
export type JoinCode = z.infer<typeof codeSchema>

export const tokenBodySchema = z.object({ name: line('A name', 60), scope: scopeSchema })
export type TokenBody = z.infer<typeof tokenBodySchema>

export const tokenSchema = tokenBodySchema
  .extend({ id: idSchema, createdAt: z.iso.datetime(), usedAt: z.iso.datetime().nullable() })
  .meta({ id: 'Token' })
export type Token = z.infer<typeof tokenSchema>

/** A token as it is shown once. */
export const newTokenSchema = tokenSchema.extend({ token: z.string() })
