import { lazy, memo, Suspense } from 'react'
import { painted } from '../painted.ts'
import { type Chart, type ChartSource, tableRows } from './chart.ts'

// After what stands beside it: the answer comes first.
const LineChart = lazy(() => painted().then(() => import('./LineChart.tsx')))

/** A chart in its place, which is as large as what it stands in; the drawing is loaded with the first one. */
export const ChartView = memo(function ChartView({ chart }: { chart: Chart | ChartSource }) {
  return (
    <Suspense fallback={<p className="p-4 text-sm text-muted">Drawing…</p>}>
      <LineChart chart={chart} />
    </Suspense>
  )
})

/** The same figures as a table; the row nearest to the first mark is set bold. */
export function ChartTable({ chart }: { chart: Chart }) {
  const { x, curves, headOf = String, xColumn, marks = [] } = chart
  const rows = tableRows(x.length)
  const columns = curves.flatMap(({ y, column }) => (column ? [{ y, ...column }] : []))
  const [mark] = marks
  const away = (i: number) => Math.abs(x[i]! - mark!.x!)
  const nearest =
    mark?.x === undefined ? -1 : rows.reduce((best, i) => (away(i) < away(best) ? i : best))
  return (
    <table className="w-full text-right text-sm">
      <thead className="text-muted">
        <tr className="border-b border-rule [&>th]:py-1 [&>th]:pl-2 [&>th]:font-normal">
          <th scope="col" className="!pl-0 text-left">
            {xColumn}
          </th>
          {columns.map(({ head }, k) => (
            <th key={k} scope="col">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((i) => (
          <tr
            key={i}
            className={`border-b border-rule last:border-0 [&>td]:pl-2 ${i === nearest ? 'font-bold' : ''}`}
          >
            <th scope="row" className="py-0.5 text-left font-normal">
              {headOf(i)}
            </th>
            {columns.map(({ y, text }, k) => (
              <td key={k}>{Number.isFinite(y[i]) ? text(y[i]!) : '–'}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
}
