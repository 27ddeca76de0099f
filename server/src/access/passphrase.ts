/** Passphrases: what is good enough, how one is made, and what is kept of it. */
import { randomBytes, randomInt, scrypt, timingSafeEqual } from 'node:crypto'

const LEAST_CHARACTERS = 12
const LEAST_WORDS = 4

/** scrypt's cost, as the password storage advice of OWASP has it: 2^15 · 8 · 3. */
const COST = { N: 2 ** 15, r: 8, p: 3, maxmem: 128 * 1024 * 1024 }
const KEY_BYTES = 32

/** What is kept of a passphrase. */
export interface Kept {
  salt: Buffer
  hash: Buffer
}

/** Why a passphrase is not good enough; null where it is. */
export function weakness(passphrase: string): string | null {
  const text = passphrase.trim()
  const words = text.split(/\s+/).filter(Boolean)
  if (words.length >= LEAST_WORDS && text.length >= LEAST_CHARACTERS) return null
  if (text.length < LEAST_CHARACTERS)
    return `The passphrase needs at least ${LEAST_CHARACTERS} characters, or ${LEAST_WORDS} words.`
  if (new Set(text).size < 5) return 'The passphrase repeats a few characters; choose another.'
  return null
}

/** No letters that are taken for others when they are read out. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789'

/** So many random letters, in groups of `group`. */
export const randomLetters = (count: number, group = count): string =>
  Array.from({ length: count }, () => LETTERS[randomInt(LETTERS.length)]!)
    .join('')
    .match(new RegExp(`.{1,${group}}`, 'g'))!
    .join('-')

/** A passphrase nobody guesses: 99 bits. */
export const makePassphrase = (): string => randomLetters(20, 5)

const derive = (passphrase: string, salt: Buffer): Promise<Buffer> =>
  new Promise((done, failed) =>
    scrypt(passphrase.trim().normalize('NFC'), salt, KEY_BYTES, COST, (error, key) =>
      error ? failed(error) : done(key),
    ),
  )

export async function keepPassphrase(passphrase: string): Promise<Kept> {
  const salt = randomBytes(16)
  return { salt, hash: await derive(passphrase, salt) }
}

export const isPassphrase = async (passphrase: string, { salt, hash }: Kept): Promise<boolean> =>
  timingSafeEqual(await derive(passphrase, salt), hash)
