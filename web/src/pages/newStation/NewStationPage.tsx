import { type ChainDocument } from '@saltline/contract'
import { errorText } from '../../platform/errorText.ts'
import { useMemo, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { createChain, createStation } from '../../platform/api/queries.ts'
import { Page } from '../../shell/Page.tsx'
import { answerChannel, chainOfDocument } from '../../model/answers.ts'
import { chainAddress } from '../../editor/useChainAddress.ts'
import { Spine } from '../../spine/Spine.tsx'
import { stillSpine } from '../../spine/stillSpine.ts'
import { DeletedStations } from '../../shell/DeletedStations.tsx'
import { StationFromFile } from './StationFromFile.tsx'
import { chainOfDraft, whyNotDraft } from '../../model/stationDraft.ts'
import { ANTENNA, steps } from './steps.tsx'
import { useDraft } from './useDraft.ts'
import { Problem } from '../../ui/Problem.tsx'

/**
 * A new station with its first chain, or a new chain of a station that is there, in the order of the job; it can stop at
 * any step with a chain that solves.
 */
export function NewStationPage() {
  const { stationId } = useParams()
  const { draft, set, forget } = useDraft(stationId)
  const [search, setSearch] = useSearchParams()
  const asked = Number(search.get('step') ?? 1) - 1
  const step = Number.isInteger(asked) && asked in steps ? asked : 0
  const setStep = (next: number) => setSearch({ step: String(next + 1) })
  const [problem, setProblem] = useState<string | null>(null)
  const navigate = useNavigate()
  const document = useMemo(() => chainOfDraft(draft), [draft])
  const channel = document.channels[0]!
  const answer = useMemo(
    () => answerChannel(chainOfDocument(document, undefined)!, document.transmitter, channel),
    [document, channel],
  )
  const finish = async () => {
    const wrong = whyNotDraft(draft)
    if (wrong) {
      setStep(ANTENNA)
      return setProblem(wrong)
    }
    try {
      const [station, chain] = stationId
        ? [stationId, (await createChain(stationId, document)).id]
        : await newStation(draft.name, document)
      forget()
      await navigate(chainAddress(station, chain))
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  const { title, hint, Fields } = steps[step]!
  const last = step === steps.length - 1
  return (
    <Page title={stationId ? 'New chain' : 'New station'} {...(stationId && { stationId })}>
      <div className="mx-auto max-w-5xl px-5 py-5">
        <ol className="mb-4 flex flex-wrap gap-x-5 gap-y-1 text-sm" aria-label="Steps">
          {steps.map((each, i) => (
            <li key={each.title}>
              <button
                type="button"
                aria-current={i === step ? 'step' : undefined}
                className={`min-h-6 ${i === step ? 'font-bold text-tide' : 'text-muted hover:text-ink'}`}
                onClick={() => setStep(i)}
              >
                {i + 1} {each.title}
              </button>
            </li>
          ))}
        </ol>
        <div className="grid items-start gap-8 md:grid-cols-[minmax(0,36rem)_1fr]">
          <form
            onSubmit={(event) => {
              event.preventDefault()
              if (last) void finish()
              else setStep(step + 1)
            }}
          >
            <h2 className="text-lg font-bold">{title}</h2>
            <p className="mb-3 text-muted">{hint}</p>
            <Fields
              key={step}
              stationId={stationId}
              draft={draft}
              set={(change) => {
                setProblem(null)
                set(change)
              }}
            />
            <div className="mt-4 flex flex-wrap gap-2">
              <button type="submit" className="button button-main">
                {last ? 'Finish' : 'Next'}
              </button>
              {!last && (
                <button type="button" className="button" onClick={() => void finish()}>
                  Finish with what there is
                </button>
              )}
            </div>
            <Problem text={problem} />
          </form>
          {!stationId && (
            <div>
              <StationFromFile />
              <DeletedStations />
            </div>
          )}
        </div>
      </div>
      <div inert>
        <Spine
          document={document}
          channel={channel}
          answer={answer}
          selection={null}
          topW={draft.powerW}
          actions={stillSpine}
        />
      </div>
    </Page>
  )
}

async function newStation(name: string, document: ChainDocument): Promise<[string, string]> {
  const { id, chains } = await createStation({ name, chain: document })
  return [id, chains[0]!.id]
}
