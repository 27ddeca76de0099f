import type { ChainDocument } from '@saltline/contract'
import { formatDb, type PartGain } from '@saltline/core'
import { heardWords } from '../../model/sentence.ts'

/** What each part of the chain could give: where money is well spent, and where not. */
export function Parts({
  document,
  parts,
  onCable,
}: {
  document: ChainDocument
  parts: readonly PartGain[]
  onCable: (stageId: string) => void
}) {
  const most = Math.max(0.1, ...parts.map(({ idealDb }) => idealDb))
  return (
    <section aria-label="What each part could give">
      <h2 className="mb-1 text-sm text-muted">What each part could give on this channel</h2>
      <table className="w-full text-right text-sm">
        <thead className="text-muted">
          <tr className="border-b border-rule [&>th]:py-1 [&>th]:pl-2 [&>th]:font-normal">
            <th scope="col" className="!pl-0 text-left">
              part
            </th>
            <th scope="col" className="w-1/4">
              <span className="sr-only">drawn</span>
            </th>
            <th scope="col">if it lost nothing</th>
            <th scope="col" className="text-left">
              with the best cable up to twice as thick
            </th>
          </tr>
        </thead>
        <tbody>
          {parts.map(({ stage, idealDb, best }) => {
            const part = document.stages[stage]
            if (!part) return null
            return (
              <tr key={part.id} className="border-b border-rule [&>td]:py-1 [&>td]:pl-2">
                <th scope="row" className="text-left font-normal">
                  {best ? (
                    <button
                      type="button"
                      className="link min-h-6 text-left"
                      onClick={() => onCable(part.id)}
                    >
                      {part.name}
                    </button>
                  ) : (
                    part.name
                  )}
                </th>
                <td>
                  <span
                    aria-hidden
                    className="block h-2 rounded-sm bg-heat"
                    style={{ width: `${Math.max(0, (100 * idealDb) / most)}%` }}
                  />
                </td>
                <td className="whitespace-nowrap">{formatDb(Math.max(0, idealDb))}</td>
                <td className="text-left">
                  {best && (
                    <>
                      {formatDb(Math.max(0, best.db))},{' '}
                      {heardWords(best.db) === 'nothing lost' ? 'nothing' : heardWords(best.db)}
                      <span className="block text-xs text-muted">{best.cable.name}</span>
                    </>
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {parts.length === 0 && <p className="py-2 text-sm text-muted">Nothing is lost on the way.</p>}
    </section>
  )
}
