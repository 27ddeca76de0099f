import type { ChainDocument } from '@saltline/contract'
import type { Danger } from '@saltline/core'
import { useState } from 'react'
import { violationWords } from '../../model/violationWords.ts'
import { useUnits } from '../../platform/preferences.ts'
import { Dialog } from '../../ui/Dialog.tsx'

/** A sheet that is dangerous on this chain is not begun without saying why. */
export function BeginDespite({
  title,
  dangers,
  document,
  onAnswer,
}: {
  title: string
  dangers: readonly Danger[]
  document: ChainDocument
  onAnswer: (why: string | null) => void
}) {
  const { power } = useUnits()
  const [why, setWhy] = useState('')
  return (
    <Dialog title={`${title}: dangerous on this chain`} onClose={() => onAnswer(null)}>
      <ul className="max-h-64 space-y-2 overflow-y-auto" tabIndex={0} aria-label="Dangers">
        {dangers.map(({ title: step, violation, after }, i) => {
          const words = violationWords(violation, document, power)
          return (
            <li key={i} className="border-l-4 border-danger pl-3">
              <b>{step}</b>
              {after !== undefined && <span className="text-muted"> (after “{after}”)</span>}
              <span className="block">{words.why}</span>
              <span className="block text-sm text-muted">{words.cure}</span>
            </li>
          )
        })}
      </ul>
      <label className="mt-4 block text-sm text-muted">
        Why it is begun all the same; the record keeps it
        <input
          className="field mt-0.5"
          maxLength={200}
          value={why}
          onChange={({ target }) => setWhy(target.value)}
        />
      </label>
      <div className="mt-4 flex flex-wrap gap-3">
        <button type="button" className="button button-main" onClick={() => onAnswer(null)}>
          Do not begin
        </button>
        <button
          type="button"
          className="button"
          disabled={why.trim() === ''}
          onClick={() => onAnswer(why.trim())}
        >
          Begin all the same
        </button>
      </div>
    </Dialog>
  )
}
