import { customAlphabet } from 'nanoid'
import { z } from 'zod'

const random = customAlphabet('0123456789abcdefghijkmnpqrstuvwxyz', 10)

/** A new identifier: ten letters and digits that are hard to confuse when read aloud. */
export const newId = (): string => random()

export const idSchema = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,63}$/, 'An identifier is small letters, digits and hyphens.')
