import { useQuery } from '@tanstack/react-query'
import { useSearchParams } from 'react-router'
import type { LensProps } from '../../editor/lens.ts'
import { runQuery } from '../../platform/api/runQueries.ts'
import { errorText } from '../../platform/errorText.ts'
import { Problem } from '../../ui/Problem.tsx'
import { Record } from './Record.tsx'
import { Runner } from './Runner.tsx'
import { SheetList } from './SheetList.tsx'

/** Walk me through it, check me, and write it down. */
export function RunLens(props: LensProps) {
  const [search] = useSearchParams()
  const runId = search.get('run')
  return runId === null ? <SheetList {...props} /> : <OneRun {...props} runId={runId} />
}

function OneRun({ runId, ...props }: LensProps & { runId: string }) {
  const { data: run, error } = useQuery(runQuery(runId))
  const back = () => props.put({ run: null, select: null })
  if (error && !run)
    return (
      <div className="px-5 py-4">
        <Problem text={errorText(error)} />
        <button type="button" className="button mt-3" onClick={back}>
          All sheets
        </button>
      </div>
    )
  if (!run) return null
  return run.outcome === 'running' ? (
    <Runner key={run.id} {...props} run={run} onLeave={back} />
  ) : (
    <Record {...props} run={run} onLeave={back} />
  )
}
