import type { ColumnMapping } from '@saltline/core'
import { useMemo } from 'react'
import type { SweepFile } from '../model/sweepFile.ts'
import { type Run, Runner } from './runner.ts'
import type { SweepFileRequest } from './sweepFileWorker.ts'
import { useWorker } from './useWorker.ts'

const begin = () => new Worker(new URL('./sweepFileWorker.ts', import.meta.url), { type: 'module' })

/** What a file holds; of a table, what a mapping of its columns makes of it. Null runs nothing. */
export function useSweepFile(file: File | null, mapping?: ColumnMapping): Run<SweepFile> | null {
  const request = useMemo(() => file && { file, ...(mapping && { mapping }) }, [file, mapping])
  return useWorker<SweepFileRequest, SweepFile>(begin, request, { whenBusy: 'wait' }).run
}

/** The same once, outside of a component. Never rejects: what is wrong is a run with a problem. */
export function readSweepFile(file: File): Promise<Run<SweepFile>> {
  return new Promise<Run<SweepFile>>((done) => {
    const runner = new Runner<SweepFileRequest, SweepFile>(
      begin,
      (_, run) => {
        if (run.state === 'running') return
        runner.end()
        done(run)
      },
      'end',
    )
    runner.ask({ file })
  })
}
