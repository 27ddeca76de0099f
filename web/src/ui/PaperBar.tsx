import { Printer } from 'lucide-react'
import type { ReactNode } from 'react'
import type { Paper } from './paper.ts'

/** Above a page that is printed: the way back, on which paper, and the press that prints it. */
export function PaperBar({
  papers = [],
  paper,
  onPaper,
  children,
}: {
  papers?: readonly Paper[]
  paper?: Paper
  onPaper?: (id: string) => void
  children: ReactNode
}) {
  return (
    <>
      <div className="mb-4 flex flex-wrap items-center gap-2 print:hidden">
        {children}
        {papers.map(({ id, label }) => (
          <button
            key={id}
            type="button"
            className="button"
            aria-pressed={id === paper?.id}
            onClick={() => onPaper?.(id)}
          >
            {label}
          </button>
        ))}
        <button type="button" className="button button-main" onClick={() => window.print()}>
          <Printer size={14} aria-hidden /> Print
        </button>
      </div>
      {paper && <style>{`@page { size: ${paper.css}; margin: ${paper.marginMm}mm }`}</style>}
    </>
  )
}
