import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import { formatFrequency } from '@saltline/core'
import type { ChannelAnswer } from '../chain/answers.ts'
import type { StageChoice } from '../chain/edits.ts'
import type { Selection } from '../chain/selection.ts'
import { useWidth } from '../parts/useWidth.ts'
import { SpineDown } from './SpineDown.tsx'
import { SpineLying } from './SpineLying.tsx'
import { type SpineActions, useSpineKeys } from './useSpineKeys.ts'

export interface SpineProps {
  document: ChainDocument
  channel: ChannelDocument
  answer: ChannelAnswer | null
  selection: Selection | null
  /** Watts at the far edge of the field: the setting, or less to look closer. */
  topW: number
  actions: SpineActions & {
    moveTo: (id: string, index: number) => void
    insertAt: (index: number, choice: StageChoice) => void
  }
}

export interface SpineViewProps extends SpineProps {
  width: number
}

/** Below this width the spine runs downward. */
const NARROW_PX = 700

/** The chain as one band of power, from transmitter to antenna: picture and main control in one. */
export function Spine(props: SpineProps) {
  const [ref, width] = useWidth<HTMLDivElement>()
  const vertical = width > 0 && width < NARROW_PX
  const stageIds = props.document.stages.map(({ id }) => id)
  const onKeyDown = useSpineKeys(stageIds, vertical, props.actions)
  const View = vertical ? SpineDown : SpineLying
  return (
    <div
      ref={ref}
      role="group"
      aria-label={`The chain from transmitter to antenna on ${formatFrequency(props.channel.frequencyHz)}`}
      onKeyDown={onKeyDown}
    >
      {width > 0 && <View {...props} width={width} />}
    </div>
  )
}
