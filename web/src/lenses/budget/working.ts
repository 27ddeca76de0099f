/** How a figure came about: formula, numbers put in, source, assumptions. */
import type { ChainDocument, StageDocument } from '@saltline/contract'
import {
  type Answer,
  attenuationDbPer100m,
  bothSchools,
  type Chain,
  conductorDbPer100m,
  decimals,
  dielectricDbPer100m,
  foldbackAt,
  formatAmpere,
  formatDb,
  formatFrequency,
  formatImpedance,
  formatPercent,
  formatPower,
  formatSwr,
  formatVolt,
  isExtrapolated,
  ledgerOf,
  magnitude,
  type OperatingPoint,
  padLossDb,
  REFERENCE_OHM,
  type Solution,
  textbookLineLossDb,
} from '@saltline/core'
import { wattsText } from '../../parts/wattsText.ts'
import { amplifierSteps, measuredSteps, tunerSteps } from './activeWorking.ts'
import { CHIPMAN, POZAR, SKIN } from './sources.ts'

export interface WorkingStep {
  what: string
  /** The formula with its numbers. */
  sum: string
  result: string
}

export interface Working {
  title: string
  steps: WorkingStep[]
  /** What is assumed, approximated or typical. */
  remarks: string[]
  sources: string[]
}

/** Working of one row of the ledger: a stage, or −1 for the transmitter. */
export function workingOf(document: ChainDocument, solution: Solution, row: number): Working {
  return row < 0
    ? transmitterWorking(document, solution)
    : stageWorking(document.stages[row]!, solution, row)
}

function transmitterWorking({ transmitter }: ChainDocument, solution: Solution): Working {
  const plane = solution.planes[0]!
  const rho = magnitude(plane.reflection)
  const { foldbackW, reflectedW } = ledgerOf(solution).heldBack
  const levelled = transmitter.behaviour === 'levelled'
  return {
    title: `${transmitter.name} holds back`,
    steps: [
      {
        what: 'SWR it sees, on 50 Ω',
        sum: `(1 + |ρ|)/(1 − |ρ|) with |ρ| = ${decimals(rho, 3)}`,
        result: formatSwr(plane.swr),
      },
      {
        what: 'Foldback at that SWR',
        sum: 'straight line between the points of its curve',
        result: formatPercent(foldbackAt(transmitter.foldback, plane.swr)),
      },
      {
        what: 'Held back by foldback',
        sum: `${formatPower(solution.settingW)} · (1 − ${decimals(solution.foldback, 3)})`,
        result: formatPower(foldbackW),
      },
      levelled
        ? {
            what: 'Sent forward but returned, so not delivered',
            sum: `${formatPower(plane.forwardW)} · |ρ|²`,
            result: formatPower(reflectedW),
          }
        : {
            what: 'Peaked output: what is left goes in as net power',
            sum: 'nothing is returned',
            result: formatPower(0),
          },
      {
        what: 'Leaves the radio',
        sum: levelled ? 'forward − reflected' : 'setting · foldback',
        result: formatPower(solution.transmitterNetW),
      },
    ],
    remarks: [
      levelled
        ? 'Levelled: the set holds its forward power on 50 Ω, as most solid-state sets do.'
        : 'Peaked: the output network has been retuned for this load.',
      'The foldback curve belongs to this transmitter; press it on the spine to edit.',
    ],
    sources: [POZAR],
  }
}

function stageWorking(stage: StageDocument, solution: Solution, k: number): Working {
  const before = solution.planes[k]!
  const after = solution.planes[k + 1]!
  const state = solution.stages[k]!
  const own = ownSteps(stage, solution, k)
  return {
    title: stage.name,
    steps: [
      ...own.steps,
      {
        what: 'Loss in this place: net power in less net power out',
        sum: `10·log₁₀(${decimals(before.netW, 2)} / ${decimals(after.netW, 2)})`,
        result: formatDb(state.lossDb),
      },
      {
        what: 'Watts it takes',
        sum: `${decimals(before.netW, 2)} − ${decimals(after.netW, 2)}`,
        result: formatPower(state.lossW),
      },
    ],
    remarks: own.remarks,
    sources: own.sources,
  }
}

