import type { AnalyserErrors as Errors } from '@saltline/core'
import { analyserWords } from '../../model/lineSweeps.ts'
import { setPreferences, usePreferences } from '../../platform/preferences.ts'
import { PlainField } from '../../ui/quantities.tsx'

const fields = [
  { key: 'directivityDb', label: 'Directivity', most: 90, least: 10 },
  { key: 'sourceMatchDb', label: 'Source match', most: 90, least: 10 },
  { key: 'noiseDb', label: 'Noise below full', most: 140, least: 20 },
] as const satisfies readonly { key: keyof Errors; label: string; most: number; least: number }[]

/**
 * How far the analyser may be off: ranges and fits rest on it. A sweep that was kept brings its own along, which stands.
 */
export function AnalyserErrors({ kept }: { kept: Errors | undefined }) {
  const { analyser } = usePreferences()
  if (kept) return <p className="text-sm text-muted">{analyserWords(kept)}</p>
  return (
    <details className="text-sm">
      <summary className="cursor-pointer text-muted">{analyserWords(analyser)}</summary>
      <div className="mt-1 grid grid-cols-3 items-end gap-2">
        {fields.map(({ key, label, least, most }) => (
          <PlainField
            key={key}
            label={label}
            unit="dB"
            value={analyser[key]}
            step={1}
            min={least}
            max={most}
            onChange={(value) => setPreferences({ analyser: { ...analyser, [key]: value } })}
          />
        ))}
      </div>
      <p className="mt-1 text-muted">By its data sheet, after its calibration.</p>
    </details>
  )
}
