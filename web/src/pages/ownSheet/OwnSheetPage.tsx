import { newId, type RunSheetDocument, runSheetSchema, type Station } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react'
import { useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { lostCautions, moved } from '../../model/ownSheets.ts'
import { same } from '../../model/same.ts'
import { act } from '../../platform/act.ts'
import { deleteGear, restoreGear, stationQuery, updateGear } from '../../platform/api/queries.ts'
import { errorText } from '../../platform/errorText.ts'
import { Page } from '../../shell/Page.tsx'
import { Trouble } from '../../shell/Trouble.tsx'
import { Problem } from '../../ui/Problem.tsx'
import { TextField } from '../../ui/TextField.tsx'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { StepDangers } from './StepDangers.tsx'
import { StepFields } from './StepFields.tsx'
import { useSheetCheck } from './useSheetCheck.ts'

type Block = RunSheetDocument['steps'][number]
type Step = Exclude<Block, { over: string }>

/** A run sheet of the station's own: words, order, limits, powers. */
export function OwnSheetPage() {
  const { stationId, sheetId } = useParams() as { stationId: string; sheetId: string }
  const { data: station, error } = useQuery(stationQuery(stationId))
  if (error) return <Trouble error={error} />
  const gear = station?.gear.find(({ id }) => id === sheetId)
  return (
    <Page title="Run sheet" stationId={stationId}>
      {station && gear?.kind === 'sheet' && (
        <Editor key={gear.id} id={gear.id} saved={gear.document} station={station} />
      )}
      {station && gear?.kind !== 'sheet' && (
        <p className="p-5">This station has no such sheet; it may have been deleted.</p>
      )}
    </Page>
  )
}

const palette: { label: string; make: () => Step }[] = [
  { label: 'check', make: () => ({ id: newId(), kind: 'check', title: 'Check that …' }) },
  { label: 'do', make: () => ({ id: newId(), kind: 'do', title: 'Do …' }) },
  {
    label: 'read',
    make: () => ({
      id: newId(),
      kind: 'read',
      title: 'Forward and reflected',
      figures: 'both',
      place: 'meter',
      state: { carrier: true, share: 0.25 },
      seconds: 5,
      mostSwr: 2,
    }),
  },
  { label: 'hold', make: () => ({ id: newId(), kind: 'hold', title: 'Key down', seconds: 10 }) },
  {
    label: 'rest',
    make: () => ({ id: newId(), kind: 'hold', title: 'Unkey. Rest', rest: true, seconds: 20 }),
  },
  {
    label: 'wait',
    make: () => ({ id: newId(), kind: 'wait', title: 'Wait until it has settled' }),
  },
  {
    label: 'decide',
    make: () => ({
      id: newId(),
      kind: 'decide',
      title: 'As expected?',
      choices: [{ label: 'Yes' }, { label: 'No: stop', end: 'stopped' }],
    }),
  },
  { label: 'caution', make: () => ({ id: newId(), kind: 'caution', title: 'Mind …' }) },
]

function Editor({ id, saved, station }: { id: string; saved: RunSheetDocument; station: Station }) {
  const [sheet, setSheet] = useState(saved)
  const [problem, setProblem] = useState<string | null>(null)
  const navigate = useNavigate()
  const changed = !same({ ...sheet, version: saved.version }, saved)
  const lost = lostCautions(sheet)
  const [chainId, setChainId] = useState(station.chains[0]?.id)
  const { dangers, fits, problem: unchecked } = useSheetCheck(sheet, station, chainId)
  const dangerous = Object.values(dangers ?? {})
    .flat()
    .filter(({ leftOut }) => !leftOut)
  const put = (change: Partial<RunSheetDocument>) => setSheet((old) => ({ ...old, ...change }))
  const putBlock = (i: number, block: Block) => put({ steps: sheet.steps.with(i, block) })
  const save = async () => {
    const document = { ...sheet, version: saved.version + 1 }
    const checked = runSheetSchema.safeParse(document)
    if (!checked.success) {
      const [issue] = checked.error.issues
      return setProblem(`${placeOf(issue!.path, sheet)}${issue!.message}`)
    }
    try {
      await updateGear(id, { kind: 'sheet', document: checked.data })
      setProblem(null)
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  const remove = () =>
    act(async () => {
      await deleteGear(id)
      void navigate(`/station/${station.id}`)
      return { said: `“${saved.name}” is deleted.`, undo: () => restoreGear(id) }
    })
  return (
    <div className="mx-auto max-w-3xl space-y-4 px-5 py-4">
      <TextField label="Title" value={sheet.name} onChange={(name) => put({ name })} />
      <TextField
        label="What it is for"
        value={sheet.purpose}
        optional
        most={160}
        onChange={(purpose) => put({ purpose })}
      />
      {chainId !== undefined && (
        <div className="flex flex-wrap items-end gap-x-4 gap-y-1">
          <ChoiceField
            label="Checked on"
            value={chainId}
            options={station.chains.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={setChainId}
          />
          <p role="status" className={dangerous.length > 0 ? 'text-danger' : 'text-muted'}>
            {!fits
              ? 'This chain has not what the sheet needs.'
              : dangers === null
                ? 'checking …'
                : dangerous.length === 0
                  ? 'Nothing in it would hurt this chain.'
                  : `▲ ${dangerous.length === 1 ? 'One thing' : `${dangerous.length} things`} that must never happen, named below. It can be saved; it is not begun without saying why.`}
          </p>
        </div>
      )}
      <Problem text={unchecked} />
      {lost.length > 0 && (
        <p role="status" className="border-l-4 border-danger pl-3 text-danger">
          ▲ Cautions of the original are gone: {lost.map(({ title }) => `“${title}”`).join(', ')}.{' '}
          <button
            type="button"
            className="link"
            onClick={() => put({ steps: [...(lost as Step[]), ...sheet.steps] })}
          >
            put them back
          </button>
        </p>
      )}
      <ol className="space-y-2">
        {sheet.steps.map((block, i) => {
          const title = 'over' in block ? loopTitle(block) : block.title
          return (
            <li
              key={'over' in block ? `loop ${i}` : block.id}
              className="rounded border border-rule p-3"
            >
              <div className="mb-1 flex items-center gap-1 text-sm text-muted">
                <span className="flex-1">
                  {i + 1} {'over' in block && `· ${title}`}
                </span>
                <button
                  type="button"
                  className="quiet !px-1.5"
                  aria-label={`Move up: ${title}`}
                  disabled={i === 0}
                  onClick={() => put({ steps: moved(sheet.steps, i, -1) })}
                >
                  <ArrowUp size={15} aria-hidden />
                </button>
                <button
                  type="button"
                  className="quiet !px-1.5"
                  aria-label={`Move down: ${title}`}
                  disabled={i === sheet.steps.length - 1}
                  onClick={() => put({ steps: moved(sheet.steps, i, 1) })}
                >
                  <ArrowDown size={15} aria-hidden />
                </button>
                <button
                  type="button"
                  className="quiet !px-1.5"
                  aria-label={`Remove: ${title}`}
                  onClick={() => put({ steps: sheet.steps.toSpliced(i, 1) })}
                >
                  <Trash2 size={15} aria-hidden />
                </button>
              </div>
              {'over' in block ? (
                <div className="space-y-3 border-l-2 border-rule pl-3">
                  {block.over === 'levels' && (
                    <TextField
                      label="Levels, % of the set power"
                      value={(block.levels ?? [])
                        .map((level) => Math.round(level * 100))
                        .join(', ')}
                      onChange={(text) => {
                        const levels = text
                          .split(/[,;\s]+/)
                          .map((each) => Number(each) / 100)
                          .filter((level) => level > 0 && level <= 1)
                        if (levels.length > 0) putBlock(i, { ...block, levels })
                      }}
                    />
                  )}
                  {block.steps.map((step, k) => (
                    <div key={step.id}>
                      <StepDangers dangers={dangers?.[step.id]} />
                      <StepFields
                        step={step}
                        onChange={(next) =>
                          putBlock(i, { ...block, steps: block.steps.with(k, next) })
                        }
                      />
                    </div>
                  ))}
                </div>
              ) : (
                <>
                  <StepDangers dangers={dangers?.[block.id]} />
                  <StepFields step={block} onChange={(next) => putBlock(i, next)} />
                </>
              )}
            </li>
          )
        })}
      </ol>
      <div>
        <h2 className="mb-1 text-sm text-muted">Add a step at the end</h2>
        <div className="flex flex-wrap gap-1.5">
          {palette.map(({ label, make }) => (
            <button
              key={label}
              type="button"
              className="button"
              onClick={() => put({ steps: [...sheet.steps, make()] })}
            >
              <Plus size={14} aria-hidden /> {label}
            </button>
          ))}
        </div>
      </div>
      <Problem text={problem} />
      <div className="sticky bottom-0 -mx-5 flex flex-wrap items-center gap-3 border-t border-rule bg-sheet px-5 py-3">
        <button
          type="button"
          className="button button-main min-h-10"
          disabled={!changed}
          onClick={() => void save()}
        >
          Save
        </button>
        <span role="status" className="text-sm text-muted">
          {changed ? 'not saved yet' : `saved, version ${saved.version}`}
        </span>
        <button type="button" className="quiet ml-auto" onClick={() => void remove()}>
          Delete the sheet
        </button>
      </div>
    </div>
  )
}

const loopTitle = ({ over }: Extract<Block, { over: string }>) =>
  over === 'levels' ? 'at each level of power' : 'on every channel'

/** Which step a fault is in, in words. */
function placeOf(path: readonly PropertyKey[], { steps }: RunSheetDocument): string {
  const i = path[0] === 'steps' ? Number(path[1]) : NaN
  return Number.isNaN(i) || !steps[i] ? '' : `Step ${i + 1}: `
}
