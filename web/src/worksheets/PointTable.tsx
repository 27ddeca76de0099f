import { Plus, X } from 'lucide-react'
import { OptionalField } from '../ui/OptionalField.tsx'

export interface Column<K extends string> {
  key: K
  label: string
  unit: string
  min: number
  max: number
}

export type Row<K extends string> = Record<K, number | null>

/** A few lines of figures: one more line is always at hand. */
export function PointTable<K extends string>({
  columns,
  rows,
  onChange,
}: {
  columns: readonly Column<K>[]
  rows: readonly Row<K>[]
  onChange: (rows: Row<K>[]) => void
}) {
  const empty = () => Object.fromEntries(columns.map(({ key }) => [key, null])) as Row<K>
  return (
    <div>
      <table className="w-full">
        <thead>
          <tr className="text-left text-xs text-muted">
            {columns.map(({ key, label }) => (
              <th key={key} scope="col" className="pr-2 pb-0.5 font-normal">
                {label}
              </th>
            ))}
            <th className="w-8">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={i} className="align-top">
              {columns.map(({ key, label, unit, min, max }) => (
                <td key={key} className="pr-2 pb-1.5">
                  <OptionalField
                    bare
                    label={`${label}, line ${i + 1}`}
                    value={row[key]}
                    unit={unit}
                    min={min}
                    max={max}
                    onChange={(value) =>
                      onChange(rows.map((own, k) => (k === i ? { ...own, [key]: value } : own)))
                    }
                  />
                </td>
              ))}
              <td>
                {rows.length > 1 && (
                  <button
                    type="button"
                    className="quiet !px-1"
                    aria-label={`Remove line ${i + 1}`}
                    onClick={() => onChange(rows.filter((_, k) => k !== i))}
                  >
                    <X size={14} aria-hidden />
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <button
        type="button"
        className="quiet"
        disabled={rows.length >= 30}
        onClick={() => onChange([...rows, empty()])}
      >
        <Plus size={14} aria-hidden /> another line
      </button>
    </div>
  )
}

/** The lines that are filled in, all of the named columns. */
export const filled = <K extends string>(
  rows: readonly Row<K>[],
  keys: readonly K[],
): Record<K, number>[] =>
  rows.filter((row) => keys.every((key) => row[key] !== null)) as Record<K, number>[]
