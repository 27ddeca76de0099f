import {
  type Environment,
  environments,
  type ChainDocument,
  type ChannelDocument,
} from '@saltline/contract'
import {
  attenuationDbPer100m,
  type Chain,
  cableClasses,
  dissipatedDb,
  externalNoise,
  formatDb,
  formatFrequency,
  InputError,
  receiveCostDb,
} from '@saltline/core'
import { useMemo } from 'react'
import type { LensProps } from '../../editor/lens.ts'
import { operatingPoint } from '../../model/answers.ts'
import { copyOfClass } from '../../model/stages/line.ts'
import { rangeText } from '../../model/wattsText.ts'
import { ownCables } from '../../model/ownCables.ts'
import { CableField } from '../../panel/CableField.tsx'
import { Term } from '../../shell/Term.tsx'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { DecibelField, LengthField } from '../../ui/quantities.tsx'
import { heardText, signedDb } from './verdict.ts'

/** Of a receiver, where nothing is said, dB. */
const USUAL_NOISE_DB = 10

type Far = NonNullable<ChainDocument['farStation']>

const usualFar = (environment: Environment): Far => ({
  cable: copyOfClass(cableClasses.find(({ id }) => id === 'pe-10') ?? cableClasses[0]!),
  lengthM: 20,
  noiseFigureDb: USUAL_NOISE_DB,
  environment,
})

/**
 * Loss counts both ways: what each end hears of the other, and what the cables cost on receive. Signal and noise of the
 * band suffer alike, so below about 30 MHz the honest answer is often: nothing.
 */
export function FarStation({
  station,
  document,
  chain,
  channel,
  edit,
  alternative,
}: LensProps & { alternative: { name: string; document: ChainDocument; chain: Chain } | null }) {
  const { farStation: far, receiverNoiseDb = USUAL_NOISE_DB } = document
  const own = ownCables(station)
  const rows = useMemo(
    () =>
      document.channels.map((each) => {
        const noise = externalNoise(station.environment, each.frequencyHz)
        const lostNow = lostBetween(document, chain, each)
        const lostThen = alternative && lostBetween(alternative.document, alternative.chain, each)
        const cost = (db: number) => receiveCostDb(db, receiverNoiseDb, noise.db)
        return {
          channel: each,
          noise,
          lost: lostNow,
          now: lostNow && cost(lostNow.lossDb),
          nowRange: lostNow && { low: cost(lostNow.range.low), high: cost(lostNow.range.high) },
          then: lostThen && cost(lostThen.lossDb),
        }
      }),
    [document, chain, alternative, station.environment, receiverNoiseDb],
  )
  const here = rows.find((row) => row.channel.id === channel.id)
  return (
    <section aria-label="Receiving, and the other end" className="border-t border-rule pt-3">
      <h2 className="mb-1 text-base font-bold">Receiving, and the other end</h2>
      {here && (
        <p className="mb-2 max-w-3xl">{sentence(here, channel, alternative?.name ?? null)}</p>
      )}
      <div className="grid gap-x-8 gap-y-3 two:grid-cols-[240px_minmax(0,1fr)]">
        <div className="space-y-2">
          <DecibelField
            label="Noise figure of the receiver"
            within="noiseFigureDb"
            value={receiverNoiseDb}
            onChange={(value) => edit((d) => ({ ...d, receiverNoiseDb: value }))}
          />
          <p className="text-xs text-muted">
            Surroundings: {station.environment}, from the station’s settings.
          </p>
          {far ? (
            <>
              <h3 className="pt-1 text-sm font-bold">Far station</h3>
              <CableField
                value={far.cable.gearId ?? ''}
                own={own}
                frequencyHz={channel.frequencyHz}
                fallback={far.cable}
                onChange={(id) => {
                  const sheet = cableClasses.find((each) => each.id === id)
                  const mine = own.find((each) => each.id === id)
                  const cable = sheet
                    ? copyOfClass(sheet)
                    : mine && { ...mine.document, gearId: mine.id }
                  if (cable) edit((d) => ({ ...d, farStation: { ...far, cable } }))
                }}
              />
              <LengthField
                label="Length"
                value={far.lengthM}
                onChange={(lengthM) => edit((d) => ({ ...d, farStation: { ...far, lengthM } }))}
              />
              <DecibelField
                label="Noise figure of its receiver"
                within="noiseFigureDb"
                value={far.noiseFigureDb}
                onChange={(noiseFigureDb) =>
                  edit((d) => ({ ...d, farStation: { ...far, noiseFigureDb } }))
                }
              />
              <ChoiceField
                label="Its surroundings"
                value={far.environment}
                options={environments.map((value) => ({ value, label: value }))}
                onChange={(environment) =>
                  edit((d) => ({ ...d, farStation: { ...far, environment } }))
                }
              />
              <button
                type="button"
                className="link text-sm"
                onClick={() => edit(({ farStation: _, ...rest }) => rest)}
              >
                leave the far station out
              </button>
            </>
          ) : (
            <button
              type="button"
              className="button"
              onClick={() => edit((d) => ({ ...d, farStation: usualFar(station.environment) }))}
            >
              Add the far station’s cable
            </button>
          )}
        </div>
        <div className="overflow-x-auto">
          <table className="w-full text-right text-sm" aria-label="Both ends">
            <thead className="text-muted">
              <tr className="border-b border-rule [&>th]:py-1 [&>th]:pl-3 [&>th]:font-normal">
                <th scope="col" className="!pl-0 text-left">
                  channel
                </th>
                <th scope="col">noise of the band</th>
                <th scope="col">loss on the way</th>
                <th scope="col">costs on receive</th>
                {alternative && <th scope="col">with {alternative.name}</th>}
                {far && <th scope="col">their cable</th>}
                {far && <th scope="col">costs them</th>}
              </tr>
            </thead>
            <tbody>
              {rows.map(({ channel: each, noise, lost, now, nowRange, then }) => {
                const theirs = far && farCost(far, each.frequencyHz)
                return (
                  <tr key={each.id} className="border-b border-rule [&>td]:py-1 [&>td]:pl-3">
                    <th scope="row" className="text-left font-normal">
                      {formatFrequency(each.frequencyHz)}
                    </th>
                    <td>
                      {formatDb(noise.db)}
                      {noise.estimated && <span title="beyond what was measured"> *</span>}
                    </td>
                    <td>
                      {lost === null ? 'no figure' : rangeText(lost.lossDb, lost.range, formatDb)}
                    </td>
                    <td>{costText(now, nowRange)}</td>
                    {alternative && <td>{costText(then)}</td>}
                    {theirs && <td>{formatDb(theirs.lossDb)}</td>}
                    {theirs && <td>{costText(theirs.costDb)}</td>}
                  </tr>
                )
              })}
            </tbody>
          </table>
          <details className="mt-2 text-sm text-muted">
            <summary className="min-h-6 cursor-pointer">Working</summary>
            <p className="mt-1 max-w-2xl">
              Noise factors f = 10^(F/10), at 290 K. The antenna hears F_a = c − d·log₁₀ f (f in
              MHz) over thermal noise: man-made noise by ITU-R P.372, measured from 0.3 to 250 MHz;
              beyond (*) it is an estimate. A loss ℓ in front of a receiver of noise factor f_r
              costs 10·log₁₀((f_a + ℓ·f_r − 1)/(f_a + f_r − 1)). ℓ is what the chain turns to heat;{' '}
              <Term>mismatch</Term> between cable and receiver is left out. What the far station’s
              cable loses weakens you there by as much; band noise is weakened too, so that only the
              cost in signal to noise counts.
            </p>
          </details>
        </div>
      </div>
    </section>
  )
}

