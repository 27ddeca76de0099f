import { Upload } from 'lucide-react'
import { useRef } from 'react'

/** A button that asks for a file; the same file may be chosen again. */
export function FileButton({
  label,
  field,
  accept,
  onFile,
}: {
  label: string
  /** What the file is. */
  field: string
  accept: string
  onFile: (file: File) => void
}) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={accept}
        className="sr-only"
        tabIndex={-1}
        aria-label={field}
        onChange={({ target }) => {
          const [file] = target.files ?? []
          target.value = ''
          if (file) onFile(file)
        }}
      />
      <button type="button" className="button" onClick={() => input.current?.click()}>
        <Upload size={14} aria-hidden /> {label}
      </button>
    </>
  )
}
