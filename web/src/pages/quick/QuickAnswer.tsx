import { Term } from '../../shell/Term.tsx'
import { act, copyText } from '../../platform/act.ts'
import { errorText } from '../../platform/errorText.ts'
import type { ChainDocument } from '@saltline/contract'
import { formatDb, formatSwr, ledgerOf, usualTolerances } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { Copy } from 'lucide-react'
import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import {
  createChain,
  createStation,
  stationQuery,
  stationsQuery,
} from '../../platform/api/queries.ts'
import { useUnits } from '../../platform/preferences.ts'
import { answerChannel, chainOfDocument, operatingPoint } from '../../model/answers.ts'
import { useTask } from '../../compute/useTask.ts'
import { chainAddress } from '../../editor/useChainAddress.ts'
import { ledgerRanges } from '../../model/ledgerRanges.ts'
import { downText } from '../../model/sentence.ts'
import { CablesForRun } from '../../panel/CablesForRun.tsx'
import { rangeText, wattsText } from '../../model/wattsText.ts'
import { Spine } from '../../spine/Spine.tsx'
import { stillSpine } from '../../spine/stillSpine.ts'
import { type QuickChain, quickChain, type QuickSum } from './quickSum.ts'
import { Problem } from '../../ui/Problem.tsx'

export function Answer({
  sum,
  chain,
  set,
}: {
  sum: QuickSum
  chain: QuickChain & { possible: true }
  set: (change: Partial<QuickSum>) => void
}) {
  const { power } = useUnits()
  const { document, swrAtAntenna } = chain
  const answer = useMemo(
    () =>
      answerChannel(
        chainOfDocument(document, undefined)!,
        document.transmitter,
        document.channels[0]!,
      ),
    [document],
  )
  const store = useStore()
  if (!answer.ok) return null
  const { solution, spread } = answer
  const ledger = ledgerOf(solution)
  const ranges = spread && ledgerRanges(ledger, spread)
  const line = solution.stages.at(-1)!
  const addedDb = line.lossDb - line.line!.matchedLossDb
  const all = spread?.stages.at(-1)?.lossDb
  const addedRange = all && {
    low: Math.max(0, all.low - line.line!.matchedLossDb),
    high: all.high - line.line!.matchedLossDb,
  }
  const notDeliveredW = ledger.rows[0]!.lossW
  return (
    <div className="min-w-0 px-6 py-5 max-md:px-0">
      <p role="status" className="px-5 text-xl leading-snug md:px-0">
        Of {wattsText(sum.powerW, power)},{' '}
        <b className="text-2xl">{wattsText(solution.antennaW, power, spread?.antennaW)}</b> reaches
        the antenna ({downText(ledger.lossDb, ranges?.total.lossDb)}). The cable takes{' '}
        {wattsText(line.lossW, 'W', spread?.stages.at(-1)?.lossW)}:{' '}
        {formatDb(line.line!.matchedLossDb)} as on a matched line
        {addedDb >= 0.005 && (
          <> and {rangeText(addedDb, addedRange, formatDb)} more by the SWR</>
        )}.{' '}
        {notDeliveredW >= 0.0005 * sum.powerW && (
          <>
            {wattsText(notDeliveredW, 'W', ranges?.rows[0]!.lossW)} of the setting is not delivered
            into the mismatch.{' '}
          </>
        )}
        {sum.readAt === 'radio'
          ? `The antenna itself has an SWR of ${formatSwr(swrAtAntenna)}.`
          : `The ${sum.tuner === 'radio' ? 'tuner' : 'radio'} sees SWR ${rangeText(solution.planes.at(-2)!.swr, spread?.planes.at(-2)?.swr, formatSwr)}.`}
      </p>
      <HowSure document={document} />
      <Schools sum={sum} />
      <div inert className="mt-4">
        <Spine
          document={document}
          channel={document.channels[0]!}
          answer={answer}
          selection={null}
          topW={sum.powerW}
          actions={stillSpine}
        />
      </div>
      <Keep chain={chain} />
      <section aria-label="All cables for this run" className="mt-6 px-5 md:px-0">
        <h2 className="mb-2 text-base font-bold">All cables for this run</h2>
        {!store && <p className="min-h-[58rem]" />}
        {store && (
          <CablesForRun
            station={store}
            chain={chainOfDocument(document, undefined)!}
            at={operatingPoint(document.transmitter, document.channels[0]!)}
            stage={document.stages.length - 1}
            lengthM={sum.lengthM}
            currentId={sum.cableId}
            takeLabel={(name) => `Take ${name} into the sum`}
            onTake={({ id }) => set({ cableId: id })}
          />
        )}
      </section>
      <p className="mt-4 max-w-2xl px-5 text-sm text-muted md:px-0">
        For a transmitter held on 50 Ω, without <Term>foldback</Term>, and a cable typical of its
        class. Ranges come from the unknown phase of the antenna’s reflection. Kept as a chain,
        everything can be refined.
      </p>
    </div>
  )
}

