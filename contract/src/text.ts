/** Text as people type it, and nothing that a screen, a file or a database could stumble on. */
import { z } from 'zod'

/** Control characters, halves of characters, and the separators that no keyboard has. */
const STRAY = /[\p{Cc}\p{Cs}\u2028\u2029]/u
/** The same, with line ends and tabs let through. */
const STRAY_IN_LINES = /[\p{Cs}\u2028\u2029]|(?![\r\n\t])\p{Cc}/u

const withPlainEnds = (text: string): string => text.replace(/\r\n?/g, '\n')

const codeOf = (character: string): string =>
  `U+${character.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}`

const sized = (noun: string, most: number, stray: RegExp) =>
  z
    .string({ error: `${noun} must be text.` })
    .trim()
    .max(most, `${noun} may have at most ${most} characters.`)
    .superRefine((text, context) => {
      const found = stray.exec(text)
      if (found)
        context.addIssue(
          `${noun} holds a character that cannot be shown (${codeOf(found[0])}). Delete it, or type the text again.`,
        )
    })

/** Text of one line. */
export const line = (noun: string, most: number) => sized(noun, most, STRAY)

/** Text that may have several lines. */
export const lines = (noun: string, most: number) =>
  sized(noun, most, STRAY_IN_LINES).overwrite(withPlainEnds)

/** A text without what `lines` refuses; what is let go is let go without a trace. */
export const plainText = (text: string): string =>
  withPlainEnds(text).replace(new RegExp(STRAY_IN_LINES, 'gu'), '')
