/** How a figure came about: formula, numbers put in, source, assumptions. */
import { behaviourText } from '../../model/behaviourText.ts'
import type { ChainDocument, StageDocument } from '@saltline/contract'
import {
  type Answer,
  bothSchools,
  type Chain,
  decimals,
  foldbackAt,
  formatDb,
  formatImpedance,
  formatPercent,
  formatPower,
  formatSwr,
  ledgerOf,
  magnitude,
  type OperatingPoint,
  type Solution,
} from '@saltline/core'
import { wattsText } from '../../model/wattsText.ts'
import { kindOf } from '../../model/stages/index.ts'
import { POZAR } from '../../model/sources.ts'
import type { Steps, Working } from '../../model/working.ts'

/** Working of one row of the ledger: a stage, or −1 for the transmitter. */
export function workingOf(
  document: ChainDocument,
  solution: Solution,
  row: number,
  spread: Answer['spread'] = null,
): Working {
  const working =
    row < 0
      ? transmitterWorking(document, solution)
      : stageWorking(document.stages[row]!, solution, row)
  return spread?.phaseUnknown ? { ...working, remarks: [ONE_PHASE, ...working.remarks] } : working
}

const ONE_PHASE =
  'Only the antenna’s SWR is known, not its phase. The steps are for the phase whose antenna power lies in the middle of its range; figures that depend on the phase are given as ranges over all phases.'

function transmitterWorking({ transmitter }: ChainDocument, solution: Solution): Working {
  const plane = solution.planes[0]!
  const rho = magnitude(plane.reflection)
  const { foldbackW, reflectedW } = ledgerOf(solution).heldBack
  const levelled = transmitter.behaviour === 'levelled'
  return {
    title: `Not delivered by ${transmitter.name}`,
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
        what: 'Not delivered: foldback',
        sum: `${formatPower(solution.settingW)} · (1 − ${decimals(solution.foldback, 3)})`,
        result: formatPower(foldbackW),
      },
      levelled
        ? {
            what: 'Not delivered: reflected',
            sum: `${formatPower(plane.forwardW)} · |ρ|²`,
            result: formatPower(reflectedW),
          }
        : {
            what: 'Tuned output: the rest is delivered as net power',
            sum: 'nothing is returned',
            result: formatPower(0),
          },
      {
        what: 'Delivered by the transmitter',
        sum: levelled ? 'forward − reflected' : 'setting · foldback',
        result: formatPower(solution.transmitterNetW),
      },
    ],
    remarks: [
      levelled
        ? 'Constant forward power: the transmitter holds its forward power on 50 Ω, as most solid-state ones do.'
        : 'Tuned output: the output network has been retuned for this load.',
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
        what: 'Power lost in it',
        sum: `${decimals(before.netW, 2)} − ${decimals(after.netW, 2)}`,
        result: formatPower(state.lossW),
      },
    ],
    remarks: own.remarks,
    sources: own.sources,
  }
}

function ownSteps(stage: StageDocument, solution: Solution, k: number): Steps {
  if (stage.bypassed) return { steps: [], remarks: ['Bypassed: no loss.'], sources: [] }
  return kindOf(stage).steps(stage, solution, k)
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
        what: 'Delivered by the transmitter',
        sum: `− ${formatPower(ledger.settingW - solution.transmitterNetW)} not delivered`,
        result: formatPower(solution.transmitterNetW),
      },
      {
        what: 'Lost in the chain',
        sum:
          ledger.addedW > 0
            ? 'sum of the stages with loss'
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
      ...(spread ? [ONE_PHASE] : []),
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
      `This transmitter: ${behaviourText[chain.transmitter.behaviour]}${chain.transmitter.foldback.length > 0 ? ', with its foldback' : ''}.`,
      asItStands,
    ),
  ]
}
