import type { ChainDocument, Mode } from '@saltline/contract'
import {
  decimals,
  type Fault,
  formatPower,
  modeTable,
  type RatedChain,
  type SectionVerdict,
  standingOf,
  upgradeTo,
  worstFaultAt,
} from '@saltline/core'
import { useUnits } from '../../platform/preferences.ts'
import { useDeferredValue, useMemo, useState } from 'react'
import { operatingPoint } from '../../model/answers.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { PowerField } from '../../ui/quantities.tsx'
import {
  headroomText,
  kindName,
  partName,
  standingText,
  surroundingsOf,
} from '../../model/headroomWords.ts'

/** Choose a power: what is good enough, what must be replaced, and by which class of cable. */
export function NewAmplifier({
  document,
  chain,
  onClose,
}: {
  document: ChainDocument
  chain: RatedChain
  onClose: () => void
}) {
  const { power } = useUnits()
  const [watts, setWatts] = useState(500)
  const [mode, setMode] = useState<Mode>(document.channels[0]!.mode)
  const asked = useDeferredValue(watts)
  const { sections, fault } = useMemo(() => {
    const cases = document.channels.map((channel) => {
      const own = { ...channel, mode, meanToPeak: undefined, keyDown: undefined }
      return {
        at: operatingPoint(document.transmitter, own),
        around: surroundingsOf(document, own),
      }
    })
    return {
      sections: upgradeTo(chain, asked, cases),
      fault: worstFaultAt(chain, asked, cases),
    }
  }, [chain, asked, document, mode])
  const over = sections.filter(({ worst }) => worst && standingOf(worst) === 'over')
  const unknown = sections.filter(({ worst }) => worst === null)
  const names = (list: readonly SectionVerdict[]) =>
    list.map(({ stage }) => partName(document, stage)).join(', ')
  return (
    <Dialog title="Is this good enough for more power?" onClose={onClose}>
      <div className="grid gap-3 sm:grid-cols-2">
        <PowerField
          label="Output of the new radio or amplifier, PEP"
          value={watts}
          onChange={setWatts}
          autoFocus
        />
        <ChoiceField<Mode>
          label="Mode"
          value={mode}
          options={modeTable.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setMode}
        />
      </div>
      <p role="status" className="my-3">
        {over.length === 0
          ? `${formatPower(asked, power)} is within all known limits on every channel.`
          : `For ${formatPower(asked, power)}, ${over.length === 1 ? 'one part is over its limit' : `${over.length} parts are over their limits`}: ${names(over)}.`}
        {unknown.length > 0 && ` Not known: ${names(unknown)}.`}
      </p>
      <p className="my-3">{ifItFails(fault, document)}</p>
      <table className="w-full text-sm">
        <thead className="text-muted">
          <tr className="border-b border-rule text-left [&>th]:py-1 [&>th]:pr-2 [&>th]:font-normal">
            <th scope="col">part</th>
            <th scope="col">worst on any channel</th>
            <th scope="col">what would do</th>
          </tr>
        </thead>
        <tbody>
          {sections.map(({ stage, worst, replacements }) => {
            const standing = worst ? standingOf(worst) : 'unknown'
            return (
              <tr key={stage} className="border-b border-rule align-top [&>*]:py-1 [&>*]:pr-2">
                <th scope="row" className="text-left font-normal">
                  {partName(document, stage)}
                </th>
                <td className={standing === 'over' ? 'text-danger' : ''}>
                  {standingText[standing]}
                  {worst && `, ${kindName(worst)}, ${headroomText(worst)}`}
                </td>
                <td>
                  {replacements
                    .map(({ cable, headroomDb }) => `${cable.name} (${decimals(headroomDb, 1)} dB)`)
                    .join(', ')}
                  {standing === 'over' && replacements.length === 0 && 'a part of a higher rating'}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="mt-3 text-xs text-muted">
        Worked out without any foldback of the new source, with{' '}
        {decimals(document.ambientC ?? 40, 0)} °C ambient. RF burns and exposure grow with the
        power: local rules and licensed practice come first.
      </p>
    </Dialog>
  )
}

/** What breaks at the new power when the antenna does, before anything switches off. */
function ifItFails(fault: Fault | null, document: ChainDocument): string {
  if (!fault?.unheld) return 'What breaks if the antenna fails cannot be said: no limit is known.'
  const { unheld, kind } = fault
  const end = kind === 'open' ? 'open end' : 'short circuit'
  return unheld.headroomDb! < 0
    ? `▲ If the antenna fails (${end}), ${partName(document, unheld.part)} breaks unless the transmitter reduces its power at once: ${kindName(unheld)}, ${headroomText(unheld)}.`
    : `If the antenna fails, nothing breaks: the least headroom is ${partName(document, unheld.part)}, ${kindName(unheld)}, ${headroomText(unheld)}.`
}
