import type { Consequence } from './useConsequences.ts'

/** What follows in other chains, before it is done. */
export function Following({ found }: { found: Consequence[] | null }) {
  if (found === null) return <p className="text-sm text-muted">…</p>
  if (found.length === 0) return <p className="text-sm">No other chain changes.</p>
  return (
    <div className="text-sm">
      <p>{found.length === 1 ? '1 chain changes:' : `${found.length} chains change:`}</p>
      <ul className="list-disc pl-5">
        {found.map(({ chain, phrases }) => (
          <li key={chain}>
            {chain}: {phrases.length === 0 ? 'nothing that is worth saying' : phrases.join('; ')}
          </li>
        ))}
      </ul>
    </div>
  )
}
