import { Upload } from 'lucide-react'
import { useRef } from 'react'
import { SWEEP_FILES } from '../model/sweepFile.ts'

/** A button that takes a sweep file; dropping one anywhere on the page does the same. */
export function ChooseFile({
  onFile,
  children,
}: {
  onFile: (file: File) => void
  children: React.ReactNode
}) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <div>
      <input
        ref={input}
        type="file"
        accept={SWEEP_FILES}
        className="sr-only"
        tabIndex={-1}
        aria-label="Sweep file"
        onChange={(event) => {
          const [file] = event.target.files ?? []
          event.target.value = ''
          if (file) onFile(file)
        }}
      />
      <button type="button" className="button" onClick={() => input.current?.click()}>
        <Upload size={14} aria-hidden /> {children}
      </button>
      <p className="mt-0.5 text-xs text-muted">Or drop the file anywhere on the page.</p>
    </div>
  )
}
