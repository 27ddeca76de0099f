/**
 * What a thread of its own does for passphrases: a hash takes a tenth of a second and 32 MB on purpose, and must take them
 * from nobody else.
 */
import { scryptSync } from 'node:crypto'
import { ZxcvbnFactory } from '@zxcvbn-ts/core'
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common'

/** scrypt's cost, as the password storage advice of OWASP has it: 2^15 · 8 · 3. */
const COST = { N: 2 ** 15, r: 8, p: 3, maxmem: 128 * 1024 * 1024 }
const KEY_BYTES = 32

/** The hash of a passphrase. */
export const derive = ({ passphrase, salt }: { passphrase: string; salt: Uint8Array }) =>
  scryptSync(passphrase.trim().normalize('NFC'), salt, KEY_BYTES, COST)

let strength: ZxcvbnFactory | undefined

/** Words that whoever attacks this station tries first. */
const OURS = ['saltline', 'salt line', 'passphrase', 'station', 'antenna', 'radio']

/** How many guesses it takes, as a power of ten: common passwords, keyboard rows, repeats and dates are known. */
export function guessesLog10(passphrase: string): number {
  strength ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs })
  return strength.check(passphrase, OURS).guessesLog10
}
