/** The core at the shell: no server, no database. */
import { writeFileSync } from 'node:fs'
import { basename } from 'node:path'
import type { ChainDocument } from '@saltline/contract'
import {
  answerChain,
  carryToFeedPoint,
  type Chain,
  cableClasses,
  decimals,
  formatDb,
  formatFrequency,
  formatLength,
  formatPower,
  formatSwr,
  type Answer,
  InputError,
  ledgerOf,
  lineConstants,
  lossDb,
  matchedLossDb,
  plan,
  type Range,
  readTouchstone,
  REFERENCE_OHM,
  rangeText,
  ratedPowerAt,
  writeTouchstone,
} from '@saltline/core'
import {
  cableOf,
  chainOf,
  frequencyOf,
  lengthOf,
  powerOf,
  quantity,
  sectionOf,
  swrOf,
  textOf,
} from './read.ts'
import { csv, Refusal, say, sayJson, table } from './say.ts'

const between = (range: Range | undefined, value: number, show: (value: number) => string) =>
  rangeText(value, range, show)

export interface LossOptions {
  cable: string
  length: string
  frequency: string
  power: string
  swr: string
  json: boolean
}

/** What a length of cable leaves of a power, into an antenna of an SWR. */
export function loss(options: LossOptions): void {
  const cable = cableOf(options.cable)
  const lengthM = lengthOf(options.length)
  const frequencyHz = frequencyOf(options.frequency)
  const powerW = powerOf(options.power)
  const swr = swrOf(options.swr)
  const chain: Chain = {
    transmitter: { behaviour: 'levelled', foldback: [] },
    stages: [{ kind: 'line', cable, lengthM }],
    load: { kind: 'swr', swr },
  }
  const { solution, spread } = answerChain(chain, { frequencyHz, powerW })
  const matchedDb = matchedLossDb(lineConstants(cable, frequencyHz), lengthM)
  const antenna = spread?.antennaW
  const down = antenna && { low: lossDb(powerW, antenna.high), high: lossDb(powerW, antenna.low) }
  const total = lossDb(powerW, solution.antennaW)
  if (options.json)
    return sayJson({
      cable: cable.name,
      lengthM,
      frequencyHz,
      powerW,
      swrAtAntenna: swr,
      antennaW: antenna ?? { low: solution.antennaW, high: solution.antennaW },
      lossDb: down ?? { low: total, high: total },
      matchedLossDb: matchedDb,
      swrAtRadio: spread?.planes[0]?.swr ?? {
        low: solution.planes[0]!.swr,
        high: solution.planes[0]!.swr,
      },
    })
  say(
    `Of ${formatPower(powerW)}, ${between(antenna, solution.antennaW, formatPower)} reaches the antenna (${between(down, total, formatDb)} down).`,
    `${formatLength(lengthM)} of ${cable.name} take ${formatDb(matchedDb)} on ${formatFrequency(frequencyHz)} when matched; the radio sees SWR ${between(spread?.planes[0]?.swr, solution.planes[0]!.swr, formatSwr)}.`,
    'For a transmitter held on 50 Ω without foldback. Ranges come from the unknown phase of the antenna.',
  )
}

/** A document's chain; one whose antenna is a sweep of a station cannot be solved without that station. */
function chainIn(document: ChainDocument, path: string): Chain {
  const { load, stages, transmitter } = document
  if (load.kind === 'antenna')
    throw new Refusal(
      `The antenna of “${path}” is a sweep that lies in its station. Give it R and X, or an SWR, or solve it in the station.`,
    )
  return { transmitter, stages, load }
}

/** Every plane of a chain on each of its channels. */
export async function solve({ file, format }: { file: string; format: string }): Promise<void> {
  const document = await chainOf(file)
  const chain = chainIn(document, file)
  const solved = document.channels.map((channel) => {
    const { frequencyHz, powerW, mode } = channel
    try {
      return { channel, answer: answerChain(chain, { frequencyHz, powerW, mode }) }
    } catch (error) {
      if (!(error instanceof InputError)) throw error
      return { channel, problem: error.message }
    }
  })
  if (format === 'json')
    return sayJson(
      solved.map(({ channel, answer, problem }) => ({
        frequencyHz: channel.frequencyHz,
        ...(answer ? { solution: answer.solution, spread: answer.spread } : { problem }),
      })),
    )
  const placeOf = (plane: number): string =>
    plane === document.stages.length
      ? document.load.name
      : `input of ${document.stages[plane]!.name}`
  if (format === 'csv')
    return say(
      csv(
        [
          'frequency MHz',
          'plane',
          'place',
          'net W',
          'forward W',
          'reflected W',
          'SWR',
          'V rms',
          'problem',
        ],
        solved.flatMap(({ channel, answer, problem }) =>
          answer
            ? answer.solution.planes.map((plane, k) => [
                channel.frequencyHz / 1e6,
                k,
                placeOf(k),
                plane.netW,
                plane.forwardW,
                plane.reflectedW,
                plane.swr,
                plane.voltageRms,
                '',
              ])
            : [[channel.frequencyHz / 1e6, '', '', '', '', '', '', '', problem]],
        ),
      ),
    )
  for (const { channel, answer, problem } of solved) {
    say(
      `${formatFrequency(channel.frequencyHz)}, ${channel.mode}, ${formatPower(channel.powerW)} set`,
    )
    if (!answer) say(`  No figure: ${problem}`, '')
    else say(...inWords(answer, placeOf), '')
  }
}

