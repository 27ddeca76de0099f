/** The comparison in words. */
import type { ChannelDocument } from '@saltline/contract'
import { decimals, formatDb, formatFrequency } from '@saltline/core'
import type { Cell, CompareRow } from '../../compute/tasks/compare.ts'
import type { Expense } from '../../model/alternatives.ts'
import { heardWords } from '../../model/sentence.ts'

export interface Contender {
  name: string
  row: CompareRow
  expense: Expense
}

/** A difference smaller than this is not heard, dB. */
const HEARD_DB = 1

const cellOf = (row: CompareRow, id: string): Cell | null => {
  const cell = row[id]
  return typeof cell === 'object' ? cell : null
}

export const priceText = (price: number | null, currency: string): string =>
  price === null ? 'price not known' : `${decimals(price, price < 10 ? 2 : 0)}\u00a0${currency}`

/** What is gained or lost, with its sign. */
export const signedDb = (db: number): string =>
  Math.abs(db) < 0.005 ? '0 dB' : `${db > 0 ? '+' : '−'}${formatDb(Math.abs(db))}`

/** How a difference is heard: the words follow the number. */
export function heardText(db: number): string {
  const words = heardWords(Math.abs(db))
  if (words === 'nothing lost') return 'no difference'
  return words === 'not heard' ? words : `${words} ${db > 0 ? 'more' : 'less'}`
}

/** The channel on which an alternative gains most. */
function bestChannel({ row }: Contender, channels: readonly ChannelDocument[]) {
  let best: { channel: ChannelDocument; db: number } | null = null
  for (const channel of channels) {
    const db = cellOf(row, channel.id)?.db
    if (db !== null && db !== undefined && (!best || db > best.db)) best = { channel, db }
  }
  return best
}

/**
 * One sentence on all alternatives: that nothing is worth it, or which one is. Of those that gain a decibel or more,
 * the cheapest that comes within a decibel of the best.
 */
export function verdictText(
  contenders: readonly Contender[],
  channels: readonly ChannelDocument[],
  currency: string,
): string {
  const gains = contenders.flatMap((contender) => {
    const best = bestChannel(contender, channels)
    return best ? [{ contender, ...best }] : []
  })
  if (gains.length === 0) return 'None of these has a figure on any channel.'
  const top = gains.reduce((a, b) => (b.db > a.db ? b : a))
  if (top.db < 0.05) return 'Spend nothing: none of these brings more to the antenna.'
  const where = ({ channel }: (typeof gains)[number]) => formatFrequency(channel.frequencyHz)
  if (top.db < HEARD_DB)
    return `Spend nothing: the best of these, ${top.contender.name}, gains ${formatDb(top.db)} on ${where(top)}, which is not heard.`
  const price = ({ contender }: (typeof gains)[number]) => contender.expense.price ?? Infinity
  const worth = gains
    .filter(({ db }) => db >= HEARD_DB && db > top.db - HEARD_DB)
    .reduce((a, b) => (price(b) < price(a) || (price(b) === price(a) && b.db > a.db) ? b : a))
  const { expense, name, row } = worth.contender
  const others = channels.filter(({ id }) => id !== worth.channel.id)
  const heard = others.filter(({ id }) => (cellOf(row, id)?.db ?? 0) >= HEARD_DB)
  const rest =
    others.length === 0
      ? ''
      : heard.length === 0
        ? '; on the other channels it is not heard'
        : others.length === 1
          ? '; heard on the other channel too'
          : `; heard on ${heard.length} of the other ${others.length} channels too`
  const cost =
    expense.price === 0
      ? 'for nothing'
      : expense.price === null
        ? 'at a price that is not known'
        : `for ${priceText(expense.price, currency)}`
  return `${name}: ${signedDb(worth.db)} on ${where(worth)} ${cost}${rest}.`
}

/**
 * Another one that gives at least as much on every channel and costs no more, and is better in something; null where
 * there is none, or a price is not known. The chain as it stands counts too, as one that costs nothing.
 */
export function beatenBy(
  own: Contender,
  others: readonly Contender[],
  channels: readonly ChannelDocument[],
): string | null {
  const better = others.find((other) => {
    if (other === own || own.expense.price === null || other.expense.price === null) return false
    if (other.expense.price > own.expense.price) return false
    let more = other.expense.price < own.expense.price
    for (const { id } of channels) {
      const [mine, theirs] = [cellOf(own.row, id), cellOf(other.row, id)]
      if (!mine) continue
      if (!theirs || theirs.antennaW < mine.antennaW * 0.9995) return false
      if (theirs.antennaW > mine.antennaW * 1.0005) more = true
    }
    return more
  })
  return better?.name ?? null
}

/** How sure a difference is, where ranges are on. */
export const surerText = ({ difference }: Cell): string => {
  switch (difference?.is) {
    case 'more':
      return 'sure to be more'
    case 'less':
      return 'sure to be less'
    case 'same':
      return 'the same'
    case 'unknown':
      return 'cannot be told'
    case undefined:
      return ''
  }
}
