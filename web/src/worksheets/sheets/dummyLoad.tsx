import {
  ALUMINIUM_J_PER_G_K,
  type BuiltLoadResult,
  builtLoad,
  closedBox,
  decimals,
  formatFrequency,
  formatPercent,
  formatPower,
  formatSwr,
  formatVolt,
  heatPath,
  type HeatPathResult,
  InputError,
  keyingTime,
  significant,
  swrOf,
} from '@saltline/core'
import { useState } from 'react'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { runTask } from '../../compute/runner.ts'
import { errorText } from '../../platform/errorText.ts'
import { type FieldsProps, leadOf, type Worksheet } from '../worksheet.ts'

const fields = [
  ['count', 'Resistors in parallel', '', 1, 1000],
  ['ohmEach', 'Each of', 'Ω', 0.1, 1e6],
  ['wattsEach', 'Continuous rating of each', 'W', 0.01, 1e4],
  ['measuredOhm', 'Ohmmeter shows', 'Ω', 0.1, 1e6],
  ['strayNh', 'Stray inductance', 'nH', 0, 1e5],
  ['strayPf', 'Stray capacitance', 'pF', 0, 1e5],
  ['burstW', 'Intermittent rating', 'W', 0, 1e6],
  ['burstMin', 'namely', 'min', 0, 600],
  ['meanW', 'Wanted, average', 'W', 0, 1e6],
  ['swrLimit', 'Good up to an SWR of', '', 1.01, 10],
] as const

/** How the heat gets out; left empty, the printed rating is believed. */
const heatFields = [
  ['maxC', 'Hottest inside a resistor', '°C', 60, 400],
  ['ambientC', 'Ambient', '°C', -40, 60],
  ['junctionCase', 'Inside to case, each', 'K/W', 0.01, 100],
  ['caseSink', 'Case to sink, each', 'K/W', 0, 50],
  ['sinkAir', 'Sink to air', 'K/W', 0.01, 100],
  ['boxCm2', 'or surface of a closed box', 'cm²', 10, 1e5],
  ['sinkG', 'Aluminium of the sink', 'g', 1, 1e5],
] as const

type Inputs = Record<(typeof fields | typeof heatFields)[number][0], number | null> & {
  /** A sweep of the real one, [MHz, SWR]; empty where there is none. */
  swept: (readonly [number, number])[]
}

/** Points that are kept of an imported sweep. */
const MOST_POINTS = 400

