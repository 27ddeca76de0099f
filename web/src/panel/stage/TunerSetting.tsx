import { dialNames } from '../../model/dials.ts'
import { type ChannelDocument, textLimits, type TunerDocument } from '@saltline/contract'
import {
  formatAmpere,
  formatFrequency,
  formatPower,
  formatSwr,
  formatVolt,
  type TunerState,
} from '@saltline/core'
import { elementName, elementValue } from '../../model/tunerWords.ts'
import { TextField } from '../../ui/TextField.tsx'

/** The truth about SWR at a tuner, and where its parts stand on this channel. */
export function TunerSetting({
  state,
  ranged,
  cableBehind,
  beyond,
}: {
  state: TunerState
  ranged: boolean
  /** Whether any cable carries what lies beyond. */
  cableBehind: boolean
  /** What the tuner looks into, as an impedance; null where its phase is not known. */
  beyond: string | null
}) {
  return (
    <section aria-label="What the tuner does" className="space-y-2">
      <div className="grid grid-cols-2 overflow-hidden rounded border border-rule text-center">
        <div className="px-2 py-1.5">
          <p className="text-xs text-muted">the radio’s side sees</p>
          <p className="text-lg font-bold">SWR {formatSwr(state.swrIn)}</p>
        </div>
        <div className="border-l-2 border-ink px-2 py-1.5">
          <p className="text-xs text-muted">
            {cableBehind ? 'the cable beyond carries' : 'the antenna stays at'}
          </p>
          <p className="text-lg font-bold">
            {cableBehind || beyond === null ? `SWR ${formatSwr(state.swrOut)}` : beyond}
          </p>
        </div>
      </div>
      {state.matched ? (
        state.swrOut > 2 && (
          <p className="text-sm text-muted">
            {cableBehind
              ? `A meter on its transmitter side shows a match. On its antenna side nothing has changed: voltage, heat and loss on the cable are those of SWR ${formatSwr(state.swrOut)}.`
              : 'There is no cable on its antenna side: its transmitter side is matched, and the loss is in its own parts.'}
          </p>
        )
      ) : (
        <p role="alert" className="text-sm text-danger">
          ✕ Cannot match: {state.reason ?? 'no setting does'}. This is the nearest it gets.
        </p>
      )}
      {state.elements.length > 0 && (
        <ul aria-label="Its parts on this channel, from the radio’s side" className="text-sm">
          {state.elements.map((element, k) => (
            <li key={k} className="border-b border-rule py-1">
              <span className="flex justify-between">
                {elementName(element)} <b>{elementValue(element)}</b>
              </span>
              <span className="block text-right text-xs text-muted">
                {formatVolt(element.voltageRms)}, {formatAmpere(element.currentRms)} rms;{' '}
                {formatPower(element.lossW)} of heat
              </span>
            </li>
          ))}
        </ul>
      )}
      {ranged && (
        <p className="text-xs text-muted">
          Only the antenna’s SWR is known: for the phase whose antenna power lies in the middle.
        </p>
      )}
    </section>
  )
}

/** Marks on the dials of a tuner that is set by hand, kept for this channel. */
export function DialMarks({
  stage,
  channel,
  change,
}: {
  stage: Extract<TunerDocument, { method: 'network' }>
  channel: ChannelDocument
  change: (part: { dials: NonNullable<TunerDocument['dials']> }) => void
}) {
  const names = dialNames(stage)
  const marks = stage.dials?.[channel.id] ?? []
  return (
    <fieldset className="rounded border border-rule px-3 pt-1 pb-3">
      <legend className="px-1 text-sm text-muted">
        Dial marks for {formatFrequency(channel.frequencyHz)}
      </legend>
      <div className="grid grid-cols-3 gap-2">
        {names.map((name, i) => (
          <TextField
            key={`${channel.id}-${i}`}
            label={name}
            value={marks[i] ?? ''}
            optional
            most={textLimits.dialMark}
            onChange={(mark) =>
              change({
                dials: {
                  ...stage.dials,
                  [channel.id]: names.map((_, k) => (k === i ? mark : (marks[k] ?? ''))),
                },
              })
            }
          />
        ))}
      </div>
    </fieldset>
  )
}
