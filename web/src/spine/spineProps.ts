import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import type { LiveAround } from '../compute/useLiveAgainst.ts'
import type { ChainActions } from '../editor/actions.ts'
import type { ChannelAnswer } from '../model/answers.ts'
import type { Selection } from '../model/selection.ts'

export type SpineActions = Pick<
  ChainActions,
  | 'select'
  | 'move'
  | 'moveTo'
  | 'remove'
  | 'duplicate'
  | 'toggleBypass'
  | 'insertAfter'
  | 'insertAt'
>

export interface SpineProps {
  document: ChainDocument
  channel: ChannelDocument
  answer: ChannelAnswer | null
  selection: Selection | null
  /** Watts at the far edge of the field: the setting, or less to look closer. */
  topW: number
  actions: SpineActions
  /** Where live meters are looked for; nowhere unless given. */
  live?: LiveAround | null
  /** Another chain whose power is drawn as a thin line over the band, to compare with. */
  outline?: { document: ChainDocument; answer: ChannelAnswer | null } | null
}

/** What both drawings of the spine are given. */
export interface SpineViewProps extends SpineProps {
  width: number
}
