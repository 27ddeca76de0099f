import { Scroll } from '../../ui/Scroll.tsx'
import type { ChainState, Station } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { Link, useParams } from 'react-router'
import { chainOnPaperQuery, stationQuery, sweepQuery } from '../../platform/api/queries.ts'
import { Page } from '../../shell/Page.tsx'
import { Trouble } from '../../shell/Trouble.tsx'
import { usualTolerances } from '@saltline/core'
import { useTask } from '../../compute/useTask.ts'
import { chainOfDocument, operatingPoint } from '../../model/answers.ts'
import { chainAddress } from '../../editor/useChainAddress.ts'
import { usePaper } from '../../ui/paper.ts'
import { PaperBar } from '../../ui/PaperBar.tsx'
import { Card } from './Card.tsx'
import { cardRow } from './cardRow.ts'
import { papers, splitOn } from './papers.ts'

/** The operating card of a chain, to be printed and hung on the wall. */
export function CardPage() {
  const { stationId, chainId } = useParams() as { stationId: string; chainId: string }
  const { data: station, error: stationError } = useQuery(stationQuery(stationId))
  const { data: state, error: chainError } = useQuery(chainOnPaperQuery(chainId))
  const error = stationError ?? chainError
  if (error) return <Trouble error={error} />
  return (
    <Page title="Operating card" stationId={stationId}>
      {station && state && <OnPaper station={station} state={state} />}
    </Page>
  )
}

function OnPaper({ station, state }: { station: Station; state: ChainState }) {
  const { document } = state
  const [paper, choosePaper] = usePaper(papers, papers[0])
  const sweepId = document.load.kind === 'antenna' ? document.load.sweepId : undefined
  const { data: sweep } = useQuery(sweepQuery(sweepId))
  const chain = useMemo(() => chainOfDocument(document, sweep), [document, sweep])
  const bare = useMemo(
    () => chain && document.channels.map((channel) => cardRow(station, document, chain, channel)),
    [station, document, chain],
  )
  const request = useMemo(() => {
    const set = bare?.flatMap((line) => (line.ok && line.row.setW > 0 ? [line.row] : [])) ?? []
    if (!chain || set.length === 0) return null
    const { transmitter, tolerances = usualTolerances } = document
    const at = set.map(({ channel, setW }) => ({
      ...operatingPoint(transmitter, channel),
      powerW: setW,
    }))
    return { task: 'ranges' as const, chain, at, tolerances, of: set.map((row) => row.channel.id) }
  }, [chain, bare, document])
  const { result } = useTask('ranges', request)
  const rows = useMemo(() => {
    if (!chain || !bare) return null
    const drawn = result ?? []
    return document.channels.map((channel, i) => {
      const ranges = drawn[request?.of.indexOf(channel.id) ?? -1]
      const line = ranges ? cardRow(station, document, chain, channel, ranges) : bare[i]!
      return { channel, line }
    })
  }, [station, document, chain, bare, request, result])
  const split = splitOn(paper, document.channels.length)
  return (
    <div className="px-5 py-4">
      <PaperBar papers={papers} paper={paper} onPaper={choosePaper}>
        <Link className="link mr-2" to={chainAddress(station.id, state.id, 'headroom')}>
          back to the chain
        </Link>
      </PaperBar>
      {split.pages.length > 1 && (
        <p className="mb-3 text-sm print:hidden">
          {document.channels.length} channels take {split.pages.length} pages of {paper.label}.
        </p>
      )}
      {rows && (
        <Scroll
          label="Operating card, as it prints"
          className="print:static print:overflow-visible"
        >
          <div className="printable space-y-4 print:space-y-0">
            {split.pages.map((count, i) => {
              const from = split.pages.slice(0, i).reduce((sum, each) => sum + each, 0)
              return (
                <Card
                  key={i}
                  station={station}
                  state={state}
                  rows={rows.slice(from, from + count)}
                  paper={paper}
                  scale={split.scale}
                  page={split.pages.length > 1 ? `${i + 1} of ${split.pages.length}` : null}
                />
              )
            })}
          </div>
        </Scroll>
      )}
    </div>
  )
}
