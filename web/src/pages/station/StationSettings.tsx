import { environments, type Environment, type Station, textLimits } from '@saltline/contract'
import { Pencil, Trash2 } from 'lucide-react'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { deleteStation, restoreStation, updateStation } from '../../platform/api/queries.ts'
import { act } from '../../platform/act.ts'
import { errorText } from '../../platform/errorText.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { Problem } from '../../ui/Problem.tsx'
import { SwrField } from '../../ui/quantities.tsx'
import { TextField } from '../../ui/TextField.tsx'

const environmentText: Record<Environment, string> = {
  city: 'city',
  residential: 'residential',
  rural: 'rural',
  'quiet rural': 'quiet rural',
}

/** The station's name, place and settings; and the way to delete it. */
export function StationSettings({ station }: { station: Station }) {
  const [open, setOpen] = useState(false)
  const navigate = useNavigate()
  const remove = () =>
    act(async () => {
      await deleteStation(station.id)
      await navigate('/')
      return {
        said: `The station “${station.name}” is in the bin.`,
        undo: async () => {
          await restoreStation(station.id)
          await navigate(`/station/${station.id}`)
        },
      }
    })
  return (
    <section aria-label="Station settings">
      <h2 className="border-b border-ink pb-1 font-bold">Settings</h2>
      <p className="py-1.5 text-sm">
        SWR limit {station.swrLimit}, {environmentText[station.environment]} environment, prices in{' '}
        {station.currency}.
      </p>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="button" onClick={() => setOpen(true)}>
          <Pencil size={14} aria-hidden /> Change
        </button>
        <Link className="button" to="/access">
          Network and devices
        </Link>
        <button type="button" className="button" onClick={() => void remove()}>
          <Trash2 size={14} aria-hidden /> Delete this station
        </button>
      </div>
      {open && <Edit station={station} onClose={() => setOpen(false)} />}
    </section>
  )
}

function Edit({ station, onClose }: { station: Station; onClose: () => void }) {
  const { name, place, note, swrLimit, environment, currency, prices } = station
  const [body, setBody] = useState({ name, place, note, swrLimit, environment, currency, prices })
  const [problem, setProblem] = useState<string | null>(null)
  const put = (change: Partial<typeof body>) => setBody((old) => ({ ...old, ...change }))
  const save = async () => {
    try {
      await updateStation(station.id, body)
      onClose()
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  return (
    <Dialog title="Station settings" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          void save()
        }}
      >
        <div className="grid gap-3 sm:grid-cols-2">
          <TextField label="Name" value={body.name} onChange={(value) => put({ name: value })} />
          <TextField
            label="Place"
            optional
            most={textLimits.place}
            value={body.place}
            onChange={(value) => put({ place: value })}
          />
          <SwrField
            label="SWR limit"
            value={body.swrLimit}
            onChange={(value) => put({ swrLimit: value })}
            hint="Above it the lenses warn; nothing is switched off."
          />
          <ChoiceField<Environment>
            label="Radio noise environment"
            value={body.environment}
            options={environments.map((value) => ({ value, label: environmentText[value] }))}
            onChange={(value) => put({ environment: value })}
          />
          <TextField
            label="Currency of prices"
            most={8}
            value={body.currency}
            onChange={(value) => put({ currency: value })}
          />
        </div>
        <Problem text={problem} />
        <button type="submit" className="button button-main mt-4">
          Save
        </button>
      </form>
    </Dialog>
  )
}
