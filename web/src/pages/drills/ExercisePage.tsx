import {
  type Exercise,
  exercises,
  drawExercise,
  fieldText,
  heatAt,
  keyDownAt,
  needleAt,
  scoreExercise,
} from '@saltline/core'
import { useEffect, useMemo, useRef, useState } from 'react'
import { Link, useParams } from 'react-router'
import { troubleNames } from '../../model/drillWords.ts'
import { newSeed } from '../../model/attempts.ts'
import { useKeys } from '../../shell/keys.ts'
import { Page } from '../../shell/Page.tsx'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { FigureList } from '../../ui/FigureList.tsx'
import { NumberInput } from '../../ui/NumberInput.tsx'
import { ControlField } from '../../instruments/ControlField.tsx'
import { clockOf } from '../../instruments/clockOf.ts'
import { KeyButton } from '../../instruments/KeyButton.tsx'
import { Needle } from '../../instruments/Needle.tsx'
import { usePlay } from '../../instruments/usePlay.ts'
import { LessonText } from './LessonText.tsx'
import { ScoreList } from './ScoreList.tsx'
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
    const score = scoreExercise(exercise, checks, play, at)
    setEnded({ at })
    keep({
      family: 'hands-on',
      drill: exercise.id,
      level: 0,
      seed,
      points: score.total,
      right: done,
      readings: 0,
      keyDownS: Math.min(86_400, keyDownAt(play, at)),
    })
  }
  const recent = play.troubles.at(-1)
  const trouble = play.lasting[0] ?? (recent && at - recent.at < 4 ? recent.kind : null)
  if (ended)
    return (
      <Debrief
        exercise={exercise}
        truth={bench.truth(play)}
        score={scoreExercise(exercise, checks, play, ended.at)}
        checks={checks}
      />
    )
  const controls = simulation.controls(play.settings)
  const faces = simulation.faces(play.settings)
  const dials = controls.filter((control) => control.kind === 'knob' && control.unit === undefined)
  const others = controls.filter((control) => !dials.includes(control))
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
          {exercise.asks.map(({ id, label, unit, choices }) =>
            choices ? (
              <ChoiceField
                key={id}
                label={label}
                value={answers[id] === undefined ? '' : String(answers[id])}
                options={[
                  { value: '', label: 'choose' },
                  ...choices.map((text, i) => ({ value: String(i), label: text })),
                ]}
                onChange={(value) =>
                  setAnswers(({ [id]: _, ...rest }) =>
                    value === '' ? rest : { ...rest, [id]: Number(value) },
                  )
                }
              />
            ) : (
              <NumberInput
                key={id}
                label={label}
                value={answers[id] ?? null}
                onChange={(value) =>
                  setAnswers(({ [id]: _, ...rest }) =>
                    value === null ? rest : { ...rest, [id]: value },
                  )
                }
                optional
                dimension="plain"
                unit={unit}
                show={fieldText}
                min={0}
                max={100_000}
              />
            ),
          )}
          <ul aria-label="What has to be so" className="space-y-1 text-sm">
            {checks.map(({ what, ok }) => {
              // Whether an answer is right is said at the end.
              const hidden = exercise.asks.length > 0 && !live(what)
              return (
                <li key={what} className={!hidden && ok ? 'text-tide' : ''}>
                  {hidden ? '·' : ok ? '✓' : '○'} {what}
                </li>
              )
            })}
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

/** Checks that are of the bench, not of an answer. */
const live = (what: string): boolean => /read on a scale|keyed/.test(what)

const celsiusText = (celsius: number) => `${Math.round(celsius)}\u00a0°C`

/** How hot the dummy load is: a column that fills toward its limit. */
function Thermometer({ celsius, most }: { celsius: number; most: number }) {
  const share = Math.max(0, Math.min(1, (celsius - 20) / (most - 20)))
  const text = celsiusText(celsius)
  return (
    <div className="self-center text-sm">
      <p className="flex justify-between text-muted">
        Dummy load <b className="text-ink tabular-nums">{text}</b>
      </p>
      <div
        role="meter"
        aria-label="Temperature of the dummy load"
        aria-valuemin={20}
        aria-valuemax={most}
        aria-valuenow={Math.round(celsius)}
        aria-valuetext={text}
        className="mt-1 h-4 overflow-hidden rounded border border-edge"
      >
        <div
          className={share > 0.9 ? 'h-full bg-danger' : 'h-full bg-heat'}
          style={{ width: `${share * 100}%` }}
        />
      </div>
      <p className="mt-0.5 text-right text-xs text-muted">at the most {celsiusText(most)}</p>
    </div>
  )
}

function Debrief({
  exercise,
  truth,
  score,
  checks,
}: {
  exercise: Exercise
  truth: readonly (readonly [string, string])[]
  score: ReturnType<typeof scoreExercise>
  checks: readonly { what: string; ok: boolean }[]
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