const costText = (db: number | null, range?: Lost['range'] | null): string => {
  if (db === null) return '–'
  if ((range?.high ?? db) < 0.05) return 'nothing'
  return range ? rangeText(db, range, formatDb) : formatDb(db)
}

interface Lost {
  lossDb: number
  /** Over the phases that the antenna may have. */
  range: { low: number; high: number }
}

/** What the parts between transmitter and antenna lose as heat; null without a figure. */
function lostBetween(document: ChainDocument, chain: Chain, channel: ChannelDocument): Lost | null {
  // On receive an amplifier is switched through.
  const stages = chain.stages.map((stage) =>
    stage.kind === 'amplifier' ? { ...stage, bypassed: true } : stage,
  )
  try {
    const lost = dissipatedDb({ ...chain, stages }, operatingPoint(document.transmitter, channel))
    return lost && { lossDb: lost.db, range: { low: lost.low, high: lost.high } }
  } catch (error) {
    if (error instanceof InputError) return null
    throw error
  }
}

function farCost({ cable, lengthM, noiseFigureDb, environment }: Far, hz: number) {
  const lossDb = (attenuationDbPer100m(cable, hz) * lengthM) / 100
  return { lossDb, costDb: receiveCostDb(lossDb, noiseFigureDb, externalNoise(environment, hz).db) }
}

function sentence(
  { lost, now, then }: { lost: Lost | null; now: number | null; then: number | null },
  { frequencyHz }: ChannelDocument,
  name: string | null,
): string {
  const on = `On ${formatFrequency(frequencyHz)}`
  if (now === null || lost === null) return `${on} the chain has no figure.`
  const lead =
    now < 0.1
      ? `${on} the ${rangeText(lost.lossDb, lost.range, formatDb)} of loss costs nothing on receive: the noise of the band is far above the receiver’s own.`
      : `${on} the ${rangeText(lost.lossDb, lost.range, formatDb)} of loss costs ${formatDb(now)} of signal to noise on receive.`
  if (then === null || name === null) return lead
  const gain = now - then
  return Math.abs(gain) < 0.05
    ? `${lead} ${name} changes nothing there.`
    : `${lead} ${name}: ${signedDb(gain)}, ${heardText(gain)}.`
}
