import {
  drawExercise,
  type Exercise,
  exercises,
  heatAt,
  keyDownAt,
  needleAt,
  scoreExercise,
} from '@saltline/core'
import { useMemo, useState } from 'react'
import { Link, useParams } from 'react-router'
import { ControlField } from '../../instruments/ControlField.tsx'
import { clockOf } from '../../instruments/clockOf.ts'
import { KeyButton } from '../../instruments/KeyButton.tsx'
import { Needle } from '../../instruments/Needle.tsx'
import { Screen } from '../../instruments/Screen.tsx'
import { Thermometer } from '../../instruments/Thermometer.tsx'
import { usePlay } from '../../instruments/usePlay.ts'
import { troubleNames } from '../../model/drillWords.ts'
import { attemptOf, byPlace, checkLines, CHECK_MARKS, troubleNow } from '../../model/exercise.ts'
import { useKeys } from '../../shell/keys.ts'
import { Page } from '../../shell/Page.tsx'
import { FigureList } from '../../ui/FigureList.tsx'
import { Asks } from './Asks.tsx'
import { ExerciseDebrief } from './ExerciseDebrief.tsx'
import { useAttempt } from './useAttempt.ts'

/** Hands on: the address is the exercise and its seed. */
export function ExercisePage() {
  const { exerciseId, seed = '' } = useParams()
  const exercise = exercises.find(({ id }) => id === exerciseId)
  if (!exercise || !seed || seed.length > 40)
    return (
      <Page title="Exercise">
        <p className="p-5">
          There is no such exercise.{' '}
          <Link className="link" to="/drills">
            All drills
          </Link>
        </p>
      </Page>
    )
  return <Hands key={`${exercise.id} ${seed}`} exercise={exercise} seed={seed} />
}

function Hands({ exercise, seed }: { exercise: Exercise; seed: string }) {
  const bench = useMemo(() => drawExercise(exercise, seed), [exercise, seed])
  const { simulation } = bench
  const { play, perform, now, at } = usePlay(simulation)
  const [answers, setAnswers] = useState<Record<string, number>>({})
  const [ended, setEnded] = useState<{ at: number } | null>(null)
  const keep = useAttempt()
  const keyed = play.keyedAt !== null
  const checks = bench.judge(play, answers, at)
  const done = checks.every(({ ok }) => ok)
  useKeys(
    useMemo(
      () =>
        simulation.keyed ? { k: () => perform({ do: 'key', down: play.keyedAt === null }) } : {},
      [simulation, perform, play.keyedAt],
    ),
  )
  const finish = () => {
    setEnded({ at })
    keep(attemptOf(exercise, seed, checks, play, at))
  }
  const trouble = troubleNow(play, at)
  if (ended)
    return (
      <ExerciseDebrief
        exercise={exercise}
        truth={bench.truth(play)}
        score={scoreExercise(exercise, checks, play, ended.at)}
        checks={checks}
      />
    )
  const { dials, others } = byPlace(simulation.controls(play.settings))
  const faces = simulation.faces(play.settings)
  return (
    <Page title={exercise.title}>
      <div className="border-b border-rule px-5 py-3">
        <p className="text-[18px] leading-snug">
          <b>{exercise.title}.</b> {exercise.goal}
        </p>
        <p className="mt-1 text-sm text-caution">
          ▲ {exercise.caution} Local rules and licensed practice come first.
        </p>
      </div>
      <div className="grid lg:grid-cols-[270px_1fr_320px]">
        <section
          aria-label="Settings"
          className="space-y-3 border-rule px-5 py-4 max-lg:order-2 lg:border-r"
        >
          {others.map((control) => (
            <ControlField
              key={control.id}
              control={control}
              settings={play.settings}
              onSet={(value) => perform({ do: 'set', control: control.id, value })}
            />
          ))}
          {simulation.keyed && (
            <KeyButton
              down={keyed}
              seconds={keyed ? at - play.keyedAt! : 0}
              onKey={(down) => perform({ do: 'key', down })}
            />
          )}
          <p role="alert" className="min-h-10 text-sm text-danger">
            {trouble && `▲ ${troubleNames[trouble]}`}
          </p>
        </section>
        <section aria-label="Instruments" className="px-5 py-4 max-lg:order-1">
          {simulation.trace && (
            <Screen trace={simulation.trace} settings={play.settings} count={play.count} />
          )}
          <div
            className={`mx-auto grid gap-4 ${faces.length > 1 ? 'max-w-3xl sm:grid-cols-2' : 'max-w-[520px]'}`}
          >
            {faces.map((face) => (
              <div key={face.id} className="instrument">
                <Needle face={face} valueAt={() => needleAt(play, face.id, now())} lively={play} />
              </div>
            ))}
            {simulation.heat && (
              <Thermometer most={simulation.heat.mostC} celsius={heatAt(simulation, play, at)} />
            )}
          </div>
          {dials.length > 0 && (
            <div className="mt-4 flex flex-wrap justify-center gap-x-2 gap-y-4 sm:gap-x-8">
              {dials.map((control) => (
                <ControlField
                  key={control.id}
                  control={control}
                  settings={play.settings}
                  onSet={(value) => perform({ do: 'set', control: control.id, value })}
                />
              ))}
            </div>
          )}
        </section>
        <section
          aria-label="Goal"
          className="space-y-3 border-rule px-5 py-4 max-lg:order-3 lg:border-l"
        >
          <FigureList rows={bench.facts} />
          <Asks asks={exercise.asks} answers={answers} onAnswer={setAnswers} />
          <ul aria-label="What has to be so" className="space-y-1 text-sm">
            {checkLines(exercise, checks).map(({ what, state }) => (
              <li key={what} className={state === 'reached' ? 'text-tide' : ''}>
                {CHECK_MARKS[state]} {what}
              </li>
            ))}
          </ul>
          <p className="text-sm text-muted tabular-nums">
            {clockOf(at)} of {clockOf(exercise.timeS)}
            {simulation.keyed &&
              ` · key down ${clockOf(keyDownAt(play, at))} of ${clockOf(exercise.keyDownS)}`}
          </p>
          <button type="button" className="button button-main w-full" onClick={finish}>
            {done && exercise.asks.length === 0 ? 'Done' : 'Finish'}
          </button>
        </section>
      </div>
    </Page>
  )
}
