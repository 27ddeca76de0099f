import { Scroll } from '../../ui/Scroll.tsx'
import type { ChainState, Station } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { Printer } from 'lucide-react'
import { useMemo } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { chainOnPaperQuery, stationQuery, sweepQuery } from '../../platform/api/queries.ts'
import { Page } from '../../shell/Page.tsx'
import { Trouble } from '../../shell/Trouble.tsx'
import { usualTolerances } from '@saltline/core'
import { useTask } from '../../compute/useTask.ts'
import { chainOfDocument, operatingPoint } from '../../model/answers.ts'
import { chainAddress } from '../../editor/useChainAddress.ts'
import { Card } from './Card.tsx'
import { cardRow } from './cardRow.ts'
import { type Paper, papers, splitOn } from './papers.ts'

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
  const [search, setSearch] = useSearchParams()
  const paper: Paper = papers.find(({ id }) => id === search.get('paper')) ?? papers[0]!
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
      <div className="mb-4 flex flex-wrap items-center gap-2 print:hidden">
        <Link className="link mr-2" to={chainAddress(station.id, state.id, 'headroom')}>
          back to the chain
        </Link>
        {papers.map(({ id, label }) => (
          <button
            key={id}
            type="button"
            className="button"
            aria-pressed={id === paper.id}
            onClick={() => setSearch({ paper: id }, { replace: true })}
          >
            {label}
          </button>
        ))}
        <button type="button" className="button button-main" onClick={() => window.print()}>
          <Printer size={14} aria-hidden /> Print
        </button>
      </div>
      {split.pages.length > 1 && (
        <p className="mb-3 text-sm print:hidden">
          {document.channels.length} channels take {split.pages.length} pages of {paper.label}.
        </p>
      )}
      <style>{`@page { size: ${paper.css}; margin: ${paper.marginMm}mm }`}</style>
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
