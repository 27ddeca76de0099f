import type { ChainDocument, ChannelDocument, Station } from '@saltline/contract'
import type { Chain } from '@saltline/core'
import type { ComponentType } from 'react'
import type { ChannelAnswer } from '../model/answers.ts'
import type { Edit } from '../model/edits.ts'
import type { Selection } from '../model/selection.ts'

/** What every lens is given: the chain under the operator's hands, solved on the channel, and what can be done to it. */
export interface LensProps {
  station: Station
  chainId: string
  document: ChainDocument
  chain: Chain
  answer: ChannelAnswer
  channel: ChannelDocument
  selection: Selection | null
  onSelect: (selection: Selection | null) => void
  onPick: (channelId: string, selection?: Selection) => void
  edit: (edit: Edit) => void
  /** Changes what stands behind the question mark of the address; null takes a part away. */
  put: (change: Record<string, string | null>, replace?: boolean) => void
  /** Draws another chain on the spine, with this one as an outline; null draws this one. */
  onShow: (shown: { document: ChainDocument; chain: Chain } | null) => void
  /** Curves as tables, for all lenses that have curves. */
  asTable: boolean
  onToggleTable: () => void
}

/** The lenses in the order of their tabs: each its part of the address. What they are stands in `lenses/`. */
export const lensIds = [
  'budget',
  'headroom',
  'compare',
  'antenna',
  'match',
  'line',
  'log',
  'run',
] as const
export type LensId = (typeof lensIds)[number]
export const isLens = (id: string): id is LensId => lensIds.some((known) => known === id)

/** A question that can be asked of a chain. */
export interface Lens {
  id: LensId
  name: string
  Lens: ComponentType<LensProps>
  /** Lies under the spine, on its scale. */
  Strip?: ComponentType<Pick<LensProps, 'document' | 'channel'> & { answer: ChannelAnswer | null }>
  /** True where it begins with a sentence, which a phone has above the spine. */
  lead?: boolean
  /**
   * True where one writes down what was read: the page scrolls as a whole, a phone leaves the spine out, and a plane
   * that is selected is the place of the reading, not a panel.
   */
  entry?: boolean
}
