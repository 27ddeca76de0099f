import { act } from '../platform/act.ts'
import type { Gear, GearBody, Station } from '@saltline/contract'
import { addGear, deleteGear } from '../platform/api/queries.ts'
import { ChoiceField } from '../ui/ChoiceField.tsx'

type Kind = Exclude<Gear['kind'], 'cable' | 'instrument' | 'sheet'>
type DocumentOf<K extends Kind> = Extract<Gear, { kind: K }>['document']

/** Gear that a station keeps of one kind. */
export const gearOf = <K extends Kind>(
  station: Station,
  kind: K,
): { id: string; document: DocumentOf<K> }[] =>
  station.gear.flatMap(({ id, ...body }) =>
    body.kind === kind ? [{ id, document: body.document as DocumentOf<K> }] : [],
  )

/** Takes a copy of a piece of the station's gear, or keeps what is here as one. */
export function FromGear<K extends Kind>({
  station,
  kind,
  document,
  onTake,
}: {
  station: Station
  kind: K
  document: DocumentOf<K>
  onTake: (document: DocumentOf<K>) => void
}) {
  const gear = gearOf(station, kind)
  const keep = () =>
    act(async () => {
      const { id } = await addGear(station.id, { kind, document } as GearBody)
      return {
        said: `“${document.name}” is now among the station’s gear.`,
        undo: () => deleteGear(id),
      }
    })
  return (
    <div className="grid grid-cols-[1fr_auto] items-end gap-2">
      <ChoiceField
        label="From the station’s gear"
        value=""
        options={[
          { value: '', label: gear.length > 0 ? 'take a copy of…' : 'nothing saved yet' },
          ...gear.map(({ id, document: own }) => ({ value: id, label: own.name })),
        ]}
        onChange={(id) => {
          const found = gear.find((entry) => entry.id === id)
          if (found) onTake(found.document)
        }}
      />
      <button type="button" className="button mb-px" onClick={() => void keep()}>
        Save to gear
      </button>
    </div>
  )
}
