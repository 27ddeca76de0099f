import { Term } from '../shell/Term.tsx'
import {
  decimals,
  formatAmpere,
  formatDb,
  formatImpedance,
  formatPower,
  formatSwr,
  formatVolt,
  magnitude,
  returnLossDb,
} from '@saltline/core'
import { beyondTuner } from '../model/answers.ts'
import { stageChoices } from '../model/stages/index.ts'
import { useUnits } from '../platform/preferences.ts'
import { ChooseFile } from './ChooseFile.tsx'
import { FigureList } from '../ui/FigureList.tsx'
import { rangeText, wattsText } from '../model/wattsText.ts'
import { ReadHere } from './ReadHere.tsx'
import type { PanelProps } from './panelProps.ts'

/** Every figure at one plane, and what could be put in there. */
export function PlanePanel({
  index,
  answer,
  actions,
  document,
  onFile,
  station,
  chain,
  channel,
}: PanelProps & { index: number }) {
  const { power } = useUnits()
  if (index > document.stages.length)
    return <p className="text-muted">This plane is no longer in the chain.</p>
  const plane = answer?.ok ? answer.solution.planes[index]! : null
  const spread = (answer?.ok && answer.spread?.planes[index]) || undefined
  const phaseUnknown = answer?.ok && answer.spread?.phaseUnknown
  const beyond = beyondTuner(document.stages, index)
  return (
    <div className="space-y-4">
      {plane && (
        <FigureList
          rows={[
            [<Term>Net power</Term>, wattsText(plane.netW, power, spread?.netW)],
            ...(beyond
              ? []
              : ([
                  [<Term>Forward power</Term>, wattsText(plane.forwardW, power, spread?.forwardW)],
                  [
                    <Term>Reflected power</Term>,
                    wattsText(plane.reflectedW, power, spread?.reflectedW),
                  ],
                  [<Term>SWR</Term>, rangeText(plane.swr, spread?.swr, formatSwr)],
                ] as [React.ReactNode, string][])),
            ...(phaseUnknown || beyond
              ? []
              : ([
                  [<Term>Return loss</Term>, formatDb(returnLossDb(magnitude(plane.reflection)))],
                  [
                    'Reflection',
                    `${decimals(magnitude(plane.reflection), 3)} ∠ ${decimals((Math.atan2(plane.reflection.im, plane.reflection.re) * 180) / Math.PI, 0)}°`,
                  ],
                ] as [React.ReactNode, string][])),
            ...(phaseUnknown
              ? []
              : ([[<Term>Impedance</Term>, formatImpedance(plane.impedanceOhm)]] as [
                  React.ReactNode,
                  string,
                ][])),
            ['Voltage, RMS', rangeText(plane.voltageRms, spread?.voltageRms, formatVolt)],
            ...(phaseUnknown
              ? []
              : ([['Current, RMS', formatAmpere(plane.currentRms)]] as [
                  React.ReactNode,
                  string,
                ][])),
            [
              'Below set power',
              formatDb(answer?.ok ? 10 * Math.log10(answer.solution.settingW / plane.netW) : NaN),
            ],
          ]}
        />
      )}
      {beyond && (
        <p className="text-sm text-muted">
          There is no line on the antenna side of the last tuner: forward power, reflected power and
          SWR on 50 Ω mean nothing here.
        </p>
      )}
      {plane && chain && !beyond && (
        <ReadHere key={channel.id} {...{ station, chain, document, channel }} plane={index} />
      )}
      {plane && plane.netW < 0.0005 && (
        <p className="text-sm text-muted">{formatPower(plane.netW, power)} is negligible.</p>
      )}
      <div>
        <h3 className="mb-1 text-sm text-muted">Insert here</h3>
        <div data-insert className="grid grid-cols-2 gap-1.5">
          {stageChoices.map(({ choice, label, hint }) => (
            <button
              key={choice}
              type="button"
              className="button justify-start"
              title={hint}
              onClick={() => actions.insertAt(index, choice)}
            >
              {label}
            </button>
          ))}
        </div>
        <div className="mt-2">
          <ChooseFile onFile={onFile}>Measured part (.s2p)</ChooseFile>
        </div>
      </div>
    </div>
  )
}