export const dummyLoad: Worksheet<Inputs> = {
  initial: {
    count: 12,
    ohmEach: 600,
    wattsEach: 5,
    measuredOhm: null,
    strayNh: 12,
    strayPf: 4,
    burstW: null,
    burstMin: 5,
    meanW: 50,
    swrLimit: 1.5,
    maxC: 155,
    ambientC: 25,
    junctionCase: null,
    caseSink: null,
    sinkAir: null,
    boxCm2: null,
    sinkG: null,
    swept: [],
  },
  setup: () => [
    { when: 'first', pieces: ['ohmmeter', 'load'] },
    { when: 'then', pieces: ['analyser', 'short lead', 'load'] },
  ],
  steps: [
    'Ohmmeter first: N equal resistors must show one Nth.',
    'Sweep it, or estimate the inductance of its leads: about 1 nH per millimetre.',
    'Enter the power wanted: the sheet says for how long.',
  ],
  caution: 'It gets hot enough to burn, oil included. Ventilate, and let it cool.',
  proves: ['Up to which frequency it may stand for an antenna when one measures.'],
  doesNot: ['That it stays so when it is hot: resistors drift. Measure again warm.'],
  Fields,
  reduce(i) {
    const { count, ohmEach, wattsEach } = i
    if (!count || !ohmEach || !wattsEach)
      throw new InputError('Give number, resistance and power of the resistors.', ['count'])
    const limit = i.swrLimit ?? 1.5
    const r = builtLoad(
      {
        count,
        ohmEach,
        wattsEach,
        measuredOhm: i.measuredOhm ?? undefined,
        strayInductanceH: (i.strayNh ?? 0) * 1e-9,
        strayCapacitanceF: (i.strayPf ?? 0) * 1e-12,
      },
      limit,
    )
    const heat = heatOf(i)
    const watts = heat ? heat.continuousW : r.watts
    const usable = i.swept.length > 0 ? usableOfSweep(i.swept, limit) : r.usableToHz
    const burst =
      i.burstW && i.burstMin ? { watts: i.burstW, minutes: i.burstMin } : { watts, minutes: 0 }
    const { onMinutes } = keyingTime({ continuousW: watts, burst }, i.meanW ?? 0)
    const upTo =
      usable === null
        ? 'nowhere'
        : usable === Infinity
          ? 'every frequency'
          : `${significant(usable / 1e6, 3)}\u00a0MHz`
    return {
      answer: `Good up to ${upTo} (SWR ${formatSwr(limit)}), ${formatPower(watts)} continuous${heat?.limitedBy === 'heat' ? `, not the ${formatPower(heat.printedW)} that are printed on it` : ''}.`,
      lead:
        usable !== null && Number.isFinite(usable)
          ? leadOf('usable to', 'MHz', {
              value: usable / 1e6,
              low: usable / 1e6,
              high: usable / 1e6,
            })
          : null,
      rows: [
        ['Resistance', `${decimals(r.ohm, 1)}\u00a0Ω`],
        ...(r.offShare === null
          ? []
          : ([
              [
                'Ohmmeter over resistors',
                `${r.offShare < 0 ? '−' : '+'}${formatPercent(Math.abs(r.offShare))}`,
              ],
            ] as const)),
        ['SWR at DC', formatSwr(r.swrAtDc)],
        ...[30e6, 145e6, 435e6].map(
          (hz) => [`SWR on ${formatFrequency(hz)}, calculated`, formatSwr(r.swrAt(hz))] as const,
        ),
        ['Usable up to', i.swept.length > 0 ? `${upTo}, by the sweep` : `${upTo}, calculated`],
        ['Continuous', `${formatPower(watts)}, ${formatVolt(Math.sqrt(watts * r.ohm))}`],
        ...heatRows(i, heat),
        [
          `${formatPower(i.meanW ?? 0)} for`,
          onMinutes === Infinity
            ? 'no time limit'
            : onMinutes > 0
              ? `${decimals(onMinutes, 1)} min`
              : 'not at all',
        ],
      ],
      working: [
        `R = ${decimals(ohmEach, 0)} / ${count} = ${decimals(ohmEach / count, 2)}\u00a0Ω`,
        `P = ${count} · ${formatPower(wattsEach)} = ${formatPower(r.watts)}`,
        'Z = (R + jωL) with C across it; the SWR follows from Z on 50 Ω',
      ],
      chart: chartOf(r, i.swept, usable),
      ...(r.offShare !== null && Math.abs(r.offShare) > 0.05
        ? {
            mind: 'The ohmmeter disagrees with the resistors by more than 5 %: is one of them burnt?',
          }
        : {}),
    }
  },
}

/** What the heat path lets through; null where it is not described. */
function heatOf(i: Inputs): HeatPathResult | null {
  const sinkAir = i.sinkAir ?? (i.boxCm2 ? closedBox(i.boxCm2) : null)
  if (!i.count || !i.wattsEach || sinkAir === null || i.maxC === null || i.ambientC === null)
    return null
  return heatPath({
    count: i.count,
    wattsEach: i.wattsEach,
    maxC: i.maxC,
    ambientC: i.ambientC,
    junctionCase: i.junctionCase ?? 0,
    caseSink: i.caseSink ?? 0,
    sinkAir,
    capacity: i.sinkG ? i.sinkG * ALUMINIUM_J_PER_G_K : undefined,
  })
}

