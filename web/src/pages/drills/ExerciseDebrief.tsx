import type { Exercise, ExerciseBench, Score } from '@saltline/core'
import { useEffect, useRef } from 'react'
import { Link } from 'react-router'
import { newSeed } from '../../model/attempts.ts'
import { Page } from '../../shell/Page.tsx'
import { FigureList } from '../../ui/FigureList.tsx'
import { LessonText } from './LessonText.tsx'
import { ScoreList } from './ScoreList.tsx'

/** How an exercise went, what was hidden, and what to remember. */
export function ExerciseDebrief({
  exercise,
  truth,
  score,
  checks,
}: {
  exercise: Exercise
  truth: ReturnType<ExerciseBench['truth']>
  score: Score
  checks: ReturnType<ExerciseBench['judge']>
}) {
  const heading = useRef<HTMLHeadingElement>(null)
  useEffect(() => heading.current?.focus(), [])
  return (
    <Page title={`Debrief: ${exercise.title}`}>
      <div className="border-b border-rule px-5 py-3">
        <h2 ref={heading} tabIndex={-1} className="text-[18px] font-bold outline-none">
          {checks.every(({ ok }) => ok)
            ? `${exercise.title}: done.`
            : `${exercise.title}: not yet.`}
        </h2>
      </div>
      <div className="grid gap-6 px-5 py-4 lg:grid-cols-3">
        <ScoreList score={score} />
        <section aria-label="What was hidden">
          <ul className="mb-3 text-sm">
            {checks.map(({ what, ok }) => (
              <li key={what} className={ok ? 'text-tide' : 'text-danger'}>
                {ok ? '✓' : '✕'} {what}
              </li>
            ))}
          </ul>
          <FigureList rows={truth} />
        </section>
        <div className="space-y-4">
          <LessonText
            text={exercise.lesson}
            term={exercise.term}
            sheet={exercise.sheet}
            caught="The run sheet for it"
          />
          <p className="flex gap-3">
            <Link className="button button-main" to={`/drills/${exercise.id}/${newSeed()}`}>
              Once more
            </Link>
            <Link className="button" to="/drills">
              All drills
            </Link>
          </p>
        </div>
      </div>
    </Page>
  )
}
