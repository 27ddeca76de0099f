import type { RunStepDocument } from '@saltline/contract'
import { type Ref } from 'react'
import { SkipStep } from './SkipStep.tsx'

type Choice = NonNullable<RunStepDocument['choices']>[number]

/** How a step goes on: done, chosen, back, or left out with a reason. Enter presses the first one. */
export function StepButtons({
  step,
  main,
  busy,
  next,
  onChoose,
  onBack,
  onSkip,
}: {
  step: RunStepDocument
  main: Ref<HTMLButtonElement>
  busy: boolean
  /** What the button that is submitted says. */
  next: string
  onChoose: (choice: Choice) => void
  onBack: (() => void) | null
  onSkip: (words: string) => void
}) {
  return (
    <div className="sticky bottom-0 z-20 -mx-5 flex flex-wrap items-center gap-3 border-t border-rule bg-paper px-5 py-3 sm:-mx-10 sm:px-10">
      {step.kind === 'decide' ? (
        step.choices?.map((choice, i) => (
          <button
            key={choice.label}
            ref={i === 0 ? main : undefined}
            type="button"
            className={`button min-h-12 text-base ${i === 0 ? 'button-main' : ''}`}
            disabled={busy}
            onClick={() => onChoose(choice)}
          >
            {choice.label}
          </button>
        ))
      ) : (
        <button
          ref={main}
          type="submit"
          aria-keyshortcuts="Enter"
          className="button button-main min-h-12 min-w-32 text-base"
          disabled={busy}
        >
          {next} <kbd aria-hidden>Enter</kbd>
        </button>
      )}
      {onBack && (
        <button
          type="button"
          className="button min-h-12 text-base"
          disabled={busy}
          onClick={onBack}
        >
          Back
        </button>
      )}
      <SkipStep busy={busy} onSkip={onSkip} />
    </div>
  )
}