/** Temperatures at the power wanted: for ever, and after minutes where the sink's weight is known. */
function heatRows(i: Inputs, heat: HeatPathResult | null): [string, string][] {
  if (!heat) return []
  const at = (minutes?: number) =>
    `${decimals(heat.temperatureC(i.meanW ?? 0, minutes), 0)}\u00a0°C`
  const tau = heat.timeConstantS
  return [
    ['Printed on the resistors', formatPower(heat.printedW)],
    [`${formatPower(i.meanW ?? 0)} for ever: inside`, at()],
    ...(tau === null
      ? []
      : ([
          ['Time constant of the sink', `${decimals(tau / 60, 1)} min`],
          ...[1, 5, 15].map((minutes) => [`after ${minutes} min`, at(minutes)] as [string, string]),
        ] as [string, string][])),
    ...(i.sinkAir === null && i.boxCm2
      ? ([['Closed box to still air', `${decimals(closedBox(i.boxCm2), 2)}\u00a0K/W, typical`]] as [
          string,
          string,
        ][])
      : []),
  ]
}

function usableOfSweep(swept: Inputs['swept'], limit: number): number | null {
  const first = swept.findIndex(([, swr]) => swr > limit)
  if (first === 0) return null
  return (first < 0 ? swept.at(-1)! : swept[first - 1]!)[0] * 1e6
}

function chartOf(r: BuiltLoadResult, swept: Inputs['swept'], usable: number | null) {
  const top = Math.min(
    2000,
    Math.max(100, ((usable ?? 100e6) / 1e6) * 1.6 || 100, swept.at(-1)?.[0] ?? 0),
  )
  const mhz = Array.from({ length: 81 }, (_, k) => Math.max(0.1, (top * k) / 80))
  return swept.length > 0
    ? {
        x: swept.map(([f]) => f),
        unit: 'MHz' as const,
        values: swept.map(([, swr]) => Math.min(swr, 5)),
        name: 'SWR, swept',
      }
    : {
        x: mhz,
        unit: 'MHz' as const,
        values: mhz.map((f) => Math.min(5, r.swrAt(f * 1e6))),
        name: 'SWR, calculated',
      }
}

function Fields({ inputs, put }: FieldsProps<Inputs>) {
  const [problem, setProblem] = useState<string | null>(null)
  const read = async (file: File | undefined) => {
    if (!file) return
    const found = await runTask('sweepFile', { file }).catch(errorText)
    if (typeof found === 'string') return setProblem(found)
    if (found.kind !== 'sweep') return setProblem('This is no one-port sweep: give an .s1p file.')
    const { frequencyHz, re, im } = found.sweep
    const step = Math.ceil(frequencyHz.length / MOST_POINTS)
    const swept: [number, number][] = []
    for (let k = 0; k < frequencyHz.length; k += step)
      swept.push([frequencyHz[k]! / 1e6, swrOf(Math.min(0.999, Math.hypot(re[k]!, im[k]!)))])
    put({ swept })
    setProblem(null)
  }
  return (
    <div className="space-y-2.5">
      <div className="grid grid-cols-2 gap-2">
        {fields.map(([key, label, unit, min, max]) => (
          <OptionalField
            key={key}
            label={label}
            value={inputs[key]}
            onChange={(value) => put({ [key]: value })}
            unit={unit}
            min={min}
            max={max}
          />
        ))}
      </div>
      <fieldset className="grid min-w-0 grid-cols-2 gap-2">
        <legend className="mb-1 text-sm text-muted">
          How its heat gets out, where it is known
        </legend>
        {heatFields.map(([key, label, unit, min, max]) => (
          <OptionalField
            key={key}
            label={label}
            value={inputs[key] ?? null}
            onChange={(value) => put({ [key]: value })}
            unit={unit}
            min={min}
            max={max}
          />
        ))}
      </fieldset>
      <label className="block text-xs text-muted">
        A sweep of the real one, .s1p
        <input
          type="file"
          accept=".s1p,.S1P"
          className="file-input mt-0.5"
          onChange={({ target }) => void read(target.files?.[0])}
        />
      </label>
      {inputs.swept.length > 0 && (
        <button type="button" className="link text-sm" onClick={() => put({ swept: [] })}>
          remove the sweep, use the calculation
        </button>
      )}
      {problem && <p className="text-sm text-danger">⚠ {problem}</p>}
    </div>
  )
}
