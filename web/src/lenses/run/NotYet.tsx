import type { ChainDocument, Run } from '@saltline/contract'
import type { StepFigures } from '../../compute/tasks/stepFigures.ts'
import { violationWords } from '../../model/violationWords.ts'
import { useUnits } from '../../platform/preferences.ts'

/** What stands against a step: it is not keyed until that is put right, and the step that does so is one press away. */
export function NotYet({
  against,
  run,
  document,
  keyed,
  onGo,
  onDespite,
}: {
  against: StepFigures['against']
  run: Run
  document: ChainDocument
  /** Whether the step is keyed, not only done. */
  keyed: boolean
  onGo: (index: number) => void
  /** Goes on all the same; null where that is not offered. */
  onDespite: (() => void) | null
}) {
  const { power } = useUnits()
  const cures = [...new Set(against.flatMap(({ cure }) => (cure === null ? [] : [cure])))]
  return (
    <div
      role="alert"
      className="-mx-5 border-y-4 border-caution bg-sheet px-5 py-4 sm:-mx-10 sm:px-10"
    >
      <p className="text-[27px] leading-tight font-bold text-caution">
        ■ {keyed ? 'Do not key yet' : 'Not yet'}
      </p>
      <ul className="mt-1 max-w-2xl space-y-2">
        {against.map(({ violation }, i) => {
          const { why, cure } = violationWords(violation, document, power)
          return (
            <li key={i}>
              <span className="block text-lg">{why}</span>
              <span className="block text-muted">{cure}</span>
            </li>
          )
        })}
      </ul>
      <div className="mt-3 flex flex-wrap gap-3">
        {cures.map((index) => (
          <button
            key={index}
            type="button"
            className="button button-main min-h-12"
            onClick={() => onGo(index)}
          >
            Back to: {run.steps[index]!.title}
          </button>
        ))}
        {onDespite && (
          <button type="button" className="button min-h-12" onClick={onDespite}>
            I know why: go on all the same
          </button>
        )}
      </div>
    </div>
  )
}
