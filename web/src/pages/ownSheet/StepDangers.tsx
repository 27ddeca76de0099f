import type { StepDanger } from '../../model/sheetDangers.ts'

/** What is dangerous about a step, with the cure; what the chain does not allow is left out of a run. */
export function StepDangers({ dangers }: { dangers: readonly StepDanger[] | undefined }) {
  if (!dangers || dangers.length === 0) return null
  return (
    <ul className="mb-2 space-y-1.5 text-sm">
      {dangers.map(({ why, cure, leftOut }) => (
        <li key={why} className={`border-l-4 pl-3 ${leftOut ? 'border-caution' : 'border-danger'}`}>
          <b className={leftOut ? 'text-caution' : 'text-danger'}>
            {leftOut ? '■ Left out on this chain' : '▲ Dangerous'}
          </b>{' '}
          {why} <span className="text-muted">{cure}</span>
        </li>
      ))}
    </ul>
  )
}
