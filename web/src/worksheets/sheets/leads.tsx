import type { CableDocument } from '@saltline/contract'
import {
  compareLeads,
  decimals,
  formatFrequency,
  formatLength,
  InputError,
  type LeadCompared,
  lineConstants,
  matchedLossDb,
} from '@saltline/core'
import { Plus, X } from 'lucide-react'
import { type CableChoice, cableChoices } from '../../model/cableFacts.ts'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { meterOf, MeterChoice } from '../MeterChoice.tsx'
import { type Column, filled, PointTable, type Row } from '../PointTable.tsx'
import { leadOf, type Worksheet, withRange } from '../worksheet.ts'

type Key = 'mhz' | 'watts'
const columns: Column<Key>[] = [
  { key: 'mhz', label: 'Frequency', unit: 'MHz', min: 0.01, max: 6000 },
  { key: 'watts', label: 'Without a lead', unit: 'W', min: 0, max: 1e5 },
]

interface Lead {
  name: string
  cable: string
  lengthM: number | null
  mhz: number | null
  watts: number | null
  volts: number | null
}

interface Inputs {
  meter: string
  reference: Row<Key>[]
  leads: Lead[]
}

const empty: Lead = { name: '', cable: '', lengthM: null, mhz: null, watts: null, volts: null }
const MOST_LEADS = 30

export const leads: Worksheet<Inputs> = {
  initial: { meter: '', reference: [{ mhz: 28, watts: null }], leads: [empty, empty] },
  setup: () => [
    { when: 'first', pieces: ['transmitter', 'short lead', 'meter', 'load'] },
    { when: 'then', pieces: ['transmitter', 'cable', 'meter', 'load'] },
  ],
  steps: [
    'Steady carrier on the highest frequency in use; watts without a lead, with as little as connects.',
    'Each lead in turn, nothing else changed; watch that the supply voltage stays.',
    'Bend it at its ends while reading: what moves is a connector.',
  ],
  caution: 'Switch the carrier off before a connector is opened. The load gets hot.',
  proves: ['Which lead loses more than its length and class should.'],
  doesNot: ['Whether its cable or its connectors do it: a second length of the same cable tells.'],
  Fields: ({ inputs, put, station }) => (
    <div className="space-y-3">
      <MeterChoice station={station} value={inputs.meter} onChange={(meter) => put({ meter })} />
      <PointTable
        columns={columns}
        rows={inputs.reference}
        onChange={(reference) => put({ reference })}
      />
      <LeadRows
        leads={inputs.leads}
        choices={cableChoices(station)}
        onChange={(all) => put({ leads: all })}
      />
    </div>
  ),
  reduce({ meter, reference, leads: all }, station) {
    const choices = cableChoices(station)
    const zero = filled(reference, ['mhz', 'watts'])
    if (zero.length === 0)
      throw new InputError('Read the power without a lead first.', ['reference'])
    const typed = all.filter((lead) => lead.lengthM !== null && lead.watts !== null)
    const readings = typed.map((lead, i) => {
      const mhz = lead.mhz ?? zero[0]!.mhz
      const own = zero.find((each) => each.mhz === mhz)
      const name = lead.name.trim() || `Lead ${i + 1}`
      if (!own)
        throw new InputError(
          `${name} was read on ${decimals(mhz, 3)} MHz: read the power without a lead there too.`,
          ['leads', i],
        )
      return {
        name,
        lengthM: lead.lengthM!,
        frequencyHz: mhz * 1e6,
        referenceW: own.watts,
        watts: lead.watts!,
        cable: choices.find(({ id }) => id === lead.cable)?.cable,
      }
    })
    const compared = compareLeads(meterOf(station, meter), readings)
    const odd = compared.filter((each) => each.odd)
    const best = compared.reduce((a, b) => (b.lossDb.value < a.lossDb.value ? b : a))
    const worst = odd[0] ?? compared.reduce((a, b) => (b.lossDb.value > a.lossDb.value ? b : a))
    return {
      answer:
        odd.length > 0
          ? oddText(odd[0]!)
          : `None stands out: from ${withRange(best.lossDb, 2, 'dB')} (${best.reading.name}) to ${withRange(worst.lossDb, 2, 'dB')} (${worst.reading.name}).`,
      lead: leadOf(
        `loss of ${worst.reading.name}`.slice(0, 60),
        'dB',
        worst.lossDb,
        worst.reading.frequencyHz,
      ),
      rows: [],
      because: worst.lossDb.because,
      working: compared.map(
        ({ reading, lossDb }) =>
          `${reading.name}: 10·log₁₀(${decimals(reading.referenceW, 1)} / ${decimals(reading.watts, 1)}) = ${decimals(lossDb.value, 2)}\u00a0dB`,
      ),
      ...voltsMind(typed),
      table: {
        name: 'Leads compared',
        head: ['lead', 'm', 'MHz', 'W', 'dB', 'dB/m', 'should be, dB', 'like, m', 'V'],
        rows: compared.map((each, i) => [
          `${each.odd ? '▲ ' : ''}${each.reading.name}`,
          decimals(each.reading.lengthM, 1),
          decimals(each.reading.frequencyHz / 1e6, 3),
          decimals(each.reading.watts, 1),
          withRange(each.lossDb, 2, ''),
          decimals(each.dbPerM, 3),
          each.expectedDb === null ? '?' : decimals(each.expectedDb, 2),
          each.likeM === null ? '?' : decimals(each.likeM, 1),
          typed[i]!.volts === null ? '' : decimals(typed[i]!.volts, 1),
        ]),
      },
      cables: compared
        .filter(({ lossDb }) => lossDb.value > 0)
        .map((each) => ({ name: each.reading.name, cable: cableOf(each) })),
    }
  },
}

