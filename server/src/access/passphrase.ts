/** Passphrases: what is good enough, how one is made, and what is kept of it. */
import { randomBytes, randomInt, timingSafeEqual } from 'node:crypto'
import { Piscina } from 'piscina'
import { built } from '../home.ts'
import type * as hashWorker from './hashWorker.ts'

const LEAST_CHARACTERS = 12
const LEAST_WORDS = 4
/** Ten thousand million guesses: far more than can be tried through the gate, and a while for who has the file. */
const LEAST_GUESSES_LOG10 = 10

/** Hashes that wait for the one that is worked at; more are refused at once. */
const MOST_WAITING = 3
/** The thread ends when nobody has needed it for so long, ms. */
const IDLE_MS = 30_000

/** What is kept of a passphrase. */
export interface Kept {
  salt: Buffer
  hash: Buffer
}

let pool: Piscina | undefined

const onThread = <N extends keyof typeof hashWorker>(
  name: N,
  task: Parameters<(typeof hashWorker)[N]>[0],
): Promise<ReturnType<(typeof hashWorker)[N]>> => {
  pool ??= new Piscina({
    filename: built('hashWorker.cjs'),
    execArgv: [],
    minThreads: 0,
    maxThreads: 1,
    maxQueue: MOST_WAITING,
    idleTimeout: IDLE_MS,
  })
  return pool.run(task, { name }) as Promise<ReturnType<(typeof hashWorker)[N]>>
}

/** Ends the thread for hashes. */
export async function endHashing(): Promise<void> {
  await pool?.destroy()
  pool = undefined
}

/** Why a passphrase is not good enough; null where it is. */
export async function weakness(passphrase: string): Promise<string | null> {
  const text = passphrase.trim()
  const words = text.split(/\s+/).filter(Boolean)
  if (text.length < LEAST_CHARACTERS)
    return `The passphrase needs at least ${LEAST_CHARACTERS} characters, such as ${LEAST_WORDS} words.`
  if ((await onThread('guessesLog10', text)) >= LEAST_GUESSES_LOG10) return null
  return words.length < LEAST_WORDS
    ? `The passphrase is easy to guess: a common password, a row of keys or a repeat. Take ${LEAST_WORDS} words that have nothing to do with each other.`
    : 'The passphrase is easy to guess: its words are too common or repeat. Choose others.'
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

export async function keepPassphrase(passphrase: string): Promise<Kept> {
  const salt = randomBytes(16)
  return { salt, hash: Buffer.from(await onThread('derive', { passphrase, salt })) }
}

/** @throws where too many wait already, see `isCrowded` */
export const isPassphrase = async (passphrase: string, { salt, hash }: Kept): Promise<boolean> =>
  timingSafeEqual(Buffer.from(await onThread('derive', { passphrase, salt })), hash)

/** Whether an error was that too many hashes wait. */
export const isCrowded = (error: unknown): boolean =>
  error instanceof Error && error.message === 'Task queue is at limit'
