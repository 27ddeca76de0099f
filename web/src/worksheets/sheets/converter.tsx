import {
  dbmOfS,
  decimals,
  formatFrequency,
  levelOf,
  type LevelUnit,
  matchOf,
  type MatchUnit,
  significant,
  sUnitsOf,
  formatPower,
} from '@saltline/core'
import { OptionalField } from '../../ui/OptionalField.tsx'
import type { Worksheet } from '../worksheet.ts'

interface Inputs {
  watts: number
  rho: number
  mhz: number
}

const levels: readonly (readonly [LevelUnit, string, string])[] = [
  ['watts', 'Power', 'W'],
  ['dbm', 'dBm', 'dBm'],
  ['dbw', 'dBW', 'dBW'],
  ['rmsV', 'On 50 Ω, RMS', 'V'],
  ['peakV', 'peak', 'V'],
  ['peakToPeakV', 'peak to peak', 'V'],
]
const matches: readonly (readonly [MatchUnit, string, string, number, number])[] = [
  ['swr', 'SWR', '', 1, 1e6],
  ['returnLossDb', 'Return loss', 'dB', 0, 120],
  ['rho', '|ρ|', '', 0, 1],
  ['percent', 'Reflected', '%', 0, 100],
]

const sText = (dbm: number, hz: number): string => {
  const { s, over9Db } = sUnitsOf(dbm, hz)
  return over9Db > 0.5 ? `S9 + ${decimals(over9Db, 0)}\u00a0dB` : `S${decimals(s, 1)}`
}

export const converter: Worksheet<Inputs> = {
  initial: { watts: 100, rho: 0.2, mhz: 14 },
  setup: () => [{ when: '', pieces: ['meter', 'load'] }],
  steps: ['Type into any field: the others follow.'],
  proves: ['Nothing: it converts.'],
  doesNot: ['Volts hold on 50 Ω and matched only.'],
  Fields: ({ inputs, put }) => {
    const level = levelOf(inputs.watts, 'watts')
    const match = matchOf(inputs.rho, 'rho')
    const hz = inputs.mhz * 1e6
    const sUnits = sUnitsOf(level.dbm, hz)
    const putS = (s: number, over9Db: number) =>
      put({ watts: levelOf(dbmOfS(s, over9Db, hz), 'dbm').watts })
    return (
      <div className="space-y-4">
        <div className="grid grid-cols-3 gap-2">
          {levels.map(([unit, label, sign]) => (
            <OptionalField
              key={unit}
              label={label}
              unit={sign}
              value={Number(level[unit].toPrecision(6))}
              min={unit === 'dbm' || unit === 'dbw' ? -250 : 1e-24}
              max={unit === 'dbm' ? 100 : unit === 'dbw' ? 70 : 1e7}
              onChange={(value) => value !== null && put({ watts: levelOf(value, unit).watts })}
            />
          ))}
        </div>
        <div className="grid grid-cols-4 gap-2">
          {matches.map(([unit, label, sign, min, max]) => (
            <OptionalField
              key={unit}
              label={label}
              unit={sign}
              value={Number(Math.min(match[unit], 1e6).toPrecision(6))}
              min={min}
              max={max}
              onChange={(value) => value !== null && put({ rho: matchOf(value, unit).rho })}
            />
          ))}
        </div>
        <div className="grid grid-cols-3 gap-2">
          <OptionalField
            label="A receiver on"
            unit="MHz"
            value={inputs.mhz}
            min={0.01}
            max={6000}
            onChange={(mhz) => mhz !== null && put({ mhz })}
          />
          <OptionalField
            label="shows S"
            value={Number(Math.max(0, sUnits.s).toPrecision(3))}
            min={0}
            max={9}
            onChange={(s) => s !== null && putS(s, 0)}
          />
          <OptionalField
            label="over S9"
            unit="dB"
            value={Number(sUnits.over9Db.toPrecision(4))}
            min={0}
            max={200}
            onChange={(over) => over !== null && putS(9, over)}
          />
        </div>
      </div>
    )
  },
  reduce({ watts, rho, mhz }) {
    const level = levelOf(watts, 'watts')
    const match = matchOf(rho, 'rho')
    const hz = mhz * 1e6
    return {
      answer: `${formatPower(watts)} are ${decimals(level.dbm, 1)}\u00a0dBm and ${significant(level.rmsV, 4)}\u00a0V on 50 Ω.`,
      lead: null,
      rows: [
        ['A receiver on ' + formatFrequency(hz) + ' would show', sText(level.dbm, hz)],
        ['S9 there', `${decimals(dbmOfS(9, 0, hz), 0)}\u00a0dBm`],
        ['One S-unit', '6\u00a0dB'],
        ['Mismatch loss', `${decimals(match.mismatchLossDb, 3)}\u00a0dB`],
        [
          'Delivered to the load',
          `${significant(watts * (1 - rho * rho), 4)}\u00a0W of ${formatPower(watts)}`,
        ],
      ],
      working: [
        'dBm = 10·log₁₀(P / 1 mW); V_RMS = √(P·50 Ω)',
        'SWR = (1 + |ρ|)/(1 − |ρ|); return loss = −20·log₁₀|ρ|; reflected = |ρ|²',
        'S9 is −73 dBm under 30 MHz, −93 dBm above (IARU Region 1, R.1)',
      ],
    }
  },
}
