import { Fold } from '../ui/Fold.tsx'
import { useUnits } from '../platform/preferences.ts'
import { Term } from '../shell/Term.tsx'
import { textLimits, type TransmitterDocument } from '@saltline/contract'
import { formatFrequency, formatPercent, formatPower, formatSwr } from '@saltline/core'
import { Plus, X } from 'lucide-react'
import { ratedOn, settingOf } from '../model/answers.ts'
import { builtInTuner } from '../model/stages/tuner.ts'
import { insertStage } from '../model/edits.ts'
import { ChoiceField } from '../ui/ChoiceField.tsx'
import { FigureList } from '../ui/FigureList.tsx'
import { FrequencyField, MaybeField, PowerField, SwrField } from '../ui/quantities.tsx'
import { TextField } from '../ui/TextField.tsx'
import { FoldbackFields } from './FoldbackFields.tsx'
import { FromGear } from './FromGear.tsx'
import { ReadHere } from './ReadHere.tsx'
import type { PanelProps } from './panelProps.ts'

type Change = (part: Partial<TransmitterDocument>) => void

export function TransmitterPanel(props: PanelProps) {
  const { station, chain, document, channel, answer, actions } = props
  const { power } = useUnits()
  const { transmitter } = document
  const { behaviour, reduced } = transmitter
  const change: Change = (part) =>
    actions.edit((d) => ({ ...d, transmitter: { ...d.transmitter, ...part } }))
  const plane = answer?.ok ? answer.solution.planes[0]! : null
  const set = settingOf(transmitter, channel)
  return (
    <div className="space-y-3">
      {answer?.ok && plane && (
        <>
          <FigureList
            rows={[
              ['Set, PEP', formatPower(set, power)],
              ['SWR it sees', formatSwr(plane.swr)],
              [
                <>
                  Power left by <Term>foldback</Term>
                </>,
                formatPercent(answer.solution.foldback),
              ],
              ['Forward', formatPower(plane.forwardW, power)],
              ['Reflected', formatPower(plane.reflectedW, power)],
              ['Delivered, PEP', formatPower(answer.solution.transmitterNetW, power)],
            ]}
          />
          {chain && (
            <ReadHere key={channel.id} {...{ station, chain, document, channel }} plane={0} />
          )}
        </>
      )}
      <FromGear
        station={station}
        kind="transmitter"
        document={transmitter}
        onTake={(taken) => actions.edit((d) => ({ ...d, transmitter: taken }))}
      />
      <TextField label="Name" value={transmitter.name} onChange={(name) => change({ name })} />
      <PowerField
        label="Rated power, PEP"
        value={transmitter.ratedW}
        onChange={(ratedW) => change({ ratedW })}
        hint={`On ${formatFrequency(channel.frequencyHz)}: ${formatPower(ratedOn(transmitter, channel.frequencyHz))}`}
      />
      <Bands transmitter={transmitter} hz={channel.frequencyHz} change={change} />
      <MaybeField
        label={
          reduced?.on
            ? '✕ Power is reduced: no channel gets more than'
            : 'Reduced-power setting is on'
        }
        value={reduced?.on ? reduced.powerW : undefined}
        usual={reduced?.powerW ?? transmitter.ratedW / 2}
        onChange={(powerW) =>
          change({
            reduced:
              powerW === undefined
                ? { powerW: reduced?.powerW ?? transmitter.ratedW / 2, on: false }
                : { powerW, on: true },
          })
        }
      >
        {(powerW) => (
          <PowerField
            label="Reduced to, PEP"
            value={powerW}
            onChange={(watts) => change({ reduced: { powerW: watts, on: true } })}
          />
        )}
      </MaybeField>
      <ChoiceField
        label="Into a mismatch"
        value={behaviour}
        options={[
          { value: 'levelled', label: 'constant forward power (typical solid-state)' },
          { value: 'peaked', label: 'tuned output (full power into the mismatch)' },
        ]}
        onChange={(next) => change({ behaviour: next })}
        hint={
          behaviour === 'levelled'
            ? 'As most solid-state transmitters: reflected power is not delivered.'
            : 'As a tube stage with tune and load controls: full set power is delivered.'
        }
      />
      <FoldbackFields
        points={transmitter.foldback}
        here={plane?.swr ?? null}
        onChange={(foldback) => change({ foldback })}
      />
      <BuiltInTuner
        transmitter={transmitter}
        change={change}
        onPutIn={(tuner) =>
          actions.edit(insertStage(0, builtInTuner(`${transmitter.name} tuner`, tuner)))
        }
      />
      <TextField
        label="Supply (may stay empty)"
        value={transmitter.supply ?? ''}
        optional
        most={textLimits.supply}
        onChange={(supply) => change({ supply: supply || undefined })}
      />
    </div>
  )
}

