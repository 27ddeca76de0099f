import type { Alternative, ChainDocument, Station } from '@saltline/contract'
import { Check, Copy, Trash2, X } from 'lucide-react'
import { type Applied, changeText, type Expense } from '../../model/alternatives.ts'
import { useUnits } from '../../platform/preferences.ts'
import { PriceField } from '../../ui/quantities.tsx'
import { TextField } from '../../ui/TextField.tsx'
import { priceText } from './verdict.ts'

/** The chosen alternative: its name, its changes, its price, and what can be done with it. */
export function Chosen({
  alternative,
  applied,
  expense,
  document,
  station,
  onChange,
  onApply,
  onCopy,
  onRemove,
}: {
  alternative: Alternative
  applied: Applied
  expense: Expense
  document: ChainDocument
  station: Station
  onChange: (change: Partial<Alternative>) => void
  onApply: () => void
  onCopy: (() => void) | null
  onRemove: () => void
}) {
  const units = useUnits()
  const { changes } = alternative
  return (
    <section aria-label="Chosen alternative" className="space-y-3">
      <TextField label="Name" value={alternative.name} onChange={(name) => onChange({ name })} />
      <div>
        <h2 className="mb-1 text-sm text-muted">Changes to the chain as it stands</h2>
        <ul className="text-sm">
          {changes.map((change, i) => {
            const misfit = applied.misfits.find((each) => each.change === i)
            return (
              <li key={i} className="flex items-start gap-2 border-b border-rule py-1">
                <span className="flex-1">
                  {changeText(change, document, units)}
                  {misfit && <span className="block text-danger">▲ {misfit.why}</span>}
                </span>
                <button
                  type="button"
                  className="quiet !min-h-6 !px-1"
                  aria-label={`Take back: ${changeText(change, document, units)}`}
                  onClick={() => onChange({ changes: changes.toSpliced(i, 1) })}
                >
                  <X size={15} aria-hidden />
                </button>
              </li>
            )
          })}
        </ul>
        {changes.length === 0 && (
          <p className="text-sm text-muted">None yet: it is the chain as it stands.</p>
        )}
      </div>
      <PriceField
        label={`What else it costs, ${station.currency}`}
        value={alternative.otherPrice}
        onChange={(otherPrice) => onChange({ otherPrice })}
        hint={
          expense.price === null
            ? `No price is known for ${expense.unpriced.join(', ')}.`
            : `In all ${priceText(expense.price, station.currency)}.`
        }
      />
      <div className="flex flex-wrap gap-1.5">
        <button
          type="button"
          className="button button-main"
          disabled={changes.length === 0 || applied.misfits.length > 0}
          onClick={onApply}
        >
          <Check size={15} aria-hidden /> Apply to the chain
        </button>
        <button
          type="button"
          className="button"
          disabled={!onCopy}
          onClick={onCopy ?? (() => undefined)}
        >
          <Copy size={14} aria-hidden /> Copy
        </button>
        <button type="button" className="button" onClick={onRemove}>
          <Trash2 size={14} aria-hidden /> Delete
        </button>
      </div>
      {applied.misfits.length > 0 && (
        <p className="text-sm text-muted">Take back what no longer fits; then it can be applied.</p>
      )}
    </section>
  )
}
