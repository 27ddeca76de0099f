import {
  type AngleUnit,
  type ColumnMapping,
  frequencyUnits,
  type FrequencyUnit,
  formatFrequency,
  formatImpedance,
  formatSwr,
  impedanceOf,
  type OnePortSweep,
  type SweepForm,
  sweepForms,
  swrOf,
} from '@saltline/core'
import { Fragment } from 'react'
import { ChoiceField } from '../../../ui/ChoiceField.tsx'
import type { TablePreview } from '../../../model/sweepFile.ts'

/** What the columns of a table mean, with its first rows to judge by. */
export function ColumnStep({
  table,
  mapping,
  sweep,
  onChange,
}: {
  table: TablePreview
  mapping: ColumnMapping
  /** What the mapping makes of the table; null where it makes nothing yet. */
  sweep: { sweep: OnePortSweep; phaseKnown: boolean } | null
  onChange: (mapping: ColumnMapping) => void
}) {
  const { headings } = table
  const columns = headings.map((heading, c) => ({ value: String(c), label: heading }))
  const names = sweepForms[mapping.form].columns
  const roleOf = (c: number): string =>
    c === mapping.frequency
      ? `frequency, ${mapping.unit}`
      : mapping.values.includes(c)
        ? names[mapping.values.indexOf(c)]!
        : 'not used'
  const setForm = (form: SweepForm) => {
    const others = headings.map((_, c) => c).filter((c) => c !== mapping.frequency)
    const values = sweepForms[form].columns.map((_, i) => mapping.values[i] ?? others[i] ?? 0)
    onChange({ ...mapping, form, values })
  }
  return (
    <fieldset className="space-y-3 rounded border border-rule p-3">
      <legend className="px-1 text-sm text-muted">What the columns are</legend>
      <div className="grid gap-2 sm:grid-cols-3">
        <ChoiceField
          label="Frequency stands in"
          value={String(mapping.frequency)}
          options={columns}
          onChange={(c) => onChange({ ...mapping, frequency: Number(c) })}
        />
        <ChoiceField<FrequencyUnit>
          label="in"
          value={mapping.unit}
          options={(Object.keys(frequencyUnits) as FrequencyUnit[]).map((unit) => ({
            value: unit,
            label: unit,
          }))}
          onChange={(unit) => onChange({ ...mapping, unit })}
        />
        <ChoiceField<SweepForm>
          label="The antenna is given as"
          value={mapping.form}
          options={(Object.keys(sweepForms) as SweepForm[]).map((form) => ({
            value: form,
            label: sweepForms[form].label,
          }))}
          onChange={setForm}
        />
        {names.map((name, i) => (
          <ChoiceField
            key={name}
            label={`${name} stands in`}
            value={String(mapping.values[i])}
            options={columns}
            onChange={(c) => onChange({ ...mapping, values: mapping.values.with(i, Number(c)) })}
          />
        ))}
        {mapping.form.endsWith('olar') && (
          <ChoiceField<AngleUnit>
            label="Phase in"
            value={mapping.angle ?? 'degrees'}
            options={[
              { value: 'degrees', label: 'degrees' },
              { value: 'radians', label: 'radians' },
            ]}
            onChange={(angle) => onChange({ ...mapping, angle })}
          />
        )}
      </div>
      <div className="overflow-x-auto">
        <table className="w-full text-right text-sm">
          <thead>
            <tr className="border-b border-rule text-muted [&>th]:px-2 [&>th]:py-1 [&>th]:font-normal">
              {headings.map((heading, c) => (
                <th key={c} scope="col">
                  {heading}
                  <span className="block text-xs">{roleOf(c)}</span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.rows.map((row, r) => (
              <tr key={r} className="border-b border-rule">
                {row.map((value, c) => (
                  <td
                    key={c}
                    className={`px-2 py-0.5 ${roleOf(c) === 'not used' ? 'text-muted' : ''}`}
                  >
                    {value}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {sweep && <Understood {...sweep} />}
      <p className="text-xs text-muted">
        The first {table.rows.length} of {table.rowCount} rows.
        {!sweepForms[mapping.form].phase &&
          ' Without a phase, figures that depend on it are given as ranges.'}
      </p>
    </fieldset>
  )
}

/** The first rows as they are understood: what a wrong unit or column shows at once. */
function Understood({ sweep, phaseKnown }: { sweep: OnePortSweep; phaseKnown: boolean }) {
  const rows = Array.from(sweep.frequencyHz.slice(0, 3), (hz, i) => {
    const [re, im] = [sweep.re[i]!, sweep.im[i]!]
    return {
      hz,
      swr: formatSwr(swrOf(Math.hypot(re, im))),
      z: phaseKnown ? formatImpedance(impedanceOf({ re, im }, sweep.referenceOhm)) : null,
    }
  })
  return (
    <p role="status" aria-label="The first rows as understood" className="text-sm">
      Understood as:{' '}
      {rows.map(({ hz, swr, z }, i) => (
        <Fragment key={hz}>
          {i > 0 && '; '}
          {formatFrequency(hz)} SWR {swr}
          {z && `, ${z}`}
        </Fragment>
      ))}
      {sweep.frequencyHz.length > 3 && ' …'}
    </p>
  )
}
