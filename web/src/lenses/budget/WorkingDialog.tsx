import { Dialog } from '../../ui/Dialog.tsx'
import type { SchoolAnswer } from './working.ts'
import type { Working } from '../../model/working.ts'

/** The working of a figure: steps, what is assumed, where it comes from. */
export function WorkingDialog({
  working,
  schools,
  onClose,
}: {
  working: Working
  schools?: SchoolAnswer[] | undefined
  onClose: () => void
}) {
  return (
    <Dialog title={`Working: ${working.title}`} onClose={onClose}>
      <div className="space-y-4">
        <table className="w-full text-sm">
          <tbody>
            {working.steps.map((step) => (
              <tr key={step.what} className="border-b border-rule align-baseline last:border-0">
                <th scope="row" className="py-1.5 pr-3 text-left font-normal">
                  {step.what}
                  <span className="block text-xs text-muted">{step.sum}</span>
                </th>
                <td className="py-1.5 text-right font-bold whitespace-nowrap">{step.result}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {schools && <Schools schools={schools} />}
        {working.remarks.length > 0 && (
          <ul className="list-disc space-y-0.5 pl-5 text-sm">
            {working.remarks.map((remark) => (
              <li key={remark}>{remark}</li>
            ))}
          </ul>
        )}
        {working.sources.length > 0 && (
          <p className="text-xs text-muted">Sources: {working.sources.join(' · ')}</p>
        )}
      </div>
    </Dialog>
  )
}

function Schools({ schools }: { schools: SchoolAnswer[] }) {
  return (
    <section>
      <h3 className="mb-2 font-bold">Is reflected power lost?</h3>
      <div className="grid gap-px overflow-hidden rounded-lg border border-rule bg-rule sm:grid-cols-3">
        {schools.map(({ school, claim, watts, down }) => (
          <div key={school} className="bg-sheet p-3">
            <h4 className="text-sm font-bold">{school}</h4>
            <p className="my-1 text-xl font-bold">{watts}</p>
            <p className="text-xs text-muted">
              at the antenna, {down} down. {claim}
            </p>
          </div>
        ))}
      </div>
    </section>
  )
}