function inWords({ solution, spread }: Answer, placeOf: (plane: number) => string): string[] {
  const ledger = ledgerOf(solution)
  return [
    `Of ${formatPower(ledger.settingW)}, ${between(spread?.antennaW, solution.antennaW, formatPower)} reaches the antenna (${formatDb(ledger.lossDb)} down).`,
    table(
      ['place', 'net', 'SWR', 'lost before it'],
      solution.planes.map((plane, k) => [
        placeOf(k),
        between(spread?.planes[k]?.netW, plane.netW, formatPower),
        between(spread?.planes[k]?.swr, plane.swr, formatSwr),
        k === 0
          ? formatPower(ledger.rows[0]!.lossW)
          : between(spread?.stages[k - 1]?.lossW, solution.stages[k - 1]!.lossW, formatPower),
      ]),
    ),
  ]
}

/** A sweep, carried through cables to the feed point. */
export async function sweep({
  file,
  through,
  out,
}: {
  file: string
  through: readonly string[]
  out: string | undefined
}): Promise<void> {
  const measured = readTouchstone(await textOf(file), REFERENCE_OHM)
  const stages = through.map(sectionOf)
  const carried = carryToFeedPoint(measured, stages)
  if (!carried.possible) throw new Refusal(carried.message)
  const text = writeTouchstone({
    ...carried.sweep,
    comments: [
      ...carried.sweep.comments,
      ...stages.map(
        ({ lengthM }, i) => `carried through ${formatLength(lengthM)} of ${through[i]!}`,
      ),
    ],
  })
  if (out === undefined) return say(text.trimEnd())
  writeFileSync(out, text)
  say(
    `${carried.sweep.frequencyHz.length} points of ${basename(file)} at the feed point are in ${out}.`,
  )
}

/** Which cables are worth their price, or their weight. */
export async function planned({
  file,
  section,
  by,
  price,
  budget,
  json,
}: {
  file: string
  section: readonly string[]
  by: string
  price: readonly string[]
  budget: string | undefined
  json: boolean
}): Promise<void> {
  const document = await chainOf(file)
  const prices = new Map(
    price.map((text) => {
      const cut = text.lastIndexOf('=')
      if (cut < 0)
        throw new Refusal(
          `--price ${text}: write a cable, = and the price of a metre, as in "RG-213=2.4".`,
        )
      const perM = quantity('price', text.slice(cut + 1), 'plain', '', [0, 1e6])
      return [cableOf(text.slice(0, cut)).id, perM] as const
    }),
  )
  const wanted = section.map((name) => {
    const stage = document.stages.findIndex(
      (own) => own.kind === 'line' && [own.id, own.name].includes(name),
    )
    if (stage < 0)
      throw new Refusal(
        `The chain has no cable “${name}”. It has ${document.stages
          .flatMap((own) => (own.kind === 'line' ? [`“${own.name}”`] : []))
          .join(', ')}.`,
      )
    return stage
  })
  const byPrice = by === 'price'
  if (byPrice && prices.size === 0)
    throw new Refusal(
      'Give the price of a metre of each cable that may be bought: --price "10 mm foam PE=6.8".',
    )
  const { front, combinations } = plan({
    chain: chainIn(document, file),
    at: document.channels.map(({ frequencyHz, powerW, mode }) => ({ frequencyHz, powerW, mode })),
    counts: 'worst',
    sections: wanted.map((stage) => ({
      stage,
      presentCost: 0,
      candidates: cableClasses.map((cable) => ({
        id: cable.id,
        cable,
        costPerM: byPrice ? prices.get(cable.id) : cable.weightKgPer100m / 100,
      })),
    })),
    costPerSection: 0,
    budget: budget === undefined ? undefined : quantity('budget', budget, 'plain', '', [0, 1e9]),
  })
  if (json) return sayJson({ combinations, front })
  const nameOf = (id: string | null) =>
    id === null ? 'as it stands' : cableClasses.find((cable) => cable.id === id)!.name
  say(
    `${combinations} combinations; loss on the worst channel against ${byPrice ? 'price' : 'weight, kg'}.`,
    table(
      [byPrice ? 'price' : 'kg', 'loss', ...section],
      front.map(({ cost, lossDb: db, cables }) => [
        decimals(cost, 1),
        formatDb(db),
        ...cables.map(nameOf),
      ]),
    ),
  )
}

/** The catalogue. */
export function cables({ frequency, json }: { frequency: string; json: boolean }): void {
  const hz = frequencyOf(frequency)
  const rows = cableClasses.map((cable) => ({
    name: cable.name,
    dbPer100m: matchedLossDb(lineConstants(cable, hz), 100),
    ratedW: ratedPowerAt(cable, hz),
    markings: cable.jacketMarkings,
  }))
  if (json) return sayJson(rows)
  say(
    table(
      ['cable', 'dB/100 m', 'rated', 'as'],
      rows.map(({ name, dbPer100m, ratedW, markings }) => [
        name,
        decimals(dbPer100m, 2),
        formatPower(ratedW),
        markings[0] ?? '',
      ]),
    ),
    `On ${formatFrequency(hz)}; typical of each class.`,
  )
}