/** Where the rated power is another one. */
function Bands({
  transmitter: { bands = [], ratedW },
  hz,
  change,
}: {
  transmitter: TransmitterDocument
  hz: number
  change: Change
}) {
  const set = (i: number, part: Partial<(typeof bands)[number]>) =>
    change({ bands: bands.with(i, { ...bands[i]!, ...part }) })
  return (
    <Fold
      summary={<>Another rating on some bands{bands.length > 0 && `: ${bands.length}`}</>}
      startsOpen={bands.length > 0}
    >
      <div className="mt-2 space-y-1.5">
        {bands.map((band, i) => (
          <div key={i} className="grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-1.5">
            <FrequencyField
              label={`from, ${i + 1}`}
              value={band.lowHz}
              max={band.highHz - 1}
              onChange={(lowHz) => set(i, { lowHz })}
            />
            <FrequencyField
              label={`to, ${i + 1}`}
              value={band.highHz}
              min={band.lowHz + 1}
              onChange={(highHz) => set(i, { highHz })}
            />
            <PowerField
              label={`rated, ${i + 1}`}
              value={band.ratedW}
              onChange={(watts) => set(i, { ratedW: watts })}
            />
            <button
              type="button"
              className="quiet mb-0.5 !px-1"
              aria-label={`Remove band ${i + 1}`}
              onClick={() =>
                change({ bands: bands.length > 1 ? bands.toSpliced(i, 1) : undefined })
              }
            >
              <X size={15} aria-hidden />
            </button>
          </div>
        ))}
        <button
          type="button"
          className="quiet -ml-2"
          disabled={bands.length >= 20}
          onClick={() =>
            change({ bands: [...bands, { lowHz: hz * 0.95, highHz: hz * 1.05, ratedW }] })
          }
        >
          <Plus size={15} aria-hidden /> Add a band
        </button>
      </div>
    </Fold>
  )
}

/** The tuner inside: a note of its reach, and the way to put it into the chain. */
function BuiltInTuner({
  transmitter: { builtInTuner: tuner },
  change,
  onPutIn,
}: {
  transmitter: TransmitterDocument
  change: Change
  onPutIn: (tuner: NonNullable<TransmitterDocument['builtInTuner']>) => void
}) {
  return (
    <MaybeField
      label="It has a tuner inside"
      value={tuner?.reachSwr}
      usual={3}
      onChange={(reachSwr) =>
        change({
          builtInTuner:
            reachSwr === undefined ? undefined : { lossDb: tuner?.lossDb ?? 0.3, reachSwr },
        })
      }
    >
      {(reachSwr) => (
        <div className="grid grid-cols-[1fr_auto] items-end gap-2">
          <SwrField
            label="which matches up to SWR"
            value={reachSwr}
            onChange={(swr) => change({ builtInTuner: { lossDb: tuner!.lossDb, reachSwr: swr } })}
          />
          <button type="button" className="button mb-px" onClick={() => onPutIn(tuner!)}>
            Add to the chain
          </button>
        </div>
      )}
    </MaybeField>
  )
}
