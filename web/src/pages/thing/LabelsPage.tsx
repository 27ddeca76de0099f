import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams, useSearchParams } from 'react-router'
import { thingFacts } from '../../model/things.ts'
import { stationQuery } from '../../platform/api/queries.ts'
import { thingsQuery } from '../../platform/api/thingQueries.ts'
import { address } from '../../platform/base.ts'
import { useUnits } from '../../platform/preferences.ts'
import { Page } from '../../shell/Page.tsx'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { type Paper, paperOf, usePaper } from '../../ui/paper.ts'
import { PaperBar } from '../../ui/PaperBar.tsx'
import { QrCode } from '../../ui/QrCode.tsx'
import { Scroll } from '../../ui/Scroll.tsx'

const papers: readonly [Paper, Paper] = [paperOf('a4', 8), paperOf('letter', 8)]

/** Width and height of a label, mm. */
const sizes = { '63 × 38': [63, 38], '52 × 30': [52, 30], '99 × 57': [99, 57] } as const
type Size = keyof typeof sizes

/** Labels to print: a mark, a name, a length, and a code that opens the thing's page on a phone. */
export function LabelsPage() {
  const { stationId } = useParams() as { stationId: string }
  const one = useSearchParams()[0].get('thing')
  const { length } = useUnits()
  const { data: station } = useQuery(stationQuery(stationId))
  const { data: things = [] } = useQuery(thingsQuery(stationId))
  const [without, setWithout] = useState<ReadonlySet<string>>(new Set())
  const [size, setSize] = useState<Size>('63 × 38')
  const [paper, choosePaper] = usePaper(papers, papers[0])
  const [widthMm, heightMm] = sizes[size]
  const all = things.filter(({ id }) => one === null || id === one)
  const shown = all.filter(({ id }) => !without.has(id))
  const toggle = (id: string) =>
    setWithout((old) => {
      const next = new Set(old)
      if (!next.delete(id)) next.add(id)
      return next
    })
  const link = (id: string) =>
    new URL(address(`/station/${stationId}/thing/${id}`), window.location.href).href
  const local = /^(localhost|127\.|\[::1\])/.test(window.location.hostname)
  return (
    <Page title="Labels" stationId={stationId}>
      <div className="mx-auto w-full max-w-5xl px-5 py-5 max-sm:px-3">
        <PaperBar papers={papers} paper={paper} onPaper={choosePaper}>
          <h2 className="mr-auto text-xl font-bold">Labels</h2>
          <ChoiceField<Size>
            label="Size, mm"
            value={size}
            options={(Object.keys(sizes) as Size[]).map((value) => ({ value, label: value }))}
            onChange={setSize}
          />
        </PaperBar>
        {local && (
          <p className="mb-3 text-sm text-caution print:hidden">
            ▲ The codes hold the address that this page was opened under, which no phone can reach.
            Open it by the address of the network to print them.
          </p>
        )}
        <fieldset className="mb-4 flex flex-wrap gap-x-4 gap-y-1 text-sm print:hidden">
          <legend className="text-xs text-muted">Labels for</legend>
          {all.map(({ id, mark }) => (
            <label key={id} className="flex min-h-6 items-center gap-1.5">
              <input type="checkbox" checked={!without.has(id)} onChange={() => toggle(id)} />
              {mark}
            </label>
          ))}
        </fieldset>
        <Scroll label="Labels, as they print" className="print:static print:overflow-visible">
          <ul
            className="printable always-day flex flex-wrap content-start gap-[2mm] bg-sheet text-ink"
            style={{ width: `${paper.widthMm}mm` }}
          >
            {shown.map(({ id, mark, name, ...what }) => (
              <li
                key={id}
                className="flex break-inside-avoid items-center gap-[2mm] overflow-hidden border border-rule bg-sheet p-[2mm]"
                style={{ width: `${widthMm}mm`, height: `${heightMm}mm` }}
              >
                <QrCode text={link(id)} className="h-full w-auto shrink-0" />
                <span className="min-w-0 leading-tight">
                  <b className="block text-2xl">{mark}</b>
                  <span className="block text-sm font-bold">{name}</span>
                  <span className="block text-xs">{thingFacts(what, length, station?.gear)}</span>
                  <span className="block text-xs text-muted">{station?.name}</span>
                </span>
              </li>
            ))}
          </ul>
        </Scroll>
      </div>
    </Page>
  )
}
