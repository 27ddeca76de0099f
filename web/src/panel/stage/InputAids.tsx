import type { AmplifierDocument, ChainDocument } from '@saltline/contract'
import {
  type AidedInput,
  aidedInput,
  bestShunt,
  type Chain,
  equalResistors,
  formatDb,
  formatFrequency,
  formatPercent,
  formatPower,
  formatSwr,
  heatShareOf,
  InputError,
  type InputAid,
  nearestStandard,
  padValues,
  REFERENCE_OHM,
  significant,
} from '@saltline/core'
import { useMemo, useState } from 'react'
import { operatingPoint } from '../../model/answers.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { DecibelField, OhmField } from '../../ui/quantities.tsx'

/** The input leg needs no antenna: a load that takes everything stands for the rest. */
const chainOf = ({ transmitter, stages }: ChainDocument): Chain => ({
  transmitter,
  stages,
  load: { kind: 'fixed', rOhm: REFERENCE_OHM, xOhm: 0 },
})

/** Shunt resistor or pad at an amplifier's input: what each does on every channel. */
export function InputAids({
  document,
  amplifier,
  index,
  onPutIn,
  onClose,
}: {
  document: ChainDocument
  amplifier: AmplifierDocument
  index: number
  onPutIn: (aid: InputAid) => void
  onClose: () => void
}) {
  const best = useMemo(
    () =>
      bestShunt(
        amplifier,
        document.channels.map((c) => c.frequencyHz),
        REFERENCE_OHM,
      ),
    [amplifier, document.channels],
  )
  const [aid, setAid] = useState<InputAid>(
    best === null ? { kind: 'pad', db: 1 } : { kind: 'shunt', ohm: best },
  )
  // Only the stages up to the amplifier matter, and a sweep of the antenna must not be in the way.
  const chain = useMemo(
    () => chainOf({ ...document, stages: document.stages.slice(0, index + 1) }),
    [document, index],
  )
  const rows = document.channels.flatMap((channel): Row[] => {
    const at = operatingPoint(document.transmitter, channel)
    const having = (each: InputAid) => aidedInput(chain, index, each, at)
    try {
      return [{ channel, bare: having({ kind: 'none' }), aided: having(aid) }]
    } catch (error) {
      // A part before the amplifier that was not measured on this channel: no figure, no row.
      if (error instanceof InputError) return []
      throw error
    }
  })
  const hottest = Math.max(...rows.map(({ channel, aided }) => aided.heatW * heatShareOf(channel)))
  const most = Math.max(...rows.map(({ aided }) => aided.heatW))
  return (
    <Dialog title={`Input match of ${amplifier.name}`} onClose={onClose}>
      <div className="space-y-3">
        <div className="grid gap-3 sm:grid-cols-2">
          <ChoiceField<InputAid['kind']>
            label="Put in front of it"
            value={aid.kind}
            options={[
              { value: 'shunt', label: 'a resistor in parallel' },
              { value: 'pad', label: 'a pad' },
            ]}
            onChange={(kind) =>
              setAid(kind === 'pad' ? { kind, db: 3 } : { kind: 'shunt', ohm: best ?? 150 })
            }
          />
          {aid.kind === 'shunt' && (
            <OhmField
              label="Resistor"
              value={aid.ohm}
              min={1}
              onChange={(ohm) => setAid({ kind: 'shunt', ohm })}
              hint={
                best === null
                  ? 'No parallel resistor improves this input: it is low already.'
                  : `Best over these channels: ${best} Ω.`
              }
            />
          )}
          {aid.kind === 'pad' && (
            <DecibelField
              label="Loss"
              value={aid.db}
              min={0.1}
              onChange={(db) => setAid({ kind: 'pad', db })}
            />
          )}
        </div>
        <AidTable rows={rows} />
        <Resistors aid={aid} watts={hottest} inputW={Math.max(...rows.map(inputOf))} />
        <p className="text-sm text-muted">
          Up to {formatPower(most)} PEP in it, {formatPower(hottest)} on average: take resistors of
          twice that, without inductance, on a heat sink. They get hot.
        </p>
        <button type="button" className="button button-main" onClick={() => onPutIn(aid)}>
          Add to the chain
        </button>
      </div>
    </Dialog>
  )
}

const inputOf = ({ aided }: { aided: AidedInput }): number => aided.heatW + aided.driveW

interface Row {
  channel: ChainDocument['channels'][number]
  bare: AidedInput
  aided: AidedInput
}

function AidTable({ rows }: { rows: readonly Row[] }) {
  return (
    <table className="w-full text-right text-sm">
      <thead className="text-muted">
        <tr className="border-b border-rule [&>th]:py-1 [&>th]:font-normal">
          <th scope="col" className="text-left">
            channel
          </th>
          <th scope="col">SWR seen</th>
          <th scope="col">drive</th>
          <th scope="col">wanted</th>
          <th scope="col">in the aid</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ channel, bare, aided }) => (
          <tr key={channel.id} className="border-b border-rule">
            <th scope="row" className="py-1 text-left font-normal">
              {formatFrequency(channel.frequencyHz)}
            </th>
            <td>
              <span className="text-muted">{formatSwr(bare.swr)} →</span>{' '}
              <b>{formatSwr(aided.swr)}</b>
            </td>
            <td>
              <span className="text-muted">{formatPower(bare.driveW)} →</span>{' '}
              <b>{formatPower(aided.driveW)}</b>
            </td>
            <td>{formatPower(aided.mostDriveW)}</td>
            <td>{formatPower(aided.heatW)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** How to make it from standard resistors. */
function Resistors({ aid, watts, inputW }: { aid: InputAid; watts: number; inputW: number }) {
  if (aid.kind === 'shunt') {
    const choices = equalResistors(aid.ohm).slice(0, 3)
    return (
      <p className="text-sm">
        As{' '}
        {choices
          .map(
            ({ count, together, ohmEach, error }) =>
              `${count === 1 ? 'one' : count} of ${significant(ohmEach, 3)}\u00a0Ω${count > 1 ? ` in ${together}` : ''}${Math.abs(error) > 0.004 ? ` (${formatPercent(error)} off)` : ''}, ${formatPower(watts / count)} each`,
          )
          .join('; or ')}
        .
      </p>
    )
  }
  if (aid.kind !== 'pad') return null
  const { pi, tee } = padValues(aid.db, REFERENCE_OHM)
  const ohm = (value: number) => `${significant(value, 3)} Ω (${nearestStandard(value)})`
  const heat = (share: number) => formatPower(inputW * share)
  return (
    <dl className="grid gap-2 text-sm sm:grid-cols-2">
      <div>
        <dt className="text-muted">As a π of {formatDb(aid.db)}</dt>
        <dd>
          across {ohm(pi.shuntOhm)}, in line {ohm(pi.seriesOhm)}; PEP heat {heat(pi.heat[0])},{' '}
          {heat(pi.heat[1])}, {heat(pi.heat[2])} from the exciter’s side
        </dd>
      </div>
      <div>
        <dt className="text-muted">As a T</dt>
        <dd>
          in line {ohm(tee.seriesOhm)}, across {ohm(tee.shuntOhm)}; PEP heat {heat(tee.heat[0])},{' '}
          {heat(tee.heat[1])}, {heat(tee.heat[2])}
        </dd>
      </div>
    </dl>
  )
}
