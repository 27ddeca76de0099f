import {
  ANALYSER_FROM,
  type FaultKind,
  faultKinds,
  findBench,
  findDrill,
  hintOf,
  judge,
  keyDownAt,
  kindsOf,
  type Level,
  levels,
  type MeterReading,
  needleAt,
  noted,
  parOf,
  scoreOf,
  type DrillAnswer,
  type TakenSweep,
  VOICE_POINT,
} from '@saltline/core'
import { useCallback, useMemo, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { useTask } from '../../compute/useTask.ts'
import { answerText, levelNames, troubleNames } from '../../model/drillWords.ts'
import { newSeed } from '../../model/attempts.ts'
import { useKeys } from '../../shell/keys.ts'
import { Page } from '../../shell/Page.tsx'
import { ControlField } from '../../instruments/ControlField.tsx'
import { clockOf } from '../../instruments/clockOf.ts'
import { KeyButton } from '../../instruments/KeyButton.tsx'
import { Needle } from '../../instruments/Needle.tsx'
import { usePlay } from '../../instruments/usePlay.ts'
import { Analyser } from './Analyser.tsx'
import { AnswerForm } from './AnswerForm.tsx'
import { FindDebrief } from './FindDebrief.tsx'
import { Looks } from './Looks.tsx'
import { NoteReading } from './NoteReading.tsx'
import { PracticeSpine } from './PracticeSpine.tsx'
import { ReadingList } from './ReadingList.tsx'
import { useAttempt } from './useAttempt.ts'

/** Find the fault: the address is the drill. */
export function FindPage() {
  const { level: levelText, seed = '' } = useParams()
  const [search] = useSearchParams()
  const level = levels.find((each) => String(each) === levelText)
  const named = faultKinds.find((kind) => kind === search.get('kind'))
  const kind = level && named && kindsOf(level).includes(named) ? named : undefined
  if (!level || !seed || seed.length > 40)
    return (
      <Page title="Drill">
        <p className="p-5">
          There is no such drill. A drill’s address ends with a level from 1 to 3 and a seed.
        </p>
      </Page>
    )
  return <Find key={`${level} ${seed} ${kind}`} seed={seed} level={level} kind={kind} />
}

function Find({ seed, level, kind }: { seed: string; level: Level; kind: FaultKind | undefined }) {
  const drill = useMemo(() => findDrill(seed, level, kind), [seed, level, kind])
  const [left, setLeft] = useState(drill.faults)
  const bench = useMemo(() => findBench(drill, left), [drill, left])
  const { play, perform, now, at } = usePlay(bench)
  const [readings, setReadings] = useState<MeterReading[]>([])
  /** Those of the readings that are of the chain as it stands: no dummy load, nothing put right since. */
  const [standing, setStanding] = useState<MeterReading[]>([])
  /** Those that led to the first right answer. */
  const [way, setWay] = useState<MeterReading[] | null>(null)
  const [looks, setLooks] = useState<string[]>([])
  const [analysing, setAnalysing] = useState(false)
  const [swept, setSwept] = useState<TakenSweep | null>(null)
  const [hints, setHints] = useState<string[]>([])
  const [answers, setAnswers] = useState<
    { answer: DrillAnswer; right: boolean; size: boolean | null }[]
  >([])
  const [ended, setEnded] = useState(false)
  const keep = useAttempt()
  const navigate = useNavigate()

  const figuresOf = useMemo(
    () => (level === 1 ? { seed, level, kind, readings: null } : null),
    [seed, level, kind],
  )
  const expected = useTask('drill', figuresOf).result?.expected ?? null

  const settings = play.settings
  const [face] = bench.faces(settings)
  const keyed = play.keyedAt !== null
  const valueAt = useCallback(() => needleAt(play, 'watts', now()), [play, now])
  const set = (control: string, value: number | string) => perform({ do: 'set', control, value })
  const key = (down: boolean) => perform({ do: 'key', down })
  useKeys(
    useMemo(
      () => ({ k: () => perform({ do: 'key', down: play.keyedAt === null }) }),
      [perform, play.keyedAt],
    ),
  )

  const par = parOf(drill.faults)
  const wrong = answers.filter(({ right }) => !right).length
  const score = useMemo(() => {
    const found = answers.filter(({ right }) => right)
    const last = answers.at(-1)
    return scoreOf({
      finding: found.length === drill.faults.length || last?.answer.finding === left[0]?.finding,
      part: found.length === drill.faults.length,
      size: found.some(({ size }) => size === false)
        ? false
        : found.some(({ size }) => size === true)
          ? true
          : null,
      readings: readings.length,
      looks: looks.length,
      par,
      keyDownS: keyDownAt(play, at),
      hints: hints.length,
      wrong: Math.max(0, wrong - (found.length === drill.faults.length ? 0 : 1)),
      troubles: play.troubles.map(({ kind: trouble }) => trouble),
    })
  }, [answers, drill, left, readings, looks, par, play, at, hints, wrong])

  const end = () => {
    if (keyed) key(false)
    setEnded(true)
  }
  const submit = (answer: DrillAnswer) => {
    const { finding, part, size, fault } = judge(drill, answer, left)
    const right = finding && part
    setAnswers([...answers, { answer, right, size }])
    if (!right) return
    const rest = left.filter((other) => other !== fault)
    setLeft(rest)
    setSwept(null)
    // What follows is of another station: the debrief goes through what was read until here.
    setWay((before) => before ?? standing)
    if (rest.length > 0) setStanding([])
    if (rest.length === 0) end()
  }
  const note = (watts: number) => {
    const fullW = drill.station.channels[0]!.powerW
    // At less than full power: as it would be at full power, so that readings can be compared.
    const scale = fullW / Number(settings['power'])
    const onLine = settings['end'] === 'line'
    const back = settings['way'] === 'reflected'
    const reading = noted(settings, { forwardW: back ? 0 : watts * scale })
    if (!back) {
      setReadings([...readings, reading])
      if (onLine) setStanding([...standing, reading])
      return
    }
    const here = (other: MeterReading) =>
      other.point === reading.point &&
      other.plane === reading.plane &&
      other.instrument === reading.instrument
    const withBack = (list: MeterReading[]) => {
      const index = list.findLastIndex(here)
      return list.map((each, i) => (i === index ? { ...each, reflectedW: watts * scale } : each))
    }
    setReadings(withBack(readings))
    if (onLine) setStanding(withBack(standing))
  }
  const plane = Number(settings['plane'])
  const point =
    settings['mode'] === 'voice' && settings['channel'] === 0
      ? VOICE_POINT
      : Number(settings['channel'])
  const instrument = Number(settings['meter'])
  // A forward reading from before something was put right is not this one's.
  const canBack = (settings['end'] === 'line' ? standing : readings).some(
    (r) => r.plane === plane && r.point === point && r.instrument === instrument,
  )
  const trouble = play.lasting[0] ?? null
  const recent = play.troubles.at(-1)

  if (ended)
    return (
      <FindDebrief
        drill={drill}
        kind={kind}
        readings={way ?? standing}
        count={readings.length}
        score={score}
        answers={answers}
        solved={left.length === 0}
        keyDownS={keyDownAt(play, at)}
        onKeep={keep}
      />
    )
  const controls = bench.controls(settings)
  const keyButton = <KeyButton down={keyed} seconds={keyed ? at - play.keyedAt! : 0} onKey={key} />
  const field = (id: string) => {
    const control = controls.find((each) => each.id === id)!
    return <ControlField control={control} settings={settings} onSet={(value) => set(id, value)} />
  }
  return (
    <Page title={`Drill ${seed}`}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-6 border-b border-rule px-5 py-2">
        <p>
          <b>Somebody says the signal is weak.</b>{' '}
          <span className="text-sm text-muted">
            {drill.station.name} · level {level}, {levelNames[level]} · seed {seed}
          </span>
        </p>
        <p className="text-sm text-muted tabular-nums">
          {readings.length + looks.length} readings and looks, par {par} · key down{' '}
          {clockOf(keyDownAt(play, at))}
        </p>
      </div>
      <div className="border-b border-rule px-4 pb-1">
        <PracticeSpine
          drill={drill}
          readings={standing.filter((r) => r.point === 0 || r.point === VOICE_POINT)}
          meterAt={plane}
          truthW={null}
          onPlace={(to) => set('plane', to)}
        />
      </div>
      <div className="grid lg:grid-cols-[250px_1fr_330px]">
        <section
          aria-label="Transmitter"
          className="space-y-3 border-rule px-5 py-4 max-lg:order-2 lg:border-r"
        >
          <h2 className="font-bold">
            Transmitter <span className="font-normal text-muted">{drill.station.radio}</span>
          </h2>
          {field('power')}
          {field('mode')}
          {field('channel')}
          <div className="max-lg:hidden">{keyButton}</div>
          <p role="alert" className="min-h-10 text-sm text-danger">
            {trouble
              ? `▲ ${troubleNames[trouble]}`
              : recent && at - recent.at < 4
                ? `▲ ${troubleNames[recent.kind]}`
                : ''}
          </p>
        </section>
        <section aria-label="Wattmeter" className="px-5 py-4 max-lg:order-1">
          <div className="grid gap-x-4 gap-y-2 sm:grid-cols-3">
            {field('meter')}
            {field('plane')}
            {field('end')}
          </div>
          <div className="instrument mx-auto mt-2 max-w-[430px]">
            <Needle face={face!} valueAt={valueAt} lively={play} />
          </div>
          {/* On a phone the key is where the needle is seen. */}
          <div className="mt-2 lg:hidden">{keyButton}</div>
          <div className="mt-2 flex flex-wrap justify-center gap-x-6 gap-y-2">
            {field('range')}
            {field('way')}
          </div>
          <NoteReading
            key={`${plane} ${point} ${instrument} ${settings['way']} ${readings.length}`}
            way={String(settings['way'])}
            possible={settings['way'] === 'forward' || canBack}
            expected={
              settings['end'] === 'line' && expected?.[point]?.[plane]?.[instrument]
                ? {
                    figures: expected[point][plane][instrument],
                    share: Number(settings['power']) / drill.station.channels[0]!.powerW,
                  }
                : null
            }
            face={face!}
            onNote={note}
          />
        </section>
        <section
          aria-label="What is wrong?"
          className="space-y-4 border-rule px-5 py-4 max-lg:order-3 lg:border-l"
        >
          <AnswerForm drill={drill} onSubmit={submit} />
          {answers.length > 0 && (
            <p role="status" className="text-sm">
              {answers.at(-1)!.right
                ? `Right: ${answerText(drill, answers.at(-1)!.answer)}. It is put right now; one thing is still wrong.`
                : `No: ${answerText(drill, answers.at(-1)!.answer)} is not it. Read on.`}
            </p>
          )}
          <Looks drill={drill} left={left} seen={looks} onLook={(id) => setLooks([...looks, id])} />
          {level >= ANALYSER_FROM && (
            <button
              type="button"
              className="button"
              disabled={keyed}
              onClick={() => setAnalysing(true)}
            >
              Connect the analyser
            </button>
          )}
          {analysing && (
            <Analyser
              drill={drill}
              left={left}
              count={looks.length}
              taken={swept}
              onSweep={(taken) => {
                setSwept(taken)
                setLooks([...looks, `sweep ${looks.length}`])
              }}
              onClose={() => setAnalysing(false)}
            />
          )}
          <ReadingList
            drill={drill}
            readings={readings}
            answered={answers.some(({ right }) => right)}
          />
          <div className="border-t border-rule pt-2 text-sm">
            {hints.map((hint) => (
              <p key={hint}>{hint}</p>
            ))}
            <p className="mt-1 flex flex-wrap gap-x-4">
              <button
                type="button"
                className="link min-h-6"
                disabled={hints.includes(hintOf(drill, left))}
                onClick={() => setHints([...new Set([...hints, hintOf(drill, left)])])}
              >
                a hint, 10 points
              </button>
              <button type="button" className="link min-h-6" onClick={end}>
                show the answer
              </button>
              <button
                type="button"
                className="link min-h-6"
                onClick={() => void navigate(`/drills/find/${level}/${newSeed()}`)}
              >
                another drill
              </button>
            </p>
          </div>
        </section>
      </div>
    </Page>
  )
}
