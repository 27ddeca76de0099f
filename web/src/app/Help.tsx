import { Dialog } from '../parts/Dialog.tsx'
import { shortcuts } from './keys.ts'

/** Keys, and the cautions that go with the subject. */
export function Help({ onClose }: { onClose: () => void }) {
  return (
    <Dialog title="Keys" onClose={onClose}>
      <div className="grid gap-x-8 gap-y-4 sm:grid-cols-2">
        {shortcuts.map(({ where, list }) => (
          <section key={where}>
            <h3 className="mb-1 text-sm text-muted">{where}</h3>
            <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 text-sm">
              {list.map(({ keys, what }) => (
                <div key={keys} className="contents">
                  <dt className="font-bold whitespace-nowrap">{keys}</dt>
                  <dd>{what}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
      <p className="mt-4 border-t border-rule pt-3 text-sm text-muted">
        Salt Line computes; it does not make a station safe. Radio-frequency power burns, mismatched
        lines carry high voltage, masts invite lightning and falls. Never key without a load. Local
        rules and licensed practice come first.
      </p>
    </Dialog>
  )
}