/** "2 m that lose what 7 m should: a connector." */
function oddText({ reading, likeM, lossDb }: LeadCompared): string {
  const loses = `${reading.name}: ${formatLength(reading.lengthM)} that lose what ${formatLength(likeM ?? NaN)} should (${withRange(lossDb, 2, 'dB')} on ${formatFrequency(reading.frequencyHz)})`
  return reading.lengthM < 5
    ? `${loses}: a connector, most likely.`
    : `${loses}: a connector, or water in it.`
}

/** The supply sags under load: a lead must not be blamed for it. */
function voltsMind(all: readonly Lead[]): { mind?: string } {
  const volts = all.flatMap((lead) => (lead.volts === null ? [] : [lead.volts]))
  const spread = Math.max(...volts) / Math.min(...volts) - 1
  return volts.length > 1 && spread > 0.02
    ? { mind: 'The supply voltage moved by more than 2 % between readings: power moves with it.' }
    : {}
}

/** A cable that loses what this lead did: its class with more loss, or one of conductor loss alone. */
function cableOf({ reading, lossDb }: LeadCompared<CableDocument>): CableDocument {
  const { frequencyHz, lengthM, name } = reading
  const { gearId: _, ...like } = reading.cable ?? ALL_CONDUCTOR
  const times = (factor: number) => ({
    ...like,
    name,
    k1DbPer100m: like.k1DbPer100m * factor,
    k2DbPer100m: like.k2DbPer100m * factor,
  })
  // Loss is not quite in proportion where it is large: the inner inductance grows with it.
  let factor = 1
  for (let i = 0; i < 20; i++)
    factor *= lossDb.value / matchedLossDb(lineConstants(times(factor), frequencyHz), lengthM)
  return times(factor)
}

const ALL_CONDUCTOR: CableDocument = {
  name: '',
  z0Ohm: 50,
  velocityFactor: 0.66,
  k1DbPer100m: 1,
  k2DbPer100m: 0,
}

function LeadRows({
  leads: all,
  choices,
  onChange,
}: {
  leads: readonly Lead[]
  choices: readonly CableChoice[]
  onChange: (leads: Lead[]) => void
}) {
  const put = (i: number, change: Partial<Lead>) =>
    onChange(all.map((lead, k) => (k === i ? { ...lead, ...change } : lead)))
  const number = (
    i: number,
    key: 'lengthM' | 'mhz' | 'watts' | 'volts',
    label: string,
    unit: string,
    max: number,
  ) => (
    <OptionalField
      label={label}
      value={all[i]![key]}
      unit={unit}
      min={0}
      max={max}
      onChange={(value) => put(i, { [key]: value })}
    />
  )
  return (
    <div>
      {all.map((lead, i) => (
        <fieldset
          key={i}
          className="grid min-w-0 grid-cols-2 gap-x-2 gap-y-1.5 border-b border-rule pb-2.5 sm:grid-cols-4"
        >
          <legend className="flex w-full items-center justify-between pt-1 text-sm text-muted">
            Lead {i + 1}
            {all.length > 1 && (
              <button
                type="button"
                className="quiet !min-h-6 !px-1"
                aria-label={`Remove lead ${i + 1}`}
                onClick={() => onChange(all.filter((_, k) => k !== i))}
              >
                <X size={14} aria-hidden />
              </button>
            )}
          </legend>
          <label className="col-span-2 text-xs text-muted">
            Name
            <input
              className="field mt-0.5 text-sm"
              placeholder={`Lead ${i + 1}`}
              maxLength={40}
              value={lead.name}
              onChange={({ target }) => put(i, { name: target.value })}
            />
          </label>
          <label className="col-span-2 text-xs text-muted">
            Class
            <select
              className="field mt-0.5 text-sm"
              value={lead.cable}
              onChange={({ target }) => put(i, { cable: target.value })}
            >
              <option value="">not known</option>
              {choices.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </label>
          {number(i, 'lengthM', 'Length', 'm', 5000)}
          {number(i, 'watts', 'With it', 'W', 1e5)}
          {number(i, 'mhz', 'Frequency', 'MHz', 6000)}
          {number(i, 'volts', 'Supply', 'V', 100)}
        </fieldset>
      ))}
      <button
        type="button"
        className="quiet mt-1"
        disabled={all.length >= MOST_LEADS}
        onClick={() => onChange([...all, { ...empty, cable: all.at(-1)?.cable ?? '' }])}
      >
        <Plus size={14} aria-hidden /> another lead
      </button>
    </div>
  )
}
