/** The practice bench of a find-the-fault drill: radio, two meters, every plane of the chain. */
import type { MeterReading } from '../diagnosis/evidence.ts'
import { seeded } from '../statistics/random.ts'
import { formatFrequency } from '../units/format.ts'
import type { Fault } from './faults.ts'
import { type FindDrill, hiddenOf, seedNumber } from './findDrill.ts'
import type { Control, Settings, Simulation } from './play.ts'
import { practiceMeters, VOICE_POINT } from './practiceStations.ts'

/** A place on a chain in words. */
export const placeName = ({ station }: Pick<FindDrill, 'station'>, plane: number): string =>
  plane === 0
    ? 'at the radio'
    : plane === station.chain.stages.length
      ? `at the ${station.antenna.toLowerCase()}`
      : `input of ${station.stageNames[plane]}`

const WAVES = 'watts'

/** Index of the operating point that is set. */
const pointOf = ({ channel, mode }: Settings): number =>
  mode === 'voice' && channel === 0 ? VOICE_POINT : Number(channel)

/** Where the meter is and what it is set to. */
export const meterOfSettings = ({ meter, range }: Settings) => {
  const instrument = Number(meter)
  const { rangesW } = practiceMeters[instrument]!
  const rangeW = rangesW.includes(Number(range)) ? Number(range) : rangesW.at(-1)!
  return { instrument, rangeW, meter: practiceMeters[instrument]! }
}

/** A figure read off the meter as it stands, to go on the spine and into a diagnosis. */
export function noted(
  settings: Settings,
  { forwardW, reflectedW }: { forwardW: number; reflectedW?: number | undefined },
): MeterReading {
  const { instrument, rangeW } = meterOfSettings(settings)
  return {
    point: pointOf(settings),
    plane: Number(settings['plane']),
    instrument,
    forwardW,
    ...(reflectedW !== undefined && { reflectedW }),
    rangeW,
  }
}

/** @param left faults that are still in the station */
export function findBench(drill: FindDrill, left: readonly Fault[] = drill.faults): Simulation {
  const { station } = drill
  const hidden = hiddenOf(drill, left)
  const full = station.channels[0]!.powerW
  const planes = station.chain.stages.length
  const controls = (settings: Settings): Control[] => [
    {
      id: 'channel',
      label: 'Channel',
      kind: 'choice',
      cold: true,
      options: station.channels
        .slice(0, VOICE_POINT)
        .map(({ frequencyHz }, value) => ({ value, label: formatFrequency(frequencyHz) })),
    },
    {
      id: 'mode',
      label: 'Mode',
      kind: 'choice',
      options: [
        { value: 'carrier', label: 'steady carrier' },
        // The channel that people talk on is the first.
        ...(settings['channel'] === 0 ? [{ value: 'voice', label: 'voice' }] : []),
      ],
    },
    {
      id: 'power',
      label: 'Set power',
      kind: 'knob',
      least: full / 10,
      most: full,
      step: full / 10,
      unit: 'W',
    },
    {
      id: 'meter',
      label: 'Meter',
      kind: 'choice',
      cold: true,
      options: practiceMeters.map(({ name, kind }, value) => ({
        value,
        label: `${name}, ${kind === 'peak' ? 'holds peaks' : 'averages'}`,
      })),
    },
    {
      id: 'plane',
      label: 'Meter is put',
      kind: 'choice',
      cold: true,
      options: Array.from({ length: planes + 1 }, (_, value) => ({
        value,
        label: placeName(drill, value),
      })),
    },
    {
      id: 'end',
      label: 'Behind the meter',
      kind: 'choice',
      cold: true,
      options: [
        { value: 'line', label: 'the chain' },
        { value: 'dummy', label: 'dummy load' },
        { value: 'open', label: 'nothing, disconnected' },
      ],
    },
    {
      id: 'range',
      label: 'Range',
      kind: 'choice',
      options: meterOfSettings(settings).meter.rangesW.map((watts) => ({
        value: watts,
        label: `${watts} W`,
      })),
    },
    {
      id: 'way',
      label: 'It reads',
      kind: 'choice',
      options: [
        { value: 'forward', label: 'forward' },
        { value: 'reflected', label: 'reflected' },
      ],
    },
  ]
  return {
    keyed: true,
    start: {
      channel: 0,
      mode: 'carrier',
      power: full,
      meter: 0,
      plane: 0,
      end: 'line',
      range: practiceMeters[0]!.rangesW.find((watts) => watts >= full)!,
      way: 'forward',
    },
    controls,
    faces: (settings) => {
      const { rangeW, meter } = meterOfSettings(settings)
      return [
        {
          id: WAVES,
          label: meter.name,
          unit: 'W',
          full: rangeW,
          divisions: meter.divisions ?? 50,
        },
      ]
    },
    sense(settings, count) {
      const point = pointOf(settings)
      const plane = Number(settings['plane'])
      const powerW = Number(settings['power'])
      const { instrument, rangeW } = meterOfSettings(settings)
      const back = settings['way'] === 'reflected'
      const site = { point, instrument }
      const random = seeded(seedNumber(drill.seed) ^ (count * 0x9e3779b1))
      if (settings['end'] === 'open') {
        const wave = { forwardW: powerW * OPEN_LEAVES, rho: 0.98 }
        const shown = hidden.show(site, wave, random, rangeW)
        return {
          needles: { [WAVES]: back ? shown.reflectedW : shown.forwardW },
          troubles: ['no load'],
        }
      }
      const dummy = settings['end'] === 'dummy' ? plane : undefined
      const wave = hidden.wavesAt(point, powerW, dummy)[plane]!
      const shown = hidden.show(site, wave, random, rangeW)
      return {
        needles: { [WAVES]: back ? shown.reflectedW : shown.forwardW },
        troubles: [],
        ...(dummy !== undefined && { heatW: wave.forwardW }),
      }
    },
    heat: { kPerW: 2.2, timeConstantS: 120, mostC: 150 },
  }
}

/** What a radio's protection lets out into nothing, as a share. */
const OPEN_LEAVES = 0.15
