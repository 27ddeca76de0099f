import { formatFrequency } from '@saltline/core'
import { ArrowLeftRight } from 'lucide-react'
import type { StageFields } from './stageFields.ts'

/** A part known by its S-parameters: nothing to type, but it can be turned round. */
export function MeasuredFields({
  stage,
  change,
}: Pick<StageFields<'measured'>, 'stage' | 'change'>) {
  const { frequencyHz, turned } = stage
  return (
    <div>
      <p className="mb-2 text-sm text-muted">
        Measured at {frequencyHz.length} points from {formatFrequency(frequencyHz[0]!)} to{' '}
        {formatFrequency(frequencyHz.at(-1)!)}. Outside them there is no figure.
      </p>
      <button
        type="button"
        className="button"
        aria-pressed={Boolean(turned)}
        onClick={() => change({ turned: turned ? undefined : true })}
      >
        <ArrowLeftRight size={14} aria-hidden />{' '}
        {turned ? 'Port 2 faces the transmitter' : 'Port 1 faces the transmitter'}
      </button>
    </div>
  )
}
