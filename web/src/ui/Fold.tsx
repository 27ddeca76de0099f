import { useState } from 'react'

/** What is folded away until it is asked for: not there before, so that nothing in it is worked out in vain. */
export function Fold({
  summary,
  startsOpen = false,
  children,
}: {
  summary: React.ReactNode
  startsOpen?: boolean
  children: React.ReactNode
}) {
  const [open, setOpen] = useState(startsOpen)
  return (
    <details
      className="rounded border border-rule px-3 py-2"
      open={open}
      onToggle={({ currentTarget }) => setOpen(currentTarget.open)}
    >
      <summary className="cursor-pointer text-sm text-muted">{summary}</summary>
      {open && children}
    </details>
  )
}