function ownSteps(stage: StageDocument, solution: Solution, k: number): Steps {
  if (stage.bypassed) return { steps: [], remarks: ['Bypassed: it takes nothing.'], sources: [] }
  const own = steps[stage.kind] as (stage: StageDocument, s: Solution, k: number) => Steps
  return own(stage, solution, k)
}

type Steps = Omit<Working, 'title'>

/** How the loss of every kind of stage is worked out. */
const steps: {
  [K in StageDocument['kind']]: (
    stage: Extract<StageDocument, { kind: K }>,
    solution: Solution,
    k: number,
  ) => Steps
} = {
  line: lineSteps,
  pad: padSteps,
  series: partSteps,
  shunt: partSteps,
  measured: measuredSteps,
  tuner: (stage, solution, k) => tunerSteps(stage, solution.stages[k]!.tuner!),
  amplifier: amplifierSteps,
}

function padSteps(
  stage: Extract<StageDocument, { kind: 'pad' }>,
  { frequencyHz: hz }: Solution,
): Steps {
  return {
    steps: [
      {
        what: `Insertion loss at ${formatFrequency(hz)}`,
        sum: stage.points
          ? 'from its points, straight between them on logarithmic axes'
          : stage.atHz
            ? `${formatDb(stage.lossDb)} · √(f / ${formatFrequency(stage.atHz)})`
            : 'as entered, the same at every frequency',
        result: formatDb(padLossDb(stage, hz)),
      },
    ],
    remarks: [
      `Taken as a matched two-port on ${REFERENCE_OHM} Ω. Between mismatched ends it takes more than its insertion loss, since the returning wave pays too.`,
    ],
    sources: [POZAR],
  }
}

/** A part in line or across it. */
function partSteps(
  stage: Extract<StageDocument, { kind: 'series' | 'shunt' }>,
  solution: Solution,
  k: number,
): Steps {
  const after = solution.planes[k + 1]!
  const series = stage.kind === 'series'
  return {
    steps: [
      {
        what: series ? 'Current through it, RMS' : 'Voltage across it, RMS',
        sum: series ? '|I| at its plane' : '|V| at its plane',
        result: series ? formatAmpere(after.currentRms) : formatVolt(after.voltageRms),
      },
      {
        what: 'Its heat',
        sum: series ? '|I|²·R' : '|V|²·R / (R² + X²)',
        result: formatPower(solution.stages[k]!.lossW),
      },
    ],
    remarks: [],
    sources: [POZAR],
  }
}

function lineSteps(
  { cable, lengthM }: Extract<StageDocument, { kind: 'line' }>,
  solution: Solution,
  k: number,
): Omit<Working, 'title'> {
  const hz = solution.frequencyHz
  const line = solution.stages[k]!.line!
  const after = solution.planes[k + 1]!
  const rho = magnitude(after.reflection)
  const matched = line.matchedLossDb
  const exact = solution.stages[k]!.lossDb
  return {
    steps: [
      {
        what: `Attenuation at ${formatFrequency(hz)}`,
        sum: `k₁√f + k₂f = ${decimals(conductorDbPer100m(cable, hz), 3)} + ${decimals(dielectricDbPer100m(cable, hz), 3)}`,
        result: `${decimals(attenuationDbPer100m(cable, hz), 3)} dB/100 m`,
      },
      {
        what: 'Matched loss of this length',
        sum: `Re γ · ${decimals(lengthM, 2)} m, γ = √((R + jωL)(G + jωC))`,
        result: formatDb(matched),
      },
      {
        what: 'Added by the standing wave',
        sum: `exact loss ${formatDb(exact)} − matched`,
        result: formatDb(exact - matched),
      },
      {
        what: 'For comparison, the textbook formula (takes Z₀ as real)',
        sum: `10·log₁₀((a² − |ρ|²)/(a(1 − |ρ|²))), |ρ| = ${decimals(rho, 3)}`,
        result: rho < 1 ? formatDb(textbookLineLossDb(matched, rho)) : '–',
      },
    ],
    remarks: [
      `${cable.name}: ${cable.gearId ? 'values typical of its class, not of any one make' : 'values as entered'}.`,
      'The circuit is solved exactly with a complex Zc; on thin cable at low frequency that differs from the textbook figure.',
      ...(isExtrapolated(cable, hz)
        ? ['Extrapolated: this frequency lies outside what the cable’s data covers.']
        : []),
    ],
    sources: [POZAR, SKIN, CHIPMAN],
  }
}

