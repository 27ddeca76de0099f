import {
  contentFigures,
  givenTunerFigures,
  qualityFigures,
  relayFigures,
  type TunerDocument,
  tunerFigures,
} from '@saltline/contract'
import { formatCapacitance, formatInductance } from '@saltline/core'
import { tunerKinds } from '../../model/stages/tuner.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import {
  CapacitanceField,
  FigureFields,
  InductanceField,
  MaybeField,
  PowerField,
} from '../../ui/quantities.tsx'

interface Props {
  stage: TunerDocument
  change: (part: Partial<TunerDocument>) => void
  /** Another way to know it replaces the whole stage. */
  replace: (stage: TunerDocument) => void
}

const quality = { coilQAtHz: { hint: 'Q rises as √f from there; empty: the same everywhere' } }

type Method = TunerDocument['method']

/** The nearest figures on either side: the two ends of a range must not meet. */
const below = (value: number): number => Number((value * 0.999).toPrecision(6))
const above = (value: number): number => Number((value * 1.001).toPrecision(6))

const ways: readonly { value: Method; label: string }[] = [
  { value: 'network', label: 'its network' },
  { value: 'stepped', label: 'its relays: steps of coil and capacitor' },
  { value: 'given', label: 'only its loss' },
]

/** What kind of tuner it is, and its parts. */
export function TunerFields({ stage, change, replace }: Props) {
  const become = (method: Method) => {
    const { id, name, bypassed, note, ratedW, tuneWindowW, tuneTimeS, dials } = stage
    const kept = { id, name, bypassed, note, ratedW, tuneWindowW, tuneTimeS, dials }
    const kind =
      method === 'network'
        ? tunerKinds.hand
        : method === 'stepped'
          ? tunerKinds.relays
          : tunerKinds.given
    replace({ ...kept, ...kind })
  }
  return (
    <>
      <ChoiceField<Method> label="Known by" value={stage.method} options={ways} onChange={become} />
      {stage.method === 'given' && <GivenFields stage={stage} change={change} />}
      {stage.method === 'network' && <NetworkFields stage={stage} change={change} />}
      {stage.method === 'stepped' && <SteppedFields stage={stage} change={change} />}
      <FigureFields figures={tunerFigures} values={stage} change={change} />
      <MaybeField
        label="It needs a certain power to tune"
        value={stage.tuneWindowW?.[0]}
        usual={5}
        onChange={(least) =>
          change({
            tuneWindowW:
              least === undefined
                ? undefined
                : [least, Math.max(stage.tuneWindowW?.[1] ?? 20, least * 1.01)],
          })
        }
      >
        {(least) => (
          <div className="grid grid-cols-2 gap-2">
            <PowerField
              label="at least"
              value={least}
              within="tuningPowerW"
              max={below(stage.tuneWindowW![1])}
              onChange={(watts) => change({ tuneWindowW: [watts, stage.tuneWindowW![1]] })}
            />
            <PowerField
              label="at most"
              value={stage.tuneWindowW![1]}
              within="tuningPowerW"
              min={above(least)}
              onChange={(watts) => change({ tuneWindowW: [least, watts] })}
            />
          </div>
        )}
      </MaybeField>
    </>
  )
}

type Of<M extends Method> = {
  stage: Extract<TunerDocument, { method: M }>
  change: (part: Partial<Extract<TunerDocument, { method: M }>>) => void
}

function GivenFields({ stage, change }: Of<'given'>) {
  return (
    <>
      <FigureFields figures={givenTunerFigures} values={stage} change={change} />
      <p className="text-xs text-muted">
        Crude: a real tuner loses more the worse the load. Give its network to have that worked out.
      </p>
    </>
  )
}

const networks = [
  { value: 'T', label: 'T: capacitor, coil to ground, capacitor' },
  { value: 'pi', label: 'π: capacitor to ground, coil, capacitor' },
  { value: 'L-low-pass', label: 'L, low-pass: coil in line' },
  { value: 'L-high-pass', label: 'L, high-pass: capacitor in line' },
] as const

const sides = [
  { value: 'either', label: 'either side, by a switch' },
  { value: 'antenna', label: 'the antenna’s side' },
  { value: 'transmitter', label: 'the transmitter’s side' },
] as const

function NetworkFields({ stage, change }: Of<'network'>) {
  const L = stage.network.startsWith('L')
  const shuntPart = stage.network === 'L-low-pass' ? 'Capacitor' : 'Coil'
  return (
    <>
      <ChoiceField
        label="Network"
        value={stage.network}
        options={networks}
        onChange={(network) => change({ network })}
      />
      {L && (
        <ChoiceField
          label={`${shuntPart} across, on`}
          value={stage.shuntAt}
          options={sides}
          onChange={(shuntAt) => change({ shuntAt })}
        />
      )}
      <Range
        Field={InductanceField}
        what="Coil"
        range={stage.coilH}
        onChange={(coilH) => change({ coilH })}
      />
      <Range
        Field={CapacitanceField}
        what={L ? 'Capacitor' : 'Each capacitor'}
        range={stage.capacitorF}
        onChange={(capacitorF) => change({ capacitorF })}
      />
      <FigureFields figures={qualityFigures} values={stage} change={change} about={quality} />
      <label className="flex items-center gap-2 text-sm">
        <input
          type="checkbox"
          className="accent-tide"
          checked={Boolean(stage.automatic)}
          onChange={(event) => change({ automatic: event.target.checked || undefined })}
        />
        Sets itself, by motors
      </label>
    </>
  )
}

function Range({
  Field,
  what,
  range: [least, most],
  onChange,
}: {
  Field: typeof InductanceField
  what: string
  range: [number, number]
  onChange: (range: [number, number]) => void
}) {
  return (
    <div className="grid grid-cols-2 gap-2">
      <Field
        label={`${what}, from`}
        value={least}
        max={below(most)}
        onChange={(value) => onChange([value, most])}
      />
      <Field
        label="to"
        value={most}
        min={above(least)}
        onChange={(value) => onChange([least, value])}
      />
    </div>
  )
}

function SteppedFields({ stage, change }: Of<'stepped'>) {
  const { coilBits, coilStepH, capacitorBits, capacitorStepF } = stage
  return (
    <>
      <FigureFields figures={relayFigures} values={stage} change={change} />
      <p className="text-xs text-muted">
        Each twice the one before: up to {formatInductance((2 ** coilBits - 1) * coilStepH)} in line
        and {formatCapacitance((2 ** capacitorBits - 1) * capacitorStepF)} across, on either side;{' '}
        {(2 * 2 ** coilBits * 2 ** capacitorBits).toLocaleString('en')} settings.
      </p>
      <FigureFields figures={contentFigures} values={stage} change={change} />
      <FigureFields figures={qualityFigures} values={stage} change={change} about={quality} />
    </>
  )
}
