/** All kinds of stages in words. A new one is a file beside this one and a line here. */
import type { StageDocument } from '@saltline/contract'
import { amplifier } from './amplifier.ts'
import { duplexer } from './duplexer.ts'
import { series, shunt } from './impedance.ts'
import { isolator } from './isolator.ts'
import { line } from './line.ts'
import { measured } from './measured.ts'
import { pad } from './pad.ts'
import type { StageKind } from './stageKind.ts'
import { stub } from './stub.ts'
import { transformer } from './transformer.ts'
import { tuner } from './tuner.ts'

const kinds: { [K in StageDocument['kind']]: StageKind<Extract<StageDocument, { kind: K }>> } = {
  line,
  pad,
  tuner,
  transformer,
  amplifier,
  series,
  shunt,
  stub,
  measured,
  isolator,
  duplexer,
}

export const kindOf = ({ kind }: Pick<StageDocument, 'kind'>): StageKind<StageDocument> =>
  kinds[kind] as StageKind<StageDocument>

/** What can be put into a chain, in the order of the menus. */
export const stageChoices = Object.values(kinds).flatMap(({ choices }) => choices)
export type StageChoice = string