/** Working of the whole: what arrives and how. */
export function totalWorking({ solution, spread }: Answer): Working {
  const ledger = ledgerOf(solution)
  const last = solution.planes.at(-1)!
  return {
    title: 'From setting to antenna',
    steps: [
      {
        what: 'Set power, PEP',
        sum: 'the channel’s setting',
        result: formatPower(solution.settingW),
      },
      {
        what: 'Leaves the radio',
        sum: `− ${formatPower(ledger.settingW - solution.transmitterNetW)} held back`,
        result: formatPower(solution.transmitterNetW),
      },
      {
        what: 'Lost in the chain',
        sum:
          ledger.addedW > 0
            ? 'sum of the stages that take'
            : `sum of the stages, ${formatDb(solution.chainLossDb)}`,
        result: formatPower(ledger.takenW - (ledger.settingW - solution.transmitterNetW)),
      },
      ...(ledger.addedW > 0
        ? [
            {
              what: 'Added by the amplifier',
              sum: 'what it puts out less what drives it',
              result: formatPower(ledger.addedW),
            },
          ]
        : []),
      {
        what: 'At the antenna',
        sum: spread?.phaseUnknown
          ? 'Re(V·I*)'
          : `Re(V·I*) at ${formatImpedance(last.impedanceOhm)}`,
        result: formatPower(solution.antennaW),
      },
      {
        what: 'Down from the setting',
        sum: `10·log₁₀(${decimals(solution.settingW, 1)} / ${decimals(solution.antennaW, 2)})`,
        result: formatDb(ledger.lossDb),
      },
    ],
    remarks: [
      'All powers are peak envelope power. The rows of the ledger add up to the set power.',
      ...(spread
        ? [
            'Only the antenna’s SWR is known, not its phase. The steps above are for the phase whose antenna power lies in the middle of its range; figures that depend on the phase are given as ranges over all phases.',
          ]
        : []),
      'One S-unit is taken as 6 dB (IARU Region 1 R.1).',
    ],
    sources: [POZAR],
  }
}

export interface SchoolAnswer {
  school: string
  claim: string
  /** Watts at the antenna and how far down that is; ranges where the phase is not known. */
  watts: string
  down: string
}

/** Is reflected power lost? Both answers, and this chain as it stands. */
export function schoolsOf(chain: Chain, at: OperatingPoint): SchoolAnswer[] {
  const { lost, resent, asItStands } = bothSchools(chain, at)
  const row = (school: string, claim: string, { solution, spread }: Answer): SchoolAnswer => ({
    school,
    claim,
    watts: wattsText(solution.antennaW, 'W', spread?.antennaW),
    down: formatDb(ledgerOf(solution).lossDb),
  })
  return [
    row(
      'It is lost',
      'A source held on 50 Ω delivers forward − reflected: mismatch loss is real.',
      lost,
    ),
    row(
      'It is sent again',
      'With a retuned output or a tuner all net power goes in: only extra line loss counts.',
      resent,
    ),
    row(
      'As it stands',
      `This transmitter: ${chain.transmitter.behaviour}${chain.transmitter.foldback.length > 0 ? ', with its foldback' : ''}.`,
      asItStands,
    ),
  ]
}
