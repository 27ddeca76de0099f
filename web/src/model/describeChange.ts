import { behaviourText } from './behaviourText.ts'
import type { ChainDocument, ChannelDocument, StageDocument } from '@saltline/contract'
import { formatFrequency, formatPower, formatSwr, modeOf } from '@saltline/core'

import { arrow, same } from './same.ts'
import { kindOf } from './stages/index.ts'

/** What turns one document into the other, a phrase each; empty when they are the same. */
export function describeChange(before: ChainDocument, after: ChainDocument): string[] {
  return [
    ...(before.name === after.name ? [] : [`renamed to ${after.name}`]),
    ...describeTransmitter(before, after),
    ...describeList(before.stages, after.stages, (s) => s.name, describeStage),
    ...describeOrder(before.stages, after.stages),
    ...describeLoad(before, after),
    ...describeList(before.channels, after.channels, channelName, describeChannel),
    ...describeList(
      before.alternatives ?? [],
      after.alternatives ?? [],
      ({ name }) => `alternative ${name}`,
      (_, { name }) => [`alternative ${name} changed`],
    ),
    ...(same(before.farStation, after.farStation) ? [] : ['far station changed']),
    ...(before.note === after.note ? [] : ['note changed']),
  ]
}

function describeTransmitter({ transmitter: a }: ChainDocument, { transmitter: b }: ChainDocument) {
  if (same(a, b)) return []
  const parts = []
  if (a.name !== b.name) parts.push(arrow(a.name, b.name))
  if (a.ratedW !== b.ratedW) parts.push(arrow(formatPower(a.ratedW), formatPower(b.ratedW)))
  if (a.behaviour !== b.behaviour) parts.push(behaviourText[b.behaviour])
  if (!same(a.foldback, b.foldback)) parts.push('foldback')
  if (!same(a.reduced, b.reduced))
    parts.push(b.reduced?.on ? `reduced to ${formatPower(b.reduced.powerW)}` : 'full power')
  return [`${b.name}: ${parts.join(', ') || 'changed'}`]
}

function describeLoad({ load: a }: ChainDocument, { load: b }: ChainDocument): string[] {
  if (same(a, b)) return []
  if (a.kind === 'swr' && b.kind === 'swr') {
    const [from, to] = [a.read ?? a, b.read ?? b]
    if (from.swr !== to.swr)
      return [
        `antenna: SWR${b.read ? ' as read' : ''} ${arrow(formatSwr(from.swr), formatSwr(to.swr))}`,
      ]
    if (same(a.read, b.read) && a.name === b.name)
      return [`antenna: SWR follows, ${arrow(formatSwr(a.swr), formatSwr(b.swr))}`]
  }
  return [`antenna: ${a.name === b.name ? 'changed' : arrow(a.name, b.name)}`]
}

const channelName = (c: ChannelDocument): string => formatFrequency(c.frequencyHz)

/** Added, removed and changed items of a list whose items have ids. */
function describeList<T extends { id: string }>(
  before: readonly T[],
  after: readonly T[],
  nameOf: (item: T) => string,
  describe: (a: T, b: T) => string[],
): string[] {
  const old = new Map(before.map((item) => [item.id, item]))
  const kept = new Set(after.map((item) => item.id))
  return [
    ...after.flatMap((item) => {
      const was = old.get(item.id)
      if (!was) return [`${nameOf(item)} added`]
      return same(was, item) ? [] : describe(was, item)
    }),
    ...before.filter((item) => !kept.has(item.id)).map((item) => `${nameOf(item)} removed`),
  ]
}

function describeStage(a: StageDocument, b: StageDocument): string[] {
  const parts: string[] = []
  if (a.name !== b.name) parts.push(`renamed from ${a.name}`)
  if (!a.bypassed !== !b.bypassed) parts.push(b.bypassed ? 'bypassed' : 'in circuit again')
  if (a.kind === b.kind) {
    parts.push(...kindOf(a).changes(a, b))
  } else parts.push(`another kind of part: ${b.kind}`)
  return [`${b.name}: ${parts.join(', ') || 'changed'}`]
}

function describeOrder(before: readonly StageDocument[], after: readonly StageDocument[]) {
  const ids = (list: readonly StageDocument[], other: readonly StageDocument[]) =>
    list.filter((s) => other.some((o) => o.id === s.id)).map((s) => s.id)
  return same(ids(before, after), ids(after, before)) ? [] : ['stages reordered']
}

function describeChannel(a: ChannelDocument, b: ChannelDocument): string[] {
  const parts: string[] = []
  if (a.frequencyHz !== b.frequencyHz) parts.push(`was ${channelName(a)}`)
  if (a.powerW !== b.powerW) parts.push(arrow(formatPower(a.powerW), formatPower(b.powerW)))
  if (a.mode !== b.mode) parts.push(modeOf(b.mode).short)
  return [`${channelName(b)}: ${parts.join(', ') || 'renamed'}`]
}

/** One line for the list of revisions. */
export const summaryOf = (before: ChainDocument, after: ChainDocument): string =>
  describeChange(before, after).join('; ').slice(0, 120)