/** What usual uncertainties leave of the answer. */
function HowSure({ document }: { document: ChainDocument }) {
  const { power } = useUnits()
  const request = useMemo(
    () => ({
      task: 'ranges' as const,
      chain: chainOfDocument(document, undefined)!,
      at: [operatingPoint(document.transmitter, document.channels[0]!)],
      tolerances: usualTolerances,
    }),
    [document],
  )
  const { result } = useTask('ranges', request)
  const range = result && result[0]!.antennaW
  return (
    <p className="mt-1 min-h-6 px-5 text-sm text-muted md:px-0">
      {range &&
        `As well as radios, cables, lengths and SWRs are usually known: ${wattsText(0, power, range)} in nine of ten stations.`}
    </p>
  )
}

/** The catalogue, with the prices of the first station there is; null while they are on their way. */
function useStore() {
  const { data: stations, isLoading: noStations } = useQuery(stationsQuery)
  const first = stations?.[0]?.id
  const { data: station, isLoading: noStation } = useQuery({
    ...stationQuery(first ?? ''),
    enabled: first !== undefined,
  })
  const loading = noStations || noStation
  return useMemo(
    () =>
      loading
        ? null
        : {
            gear: [],
            prices: station?.prices ?? { perM: {} },
            currency: station?.currency ?? 'price',
          },
    [station, loading],
  )
}

/** Is reflected power lost? Both answers, and on what they depend. */
function Schools({ sum }: { sum: QuickSum }) {
  const { power } = useUnits()
  const { lost, again } = useMemo(() => bothWays(sum), [sum])
  return (
    <details className="mt-2 px-5 text-sm text-muted md:px-0">
      <summary className="min-h-6 cursor-pointer">Is reflected power lost? Working</summary>
      <p className="mt-1 max-w-2xl">
        Held on 50 Ω and without a tuner, the radio delivers forward power less what comes back:{' '}
        {wattsText(lost, power)} at the antenna. With a tuner that matches at the radio (taken as
        lossless here), all that is set goes in, and only the cable takes its part, more of it for
        the SWR on it: {wattsText(again, power)}. Both are right, each for its own transmitter; what
        the reflection itself costs is the difference, and none of it is heat in the antenna. Where
        only the SWR is known, these are the middle of all phases.
      </p>
    </details>
  )
}

/** Watts at the antenna without a tuner, and with one at the radio. */
function bothWays(sum: QuickSum) {
  const watts = (tuner: QuickSum['tuner']) => {
    const chain = quickChain({ ...sum, tuner })
    if (!chain.possible) return NaN
    const { transmitter, channels } = chain.document
    const answer = answerChannel(
      chainOfDocument(chain.document, undefined)!,
      transmitter,
      channels[0]!,
    )
    return answer.ok ? answer.solution.antennaW : NaN
  }
  return { lost: watts('none'), again: watts('radio') }
}

function Keep({ chain }: { chain: QuickChain & { possible: true } }) {
  const { data: stations } = useQuery(stationsQuery)
  const [problem, setProblem] = useState<string | null>(null)
  const navigate = useNavigate()
  const keep = async () => {
    try {
      const stationId = stations?.[0]?.id ?? (await createStation({ name: 'My station' })).id
      const { id } = await createChain(stationId, chain.document)
      await navigate(chainAddress(stationId, id))
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  const copy = () =>
    act(async () => {
      await copyText(location.href)
      return { said: 'The address of this sum is copied.' }
    })
  return (
    <div className="mt-3 flex flex-wrap gap-2 px-5 md:px-0">
      <button type="button" className="button button-main" onClick={() => void keep()}>
        Keep as a chain
      </button>
      <button type="button" className="button" onClick={() => void copy()}>
        <Copy size={14} aria-hidden /> Copy as a link
      </button>
      <Problem text={problem} />
    </div>
  )
}
