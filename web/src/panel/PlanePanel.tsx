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
import { beyondTuner } from '../chain/answers.ts'
import { stageChoices } from '../chain/edits.ts'
import { useUnits } from '../app/preferences.ts'
import { ChooseFile } from '../importing/ChooseFile.tsx'
import { FigureList } from '../parts/FigureList.tsx'
import { rangeText, wattsText } from '../parts/wattsText.ts'
import { ReadHere } from './ReadHere.tsx'
import type { PanelProps } from './SidePanel.tsx'

/** Every figure at one plane, and what could be put in there. */
export function PlanePanel({
  index,
  answer,
  actions,
  document,
  onFile,
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
            ['Net power, PEP', wattsText(plane.netW, power, spread?.netW)],
            ...(beyond
              ? []
              : ([
                  ['Forward, PEP', wattsText(plane.forwardW, power, spread?.forwardW)],
                  ['Reflected, PEP', wattsText(plane.reflectedW, power, spread?.reflectedW)],
                  ['SWR', rangeText(plane.swr, spread?.swr, formatSwr)],
                ] as [string, string][])),
            ...(phaseUnknown || beyond
              ? []
              : ([
                  ['Return loss', formatDb(returnLossDb(magnitude(plane.reflection)))],
                  [
                    'Reflection',
                    `${decimals(magnitude(plane.reflection), 3)} ∠ ${decimals((Math.atan2(plane.reflection.im, plane.reflection.re) * 180) / Math.PI, 0)}°`,
                  ],
                ] as [string, string][])),
            ...(phaseUnknown
              ? []
              : ([['Impedance', formatImpedance(plane.impedanceOhm)]] as [string, string][])),
            ['Voltage, RMS', rangeText(plane.voltageRms, spread?.voltageRms, formatVolt)],
            ...(phaseUnknown
              ? []
              : ([['Current, RMS', formatAmpere(plane.currentRms)]] as [string, string][])),
            [
              'Less than set',
              formatDb(answer?.ok ? 10 * Math.log10(answer.solution.settingW / plane.netW) : NaN),
            ],
          ]}
        />
      )}
      {beyond && (
        <p className="text-sm text-muted">
          No line carries a wave behind the last tuner: forward power, reflected power and SWR on 50
          Ω say nothing here.
        </p>
      )}
      {plane && !beyond && (
        <ReadHere key={channel.id} pepW={plane.forwardW} channel={channel} plane={index} />
      )}
      {plane && plane.netW < 0.0005 && (
        <p className="text-sm text-muted">{formatPower(plane.netW)} is as good as nothing.</p>
      )}
      <div>
        <h3 className="mb-1 text-sm text-muted">Insert here</h3>
        <div className="grid grid-cols-2 gap-1.5">
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
