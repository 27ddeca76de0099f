import { nowIso } from '../../platform/clock.ts'
import {
  placesOf,
  type ReadingBody,
  type Run,
  type RunBody,
  type RunStepDocument,
} from '@saltline/contract'
import {
  calibratedMeter,
  correctedW,
  type ExpectedStep,
  formatPower,
  formatSwr,
  isKeyed,
  meterTells,
  readingDoubtW,
  setPowerOf,
  swrLimitOf,
  usualMeter,
} from '@saltline/core'
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react'
import type { StepFigures } from '../../compute/tasks/stepFigures.ts'
import type { LensProps } from '../../editor/lens.ts'
import { dialNames } from '../../model/dials.ts'
import { changeStage } from '../../model/edits.ts'
import { metersOf } from '../../model/places.ts'
import {
  asItStands,
  earlierReading,
  entryOfThisPass,
  placeWords,
  runChannelOf,
  stateWords,
  stopWords,
  type withEntry,
} from '../../model/runs.ts'
import { ratingLines } from '../../model/ratings.ts'
import { entryOfStep, type NewEntry, readOf, stopOf, whyNotDone } from '../../model/stepEntry.ts'
import { readingWords } from '../../model/readingWords.ts'
import type { SweptStep } from '../../model/sweptStep.ts'
import { enterCorrection, enterReading, orThrow } from '../../platform/outbox/enter.ts'
import { errorText } from '../../platform/errorText.ts'
import { usePreferences, useUnits } from '../../platform/preferences.ts'
import { Problem } from '../../ui/Problem.tsx'
import { Figures } from './Figures.tsx'
import { NotYet } from './NotYet.tsx'
import { planeOfStep } from './planeOfStep.ts'
import { keepStepSweep } from './keepStepSweep.ts'
import { StepButtons } from './StepButtons.tsx'
import { StepDials } from './StepDials.tsx'
import { StepHold } from './StepHold.tsx'
import { StepSweep } from './StepSweep.tsx'
import { StopNow } from './StopNow.tsx'
import { useStepFacts } from './useStepFacts.ts'
import { useStop } from './useStop.ts'
import { useTypedStep } from './useTypedStep.ts'
import { useStopwatch } from './useStopwatch.ts'

type Then = Parameters<typeof withEntry>[2]

