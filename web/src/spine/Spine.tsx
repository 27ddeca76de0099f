import { formatFrequency } from '@saltline/core'
import { useWidth } from '../ui/useWidth.ts'
import { SpineDown } from './SpineDown.tsx'
import { SpineLying } from './SpineLying.tsx'
import type { SpineProps } from './spineProps.ts'
import { useSpineKeys } from './useSpineKeys.ts'

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
