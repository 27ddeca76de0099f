import { Copy, FileDown, Printer } from 'lucide-react'
import Papa from 'papaparse'
import { act, copyText, saveFile } from '../../platform/act.ts'
import type { SheetResult } from '../../worksheets/worksheet.ts'

/** A result as a table to show others: on paper, copied, as CSV. */
export function ResultTable({ table }: { table: NonNullable<SheetResult['table']> }) {
  const { name, head, rows } = table
  const all = [head, ...rows].map((row) => [...row])
  return (
    <section aria-label={name} className="mt-3">
      <div className="overflow-x-auto">
        <table className="text-right text-sm">
          <caption className="sr-only">{name}</caption>
          <thead className="text-muted">
            <tr className="border-b border-rule [&>th]:py-1 [&>th]:pr-4 [&>th]:font-normal">
              {head.map((cell, i) => (
                <th key={i} scope="col" className={i === 0 ? 'text-left' : ''}>
                  {cell}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, k) => (
              <tr key={k} className="border-b border-rule [&>td]:py-1 [&>td]:pr-4">
                {row.map((cell, i) => (
                  <td key={i} className={`whitespace-nowrap ${i === 0 ? 'text-left' : ''}`}>
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="mt-2 flex flex-wrap gap-2 print:hidden">
        <button
          type="button"
          className="button"
          onClick={() =>
            void act(async () => {
              await copyText(all.map((row) => row.join('\t')).join('\n'))
              return { said: 'The table is copied.' }
            })
          }
        >
          <Copy size={14} aria-hidden /> Copy
        </button>
        <button
          type="button"
          className="button"
          onClick={() =>
            saveFile(
              `${name.toLowerCase().replaceAll(' ', '-')}.csv`,
              Papa.unparse(all, { escapeFormulae: true, newline: '\r\n' }),
              'text/csv',
            )
          }
        >
          <FileDown size={14} aria-hidden /> CSV
        </button>
        <button type="button" className="button" onClick={() => window.print()}>
          <Printer size={14} aria-hidden /> Print
        </button>
      </div>
    </section>
  )
}
