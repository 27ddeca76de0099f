import {
  ANALYSER_FROM,
  type DrillAnswer,
  type FaultKind,
  type FindDrill,
  formatDb,
  formatPercent,
  formatPower,
  lessons,
  type MeterReading,
  type Score,
  sizeOfFault,
  VOICE_POINT,
} from '@saltline/core'
import type { AttemptBody } from '@saltline/contract'
import { useEffect, useMemo, useRef } from 'react'
import { Link } from 'react-router'
import { useTask } from '../../compute/useTask.ts'
import { answerText, siteText } from '../../model/drillWords.ts'
import { newSeed } from '../../model/attempts.ts'
import { Page } from '../../shell/Page.tsx'
import { AnalyserSaid } from './AnalyserSaid.tsx'
import { LessonText } from './LessonText.tsx'
import { PracticeSpine } from './PracticeSpine.tsx'
import { ScoreList } from './ScoreList.tsx'

/** The end of a drill: the truth over what was known, the score, the way, the lesson. */
export function FindDebrief({
  drill,
  kind,
  readings,
  count,
  score,
  answers,
  solved,
  keyDownS,
  onKeep,
}: {
  drill: FindDrill
  kind: FaultKind | undefined
  /** On the chain, until the first fault was put right. */
  readings: readonly MeterReading[]
  /** Of all that were noted. */
  count: number
  score: Score
  answers: readonly { answer: DrillAnswer; right: boolean }[]
  solved: boolean
  keyDownS: number
  onKeep: (attempt: Omit<AttemptBody, 'by'>) => void
}) {
  const { seed, level, faults } = drill
  const heading = useRef<HTMLHeadingElement>(null)
  useEffect(() => {
    heading.current?.focus()
    onKeep({
      family: 'find',
      drill: faults[0]!.kind,
      level,
      seed,
      points: score.total,
      right: solved,
      readings: Math.min(1000, count),
      keyDownS: Math.min(86_400, keyDownS),
    })
    // Once, as it ends.
  }, []) // oxlint-disable-line react/exhaustive-deps
  const request = useMemo(() => ({ seed, level, kind, readings }), [seed, level, kind, readings])
  const debrief = useTask('drill', request).result?.debrief ?? null
  const what = faults
    .map((fault) => {
      const db = sizeOfFault(drill, fault)
      const text = answerText(drill, { finding: fault.finding, part: fault.part })
      return db === null ? text : `${text}, ${formatDb(db)}`
    })
    .join('; and ')
  return (
    <Page title={`Debrief ${seed}`}>
      <div className="border-b border-rule px-5 pt-3 pb-1">
        <h2 ref={heading} tabIndex={-1} className="text-[18px] leading-snug outline-none">
          {solved ? 'Found: ' : 'It was: '}
          <b>{what}</b>.
        </h2>
        <PracticeSpine
          drill={drill}
          readings={readings.filter((r) => r.point === 0 || r.point === VOICE_POINT)}
          meterAt={null}
          truthW={debrief?.netW ?? null}
        />
      </div>
      <div className="grid lg:grid-cols-[300px_1fr_320px]">
        <div className="border-rule px-5 py-4 lg:border-r">
          <ScoreList score={score} />
        </div>
        <section aria-label="The way" className="px-5 py-4">
          <h2 className="font-bold">
            What would have been best at each point
            {faults.length > 1 && ', until the first was put right'}
          </h2>
          {debrief ? (
            <>
              <p className="mt-1 text-sm text-muted">
                {debrief.needs === null
                  ? 'The diagnosis does not find this one by itself.'
                  : `Following the diagnosis takes ${debrief.needs} readings and looks on this drill.`}
              </p>
              <table className="mt-2 w-full text-sm">
                <thead className="text-left text-muted">
                  <tr>
                    <th scope="col">After</th>
                    <th scope="col">most likely by then</th>
                    <th scope="col">best next reading</th>
                  </tr>
                </thead>
                <tbody>
                  {debrief.way.map(({ leader, probability, best }, i) => {
                    const before = readings[i - 1]
                    return (
                      <tr key={i} className="border-t border-rule align-top [&>*]:py-1 [&>*]:pr-3">
                        <th scope="row" className="text-left font-normal">
                          {before
                            ? `${formatPower(before.forwardW!)} ${siteText(drill, before)}`
                            : 'the record'}
                        </th>
                        <td>
                          {answerText(drill, leader)}, {formatPercent(probability)}
                        </td>
                        <td>{best ? siteText(drill, best) : 'none that tells more'}</td>
                      </tr>
                    )
                  })}
                </tbody>
              </table>
            </>
          ) : (
            <p className="mt-1 text-sm text-muted">Going through your readings …</p>
          )}
          {level >= ANALYSER_FROM && <AnalyserSaid drill={drill} />}
          {answers.length > 0 && (
            <p className="mt-2 text-sm text-muted">
              You said:{' '}
              {answers
                .map(({ answer, right }) => `${answerText(drill, answer)} ${right ? '✓' : '✕'}`)
                .join('; ')}
              .
            </p>
          )}
        </section>
        <div className="space-y-4 border-rule px-5 py-4 lg:border-l">
          {[...new Set(faults.map(({ finding }) => finding))].map((finding) => (
            <LessonText key={finding} {...lessons[finding]} />
          ))}
          <p className="flex gap-3">
            <Link className="button button-main" to={`/drills/find/${level}/${newSeed()}`}>
              Another drill
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