/** One step, large: what to do, what the meter should show, how long, and when to stop. */
export function StepView({
  run,
  step,
  station,
  document,
  chain,
  chainId,
  busy,
  onKeep,
  onBack,
  onGo,
  onSelect,
  edit,
}: LensProps & {
  run: Run
  step: RunStepDocument
  busy: boolean
  onKeep: (entry: NewEntry, then?: Then, change?: Partial<RunBody>) => Promise<boolean>
  onBack: (() => void) | null
  /** To another step. */
  onGo: (index: number) => void
}) {
  const { power } = useUnits()
  const { analyser } = usePreferences()
  const found = document.channels.find(({ id }) => id === step.channelId)
  const own = found ?? document.channels[0]!
  const runChannel = useMemo(() => runChannelOf(document, own), [document, own])
  const meters = metersOf(station)
  const instrument =
    meters.find(({ id }) => id === run.instrumentId) ?? (meters.length > 0 ? meters[0] : undefined)
  const meter = useMemo(
    () => (instrument ? calibratedMeter(instrument.document) : usualMeter),
    [instrument],
  )
  const isRead = step.kind === 'read'
  const dialled = document.stages.find(({ kind }) => kind === step.dials)
  const names = dialled ? dialNames(dialled) : step.dials ? ['Dial 1', 'Dial 2', 'Dial 3'] : []
  const keyed = isKeyed(step)
  const { facts, why, known } = useStepFacts({ run, step, chain, document, station, meter })
  const expected = expectedOf(facts)
  const [despite, setDespite] = useState(false)
  const against = facts?.against ?? []
  // Until it is known what stands against it, nothing is keyed.
  const checkedHere = keyed || step.makes?.load !== undefined
  const blocked = !despite && ((keyed && facts === null) || against.length > 0)
  const swrLimit = isRead ? swrLimitOf(step, expected ?? undefined) : null
  const maySayWhy = !run.checked || run.begunDespite !== undefined

  const before = entryOfThisPass(run, step.id)
  const [typed, put, forget] = useTypedStep(run.id, step.id, {
    forwardW: before?.forwardW ?? null,
    reflectedW: before?.reflectedW ?? null,
    swr: before?.swr ?? null,
    dials: before?.dials ?? [],
  })
  const [problem, setProblem] = useState<string | null>(null)
  const [wentOn, setWentOn] = useState(false)
  const [swept, setSwept] = useState<SweptStep | null>(null)
  const watch = useStopwatch()
  const { start } = watch
  useEffect(() => {
    if (step.rest) start()
  }, [step.rest, start])

  // The place of the step is marked on the spine.
  const plane = isRead ? planeOfStep(chain, step, runChannel) : null
  useEffect(() => {
    onSelect(plane === null ? null : { kind: 'plane', index: plane })
  }, [plane, onSelect])

  const points = instrument?.document.calibration?.points ?? []
  const { judged, judgeNow } = useStop(step, {
    typed,
    points,
    meter,
    facts,
    earlier: isRead ? earlierReading(run, step) : undefined,
    seconds: watch.seconds,
  })
  const stop = judged?.is === 'stop' ? judged.reason : null
  const look = judged?.is === 'look' ? judged.reason : null
  const words = stop && stopWords(stop, document, power)
  const entryNow = (should = expected): NewEntry =>
    entryOfStep(step, {
      typed,
      expected: should,
      seconds: watch.seconds,
      dialCount: names.length,
      stop: stop && words ? stopOf(stop.rule, words.why, true) : null,
    })

  const next = async (then?: Then, choice?: string) => {
    const at = { typed, hasChannel: found !== undefined, stopped: stop !== null, wentOn, despite }
    const why = whyNotDone(step, at)
    if (why !== null) return setProblem(why)
    if (swept && swept.said === null && !swept.unreadable)
      return setProblem('The sweep is still being read.')
    if (swept?.wrong && !wentOn)
      return setProblem('The sweep is not as expected: stop here, or go on by a press of its own.')
    try {
      const now = checkedHere ? await known() : facts
      // Entered faster than a figure is judged by itself, it is judged here.
      const stopped = judgeNow(now)?.is === 'stop'
      const later = whyNotDone(step, { ...at, known: { against: now?.against ?? [], stopped } })
      if (later !== null) return setProblem(later)
      let change: Partial<RunBody> = {}
      let readingId: string | undefined
      if (isRead && asItStands(chain, step, runChannel)) {
        // Gone back to, it is corrected, not entered twice.
        const body = readingBody()
        const said = readingWords(body, placeWords[step.place ?? 'meter'], power)
        const { id, reading } = await orThrow(
          before?.readingId
            ? enterCorrection(chainId, before.readingId, body, said)
            : enterReading(chainId, { ...body, readAt: nowIso() }, said),
        )
        readingId = id
        // Of one that waits, the server finds the session when it comes.
        if (reading) change = { roundId: reading.roundId }
      }
      const sweep =
        swept &&
        !swept.unreadable &&
        (await keepStepSweep(swept, { step, run, chainId, document, analyser }))
      const entry = { ...entryNow(expectedOf(now)), ...sweep }
      if (entry.dials) keepDials(entry.dials)
      const kept = await onKeep(
        {
          ...entry,
          ...(readingId && { readingId }),
          ...(choice !== undefined && { words: choice }),
        },
        then,
        change,
      )
      if (kept) forget()
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  /** Starts the time of a hold, once it is known that nothing stands against it. */
  const keyDown = async () => {
    try {
      const now = await known()
      if (despite || now.against.length === 0) watch.start()
      else setProblem('Not yet: see above.')
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  const readingBody = (): ReadingBody => ({
    channelId: own.id,
    frequencyHz: own.frequencyHz,
    mode: step.state?.carrier ? 'key-down' : own.mode,
    powerW: setPowerOf(step.state ?? {}, runChannel),
    before: placesOf(document)[plane ?? 0]!.before,
    ...readOf(typed),
    ...(instrument && { instrumentId: instrument.id }),
    ...(run.by && { by: run.by }),
    note: `${run.title}: ${step.title}`.slice(0, 200),
  })
  /** Marks go to the channel, and from there on the operating card. */
  const keepDials = (dials: readonly string[]) => {
    if (dialled)
      edit(
        changeStage(dialled.id, (stage) =>
          stage.kind === 'tuner' || stage.kind === 'amplifier'
            ? { ...stage, dials: { ...stage.dials, [own.id]: [...dials] } }
            : stage,
        ),
      )
  }
  const main = useRef<HTMLButtonElement>(null)
  // As soon as the step is there, or its button can be pressed again: Enter goes on, however quick it comes.
  useLayoutEffect(() => {
    if (busy || isRead || step.dials) return
    if (window.document.activeElement === window.document.body) main.current?.focus()
  }, [busy, isRead, step.dials])

  return (
    <form
      aria-label="Step"
      className="space-y-4 px-5 py-5 sm:px-10"
      onSubmit={(event) => {
        event.preventDefault()
        if (step.kind === 'hold' && !step.rest && watch.seconds === 0) return void keyDown()
        if (step.kind !== 'decide') void next()
      }}
      onKeyDown={(event) => {
        const inField = (event.target as HTMLElement).matches('input, select, textarea')
        if (inField || event.altKey || event.ctrlKey || event.metaKey) return
        if (event.key === 'ArrowLeft' && onBack) onBack()
        if (event.key === 'ArrowRight' && step.kind !== 'decide') void next()
      }}
    >
      {stop && words && !wentOn && (
        <StopNow
          {...words}
          onStop={() =>
            void onKeep(
              {
                ...entryNow(),
                outcome: 'stopped',
                stop: stopOf(stop.rule, words.why, false),
              },
              { end: 'stopped' },
            )
          }
          onGoOn={() => setWentOn(true)}
        />
      )}
      {!despite && against.length > 0 && (
        <NotYet
          against={against}
          run={run}
          document={document}
          keyed={keyed}
          onGo={onGo}
          onDespite={maySayWhy ? () => setDespite(true) : null}
        />
      )}
      {step.kind === 'caution' && <p className="font-bold text-danger">▲ Caution</p>}
      <h2 className="max-w-2xl text-[27px] leading-tight font-bold">{step.title}</h2>
      {step.text && <p className="max-w-2xl text-lg">{step.text}</p>}
      {step.shows === 'ratings' && (
        <ul aria-label="What is known of the ratings" className="max-w-2xl text-base">
          {ratingLines(document, chain, own, power).map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {step.state && (
        <p className="text-sm text-muted">
          {stateWords(step, setPowerOf(step.state, runChannel), power)}
          {isRead && `, read ${placeWords[step.place ?? 'meter']}`}
        </p>
      )}
      {isRead && (
        <Figures
          step={step}
          typed={typed}
          onType={put}
          expected={expected}
          why={why}
          corrected={(watts) => correctedW(points, watts)}
          meterName={instrument?.document.name ?? 'the meter'}
        />
      )}
      {step.sweep && !keyed && (
        <StepSweep
          target={step.sweep}
          {...{ document, chain, swept, wentOn }}
          onSwept={(own) => {
            if (own.id !== swept?.id) setWentOn(false)
            setSwept(own)
          }}
          onStop={(words) =>
            void onKeep(
              { ...entryNow(), outcome: 'stopped', words, stop: stopOf('sweep', words, false) },
              { end: 'stopped' },
            )
          }
          onGoOn={() => setWentOn(true)}
        />
      )}
      {step.dials && (
        <StepDials names={names} values={typed.dials} onType={(dials) => put({ dials })} />
      )}
      {step.seconds !== undefined && (
        <StepHold
          seconds={step.seconds}
          rest={step.rest === true}
          watch={watch}
          blocked={blocked}
        />
      )}
      {look && (
        <p role="status" className="border-l-4 border-caution pl-3">
          ◇ Look: it may be over its limit. {stopWords(look, document, power).why}
        </p>
      )}
      {expected && !meterTells(meter, expected.watts) && (
        <p className="border-l-4 border-caution pl-3 text-sm">
          ◇ At this power {instrument?.document.name ?? 'the meter'} may be off by ±{' '}
          {formatPower(readingDoubtW(meter, expected.watts), power)}: it cannot tell a fault from
          its own error. Use a lower range or another meter.
        </p>
      )}
      {isRead && swrLimit !== null && (
        <p className="text-sm">
          Stop if SWR is over {formatSwr(swrLimit)}, power falls by half, reflected jumps, or
          anything smells.
        </p>
      )}
      <Problem text={problem} />
      <StepButtons
        {...{ step, main, busy, onBack }}
        next={step.kind === 'hold' && !step.rest && watch.seconds === 0 ? 'Key down' : 'Next'}
        onChoose={({ backTo, end, label }) => void next({ backTo, end }, label)}
        onSkip={(words) => void onKeep({ outcome: 'skipped', words })}
      />
      {isRead && !asItStands(chain, step, runChannel) && (
        <p className="text-xs text-muted">
          This reading is kept with the run alone: the log holds readings of the chain as it stands.
          Expected {expected ? formatPower(expected.watts, power) : ''} is for the state of the
          step.
        </p>
      )}
    </form>
  )
}

const expectedOf = (facts: StepFigures | null): ExpectedStep | null =>
  typeof facts?.expected === 'object' ? facts.expected : null
