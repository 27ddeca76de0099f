import type { ChainDocument, ChannelDocument, Station } from '@saltline/contract'
import type { Chain } from '@saltline/core'
import type { ChainActions } from '../editor/actions.ts'
import type { ChannelAnswer } from '../model/answers.ts'

export interface PanelProps {
  station: Station
  document: ChainDocument
  /** Null as long as the antenna of the document is not there. */
  chain: Chain | null
  channel: ChannelDocument
  answer: ChannelAnswer | null
  actions: ChainActions
  /** A sweep file was chosen. */
  onFile: (file: File) => void
  /** Rows of a sweep are to be typed. */
  onType: () => void
}
