import { useSource } from '../platform/store.ts'
import type { Watched } from './useTask.ts'

/** How far a task is; rendered by it alone. */
export function ProgressBar({
  of,
  max = 1,
  ...rest
}: { of: Watched; max?: number } & React.ComponentProps<'progress'>) {
  return <progress {...rest} value={useSource(of).done} max={max} />
}
