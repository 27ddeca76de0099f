import { Term } from '../../shell/Term.tsx'
import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import {
  checkLimits,
  type Fault,
  formatFrequency,
  InputError,
  mostPower,
  type MostPower,
  phaseUnknown,
  type RatedChain,
  type Use,
} from '@saltline/core'
import { useCallback, useDeferredValue, useMemo, useState } from 'react'
import { Link } from 'react-router'
import { useUnits } from '../../platform/preferences.ts'
import { useTask } from '../../compute/useTask.ts'
import { useLimitRanges } from '../../compute/ranges.ts'
import { HowSure } from '../../panel/HowSure.tsx'
import { NoFigure } from '../../ui/NoFigure.tsx'
import { operatingPoint, settingOf } from '../../model/answers.ts'
import { Conditions } from './Conditions.tsx'
import { FaultTable, faultVerdict } from './FaultTable.tsx'
import { MostTable } from './MostTable.tsx'
import { NewAmplifier } from './NewAmplifier.tsx'
import { PartList } from './PartList.tsx'
import {
  howSureText,
  inMode,
  isPart,
  mostModes,
  surroundingsOf,
  verdictText,
} from '../../model/headroomWords.ts'
import { useLead } from '../../editor/lead.ts'
import type { LensProps } from '../../editor/lens.ts'

/** A figure, or why the chain has none on a channel. */
type Computed<T> = { ok: true; value: T } | { ok: false; message: string }

function unless<T>(compute: () => T): Computed<T> {
  try {
    return { ok: true, value: compute() }
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    return { ok: false, message: error.message }
  }
}

/** In its own mode first, then in those of the table. */
const usesOn = (document: ChainDocument, channel: ChannelDocument): Use[] =>
  [channel, ...mostModes.map((mode) => inMode(channel, mode))].map((own) => ({
    mode: own.mode,
    around: surroundingsOf(document, own),
  }))

/** The most power of a chain on a channel, in its own mode or another; parts alone, no licence. */
const mostOn = (chain: RatedChain, document: ChainDocument, channel: ChannelDocument): MostPower =>
  mostPower(
    chain,
    operatingPoint(document.transmitter, channel),
    surroundingsOf(document, channel),
    isPart,
  )

const NONE: readonly Fault[] = []

/** What is near its limit, what is the most I may run, what if the antenna breaks? */
export function HeadroomLens({ station, chainId, onSelect, edit, ...live }: LensProps) {
  const lead = useLead()
  const { length, power } = useUnits()
  const [asking, setAsking] = useState(false)
  // The many solutions of this lens may lag behind a key that is held down; the spine does not.
  const { document, channel } = useDeferredValue(live)
  const chain = useDeferredValue(live.chain) as RatedChain
  const here = useMemo(
    () =>
      unless(() => {
        const at = operatingPoint(document.transmitter, channel)
        const around = surroundingsOf(document, channel)
        return {
          // A radio at its rating is as it should be; past it, it is a fact.
          stresses: checkLimits(chain, at, around).stresses.filter(
            (stress) => !(stress.kind === 'power' && stress.part < 0) || stress.headroomDb! < -0.01,
          ),
          most: mostOn(chain, document, channel),
        }
      }),
    [chain, document, channel],
  )
  const { last: most } = useTask(
    'most',
    useMemo(() => ({ document, chain }), [document, chain]),
  )
  const { swrLimit } = station
  const { last: broken } = useTask(
    'faults',
    useMemo(() => ({ document, chain, channel, swrLimit }), [document, chain, channel, swrLimit]),
  )
  // Those of another channel would be false; those of a moment ago are on their way.
  const faults = broken?.channelId === channel.id ? broken.faults : null
  const usesOf = useCallback((each: ChannelDocument) => usesOn(document, each), [document])
  const ranges = useLimitRanges(document, chain, usesOf)
  const sure = ranges.of(channel.id)?.[0] ?? null
  return (
    <div className="grid grid-cols-1 two:grid-cols-[minmax(260px,4fr)_minmax(0,7fr)]">
      <div className="space-y-3 px-5 py-4 two:border-r two:border-rule">
        {here.ok ? (
          <>
            {lead(
              <p role="status" className="text-[18px] leading-snug">
                {verdictText(
                  document,
                  channel,
                  settingOf(document.transmitter, channel),
                  here.value.most,
                  length,
                  power,
                )}
              </p>,
            )}
            {faults ? (
              <p>{faultVerdict(document, faults)}</p>
            ) : (
              // Most verdicts are of two lines: nothing moves when it comes.
              <p className="min-h-[2lh]" aria-hidden />
            )}
            <HowSure document={live.document} edit={edit} run={ranges} samples="500">
              {sure && (
                <p>
                  {howSureText(
                    sure,
                    settingOf(document.transmitter, channel),
                    phaseUnknown(chain.load, channel.frequencyHz),
                    power,
                  )}
                </p>
              )}
            </HowSure>
          </>
        ) : (
          <NoFigure message={here.message} />
        )}
        <Conditions document={live.document} channel={live.channel} edit={edit} />
        <div className="flex flex-wrap gap-2">
          <button type="button" className="button" onClick={() => setAsking(true)}>
            More power?
          </button>
          <Link className="button" to={`/station/${station.id}/chain/${chainId}/card`}>
            Operating card
          </Link>
        </div>
        <section aria-label="Most power" className="border-t border-rule pt-2">
          <h2 className="mb-1 text-sm text-muted">
            The most that may be set, <Term>PEP</Term>, and the limiting part
          </h2>
          <MostTable
            document={document}
            most={most}
            rangesOf={(id, mode) => ranges.of(id)?.[1 + mostModes.indexOf(mode)]?.mostW ?? null}
            current={channel.id}
          />
        </section>
      </div>
      <div className="min-w-0 space-y-4 px-5 py-3">
        {here.ok && (
          <>
            <section aria-label="Parts by headroom">
              <h2 className="text-sm text-muted">
                Parts by <Term>headroom</Term> on {formatFrequency(channel.frequencyHz)}
              </h2>
              <PartList
                document={document}
                stresses={here.value.stresses}
                ranges={sure?.stresses ?? null}
                onSelect={onSelect}
              />
            </section>
            <section aria-label="When something fails">
              <h2 className="text-sm text-muted">
                When something fails at this power, tuners staying where they are
              </h2>
              <FaultTable document={document} faults={faults ?? NONE} worstSwr={swrLimit} />
            </section>
          </>
        )}
        <p className="text-xs text-muted">
          Ratings are typical of their classes unless you give your own. Voltage at PEP, heating by
          the average over a transmission. Never key without a load.
        </p>
      </div>
      {asking && (
        <NewAmplifier document={document} chain={chain} onClose={() => setAsking(false)} />
      )}
    </div>
  )
}
