/** Who may read and write when the server is open to the network: signing in, devices, tokens. */
import { z } from 'zod'
import { idSchema } from './ids.ts'
import { line } from './text.ts'

/**
 * What an address asks for, and what a token may. `read`: look. `enter`: that, and readings, runs, attempts and live
 * figures. `live` and `sweep`: send live figures, or sweeps of an analyser, and nothing else, not even look. `calendar`: the
 * calendar of what is due, and nothing else. `change`: all of the record. `own`: also backups and what cannot be taken back.
 */
export const scopeSchema = z.enum(['read', 'enter', 'live', 'sweep', 'calendar', 'change', 'own'])
export type Scope = z.infer<typeof scopeSchema>

/** A token of these may be for one chain alone. */
export const isOfOneChain = (scope: Scope): boolean => scope === 'live' || scope === 'sweep'

export const accessStateSchema = z
  .object({
    /** False where the server is this machine's alone, and asks nobody. */
    network: z.boolean(),
    signedIn: z.boolean(),
    /** SHA-256 of a certificate that the server made itself, to be compared on another device. */
    fingerprint: z.string().optional(),
  })
  .meta({ id: 'AccessState' })
export type AccessState = z.infer<typeof accessStateSchema>

const passphrase = z.string().min(1, 'The passphrase is missing.').max(200)
/** How a device is called in the list of devices. */
const deviceName = line('A name of a device', 60)

export const signInSchema = z.object({ passphrase, device: deviceName.optional() })
export const joinSchema = z.object({
  code: z.string().min(1).max(40),
  device: deviceName.optional(),
})

export const signOutEverywhereSchema = z.object({
  /** Whether tokens end too. */
  tokens: z.boolean().default(false),
})

export const newPassphraseSchema = z.object({
  present: passphrase,
  next: passphrase,
  /** Whether tokens end too; devices always do, but for the one that asks. */
  tokens: z.boolean().default(false),
})

export const codeSchema = z.object({
  /** Good once, for two minutes. */
  code: z.string(),
  expiresAt: z.iso.datetime(),
  /** Addresses that lead a phone here, the code in them. */
  links: z.array(z.string()),
})
export type JoinCode = z.infer<typeof codeSchema>

const tokenFigures = z.object({
  name: line('A name', 60).min(1, 'Say what the token is for.'),
  scope: scopeSchema,
  /** The one chain that a token may send figures or sweeps of. */
  chainId: idSchema.optional(),
})

export const tokenBodySchema = tokenFigures.extend({
  /** The passphrase again: who finds a device unlocked makes no token on it. */
  passphrase,
})
export type TokenBody = z.infer<typeof tokenBodySchema>

export const tokenSchema = tokenFigures
  .extend({ id: idSchema, createdAt: z.iso.datetime(), usedAt: z.iso.datetime().nullable() })
  .meta({ id: 'Token' })
export type Token = z.infer<typeof tokenSchema>

/** A token as it is shown once. */
export const newTokenSchema = tokenSchema.extend({ token: z.string() })

/** A device that is signed in. */
export const deviceSchema = z
  .object({
    id: idSchema,
    name: z.string(),
    /** Where it signed in from. */
    address: z.string(),
    signedInAt: z.iso.datetime(),
    seenAt: z.iso.datetime(),
    /** The one that asks. */
    here: z.boolean(),
  })
  .meta({ id: 'Device' })
export type Device = z.infer<typeof deviceSchema>

/** A sign-in, or one that was refused. */
export const accessEventSchema = z
  .object({ at: z.iso.datetime(), event: z.string(), address: z.string() })
  .meta({ id: 'AccessEvent' })
export type AccessEvent = z.infer<typeof accessEventSchema>

export const devicesSchema = z.object({
  devices: z.array(deviceSchema),
  /** The newest first. */
  events: z.array(accessEventSchema),
})
