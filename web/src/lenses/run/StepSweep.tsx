import { type ChainDocument, newId } from '@saltline/contract'
import { type Chain, type SweepTarget, usualTolerances } from '@saltline/core'
import { useEffect, useMemo, useRef } from 'react'
import type { AlongRequest } from '../../compute/tasks/alongLine.ts'
import { useTask } from '../../compute/useTask.ts'
import { act } from '../../platform/act.ts'
import { SWEEP_FILES, sweepText } from '../../model/sweepFile.ts'
import { alongOf, planFor } from '../../model/alongLine.ts'
import { sweepAnswer } from '../../model/lineSweeps.ts'
import { type SweptStep, sweptLook, sweptProblem, sweptWords } from '../../model/sweptStep.ts'
import { usePreferences, useUnits } from '../../platform/preferences.ts'
import { FileButton } from '../../ui/FileButton.tsx'

/** Asks for a sweep, and says what it found: whether to go on. */
export function StepSweep({
  target,
  document,
  chain,
  swept,
  wentOn,
  onSwept,
  onStop,
  onGoOn,
}: {
  target: SweepTarget
  document: ChainDocument
  chain: Chain
  swept: SweptStep | null
  /** The operator goes on despite what it found. */
  wentOn: boolean
  onSwept: (swept: SweptStep) => void
  onStop: (words: string) => void
  onGoOn: () => void
}) {
  const { length } = useUnits()
  const { analyser } = usePreferences()
  const look = useMemo(() => sweptLook(target, document), [target, document])
  const part = useMemo(() => look && alongOf(look, document, chain), [look, document, chain])
  const text = swept?.text ?? null
  const request = useMemo(
    (): AlongRequest | null =>
      part && text !== null
        ? {
            ...{ chain: part.chain, plane: part.plane, farEnd: target.farEnd, sweep: text },
            ...{ tolerances: document.tolerances ?? usualTolerances, before: null, analyser },
            plan: planFor(part.stages),
          }
        : null,
    [part, text, target, document, analyser],
  )
  const { result: along, problem } = useTask('alongLine', request)
  const said = useMemo(
    () => along && part && sweepAnswer(along, part.stages, target.farEnd, length),
    [along, part, target, length],
  )
  const wrong = along ? sweptProblem(along, target.farEnd) : false
  const ways = useRef<HTMLDivElement>(null)
  const stopping = swept?.wrong === true && !wentOn
  // On a phone it would come below the window’s edge.
  useEffect(() => {
    if (stopping) ways.current?.scrollIntoView({ block: 'nearest' })
  }, [stopping])
  useEffect(() => {
    if (!swept) return
    if (said && swept.said !== said) onSwept({ ...swept, said, wrong })
    else if (problem !== null && !swept.unreadable) onSwept({ ...swept, unreadable: true })
  }, [swept, said, wrong, problem, onSwept])
  if (!look)
    return <p className="max-w-2xl">There is no cable here to look along: go on without a sweep.</p>
  return (
    <div className="max-w-2xl space-y-2">
      <div className="flex flex-wrap items-center gap-3">
        <FileButton
          label={swept ? 'Another sweep' : 'Sweep file'}
          field="Sweep of this step"
          accept={SWEEP_FILES}
          onFile={(file) =>
            void act(async () => {
              const own = await sweepText(file)
              onSwept({
                ...{ id: newId(), text: own, name: file.name },
                ...{ said: null, wrong: false, unreadable: false },
                readAt: new Date(file.lastModified || Date.now()).toISOString(),
              })
            })
          }
        />
        <span className="text-sm text-muted">
          {swept ? swept.name : `Taken ${look.name}; without an analyser, go on.`}
        </span>
      </div>
      {problem !== null && <p className="text-caution">▲ {problem}</p>}
      {said && (
        <p role="status" className={`text-lg ${wrong ? 'border-l-4 border-danger pl-3' : ''}`}>
          {wrong && '▲ '}
          {said.join(' ')}
        </p>
      )}
      {stopping && (
        <div ref={ways} className="flex scroll-mb-36 flex-wrap gap-3">
          <button
            type="button"
            className="button min-h-12 border-danger"
            onClick={() => onStop(sweptWords(swept))}
          >
            Stop the run here, and mend it
          </button>
          <button type="button" className="button min-h-12" onClick={onGoOn}>
            I know why: go on
          </button>
        </div>
      )}
    </div>
  )
}
