/** Panels of the stages that do more than take: meters, tuners, amplifiers. */
import { useUnits } from '../platform/preferences.ts'
import {
  type AmplifierDocument,
  type StageDocument,
  type TunerDocument,
  newId,
} from '@saltline/contract'
import { formatImpedance, formatPower, formatSwr, type InputAid, stageOfAid } from '@saltline/core'
import { useState } from 'react'
import { beyondTuner } from '../model/answers.ts'
import { changeStage, insertStage } from '../model/edits.ts'
import { factsOf } from '../model/sentence.ts'
import { FigureList } from '../ui/FigureList.tsx'
import { FromGear } from './FromGear.tsx'
import { ReadHere } from './ReadHere.tsx'
import type { PanelProps } from './panelProps.ts'
import { AmplifierFields } from './stage/AmplifierFields.tsx'
import { InputAids } from './stage/InputAids.tsx'
import { TunerFields } from './stage/TunerFields.tsx'
import { DialMarks, TunerSetting } from './stage/TunerSetting.tsx'

type Placed<S> = PanelProps & { index: number; stage: S }

/** What a meter stage shows where it stands, and what could make it lie. */
export function MeterReading(props: PanelProps & { index: number }) {
  const { station, chain, document, channel, answer, index } = props
  const { power } = useUnits()
  if (!answer?.ok || !chain) return null
  const plane = answer.solution.planes[index]!
  const behind = document.stages.slice(index + 1).filter(({ bypassed }) => !bypassed)
  const tuner = behind.find(({ kind }) => kind === 'tuner')
  const choke = behind.find((stage) => stage.kind === 'pad' && stage.part === 'choke')
  return (
    <>
      <FigureList
        rows={[
          ['Forward here, PEP', formatPower(plane.forwardW, power)],
          ['Reflected here, PEP', formatPower(plane.reflectedW, power)],
          ['SWR it shows', formatSwr(plane.swr)],
        ]}
      />
      <ReadHere key={channel.id} {...{ station, chain, document, channel }} plane={index} />
      {tuner && (
        <p className="text-sm text-muted">
          It stands before {tuner.name} and shows the tuner’s match, not the antenna’s
          {beyondTuner(document.stages, document.stages.length)
            ? ' impedance.'
            : ` SWR of ${formatSwr(answer.solution.planes.at(-1)!.swr)}.`}
        </p>
      )}
      <p className="text-sm text-muted">
        {choke
          ? `${choke.name} keeps current off the braid. Should the reading change when a lead is moved or made longer, look there.`
          : '▲ No choke on its antenna side: current on the outside of the braid can falsify what it shows. If the SWR changes with the length of a lead, suspect that.'}
      </p>
    </>
  )
}

export function Tuner({
  station,
  actions,
  answer,
  channel,
  document,
  index,
  stage,
}: Placed<TunerDocument>) {
  const state = answer?.ok ? answer.solution.stages[index]?.tuner : undefined
  const replace = (next: StageDocument) => actions.changeStage(stage.id, () => next)
  const change = (part: Partial<TunerDocument>) =>
    actions.edit(changeStage(stage.id, (s) => ({ ...s, ...part }) as StageDocument))
  return (
    <>
      {state && (
        <TunerSetting
          state={state}
          ranged={answer?.ok === true && answer.spread?.phaseUnknown === true}
          cableBehind={document.stages
            .slice(index + 1)
            .some(({ kind, bypassed }) => kind === 'line' && !bypassed)}
          beyond={
            answer?.ok && !answer.spread?.phaseUnknown
              ? formatImpedance(answer.solution.planes[index + 1]!.impedanceOhm)
              : null
          }
        />
      )}
      {stage.method === 'network' && !stage.automatic && (
        <DialMarks stage={stage} channel={channel} change={change} />
      )}
      <FromGear
        station={station}
        kind="tuner"
        document={stage}
        onTake={(taken) => replace({ ...taken, id: stage.id })}
      />
      <TunerFields key={stage.id} stage={stage} change={change} replace={replace} />
    </>
  )
}

export function Amplifier(props: Placed<AmplifierDocument>) {
  const { power } = useUnits()
  const { station, actions, answer, document, channel, index, stage } = props
  const [taming, setTaming] = useState(false)
  const solution = answer?.ok ? answer.solution : null
  const state = solution?.stages[index]?.amplifier
  const change = (part: Partial<AmplifierDocument>) =>
    actions.changeStage(stage.id, (s) => ({ ...s, ...part }) as StageDocument)
  const putIn = (aid: InputAid) => {
    const part = stageOfAid(aid)
    setTaming(false)
    if (part?.kind === 'pad')
      actions.edit(
        insertStage(index, {
          ...part,
          id: newId(),
          name: 'Input pad',
          part: 'attenuator',
        } as StageDocument),
      )
    else if (part)
      actions.edit(
        insertStage(index, { ...part, id: newId(), name: 'Input resistor' } as StageDocument),
      )
  }
  return (
    <>
      {solution && state && (
        <>
          {factsOf(document, solution, power)
            .filter((fact) => fact.stage === index)
            .map(({ text }) => (
              <p key={text} role="alert" className="text-sm text-danger">
                ▲ {text}
              </p>
            ))}
          <FigureList
            rows={[
              ['Drive, PEP', formatPower(state.driveW, power)],
              ['Largest drive in this mode', formatPower(state.mostDriveW, power)],
              ['Output, PEP', formatPower(state.outputW, power)],
              ['Largest output in this mode', formatPower(state.ceilingW, power)],
              ['The exciter sees SWR', formatSwr(solution.planes[0]!.swr)],
              ['It sees SWR', formatSwr(solution.planes[index + 1]!.swr)],
            ]}
          />
          <button type="button" className="button" onClick={() => setTaming(true)}>
            Improve its input match…
          </button>
        </>
      )}
      <FromGear
        station={station}
        kind="amplifier"
        document={stage}
        onTake={(taken) => actions.changeStage(stage.id, () => ({ ...taken, id: stage.id }))}
      />
      <AmplifierFields
        key={stage.id}
        stage={stage}
        change={change}
        hz={channel.frequencyHz}
        swr={solution?.planes[index + 1]?.swr ?? null}
      />
      <p className="text-xs text-muted">
        High voltage inside an amplifier kills: its covers stay on. Work inside is for qualified
        people.
      </p>
      {taming && (
        <InputAids
          document={document}
          amplifier={stage}
          index={index}
          onPutIn={putIn}
          onClose={() => setTaming(false)}
        />
      )}
    </>
  )
}
