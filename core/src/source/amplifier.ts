/** A power amplifier: drive in, watts out, and what it presents to the exciter. */
import { type Complex, complex } from '../complex.ts'
import type { ModeId } from './modes.ts'
import type { FoldbackPoint, SourceBehaviour } from './transmitter.ts'

/** Input impedance on a stretch of frequencies, Ω. */
export interface InputBand {
  lowHz: number
  highHz: number
  rOhm: number
  xOhm: number
}

export interface AmplifierStage {
  kind: 'amplifier'
  /** At small drive. */
  gainDb: number
  /** Net drive for full output, and that output, PEP. */
  driveW: number
  fullW: number
  /** Most output in modes that it must not run fully in, W PEP. */
  ceilings?: Partial<Record<ModeId, number>> | undefined
  behaviour: SourceBehaviour
  foldback: readonly FoldbackPoint[]
  /** It switches itself off above these, at its output. */
  tripSwr?: number | undefined
  tripReflectedW?: number | undefined
  /** Its input where no band says otherwise. */
  inputOhm: { rOhm: number; xOhm: number }
  inputBands?: readonly InputBand[] | undefined
}

/** How sharply output saturates: Rapp, Effects of HPA-nonlinearity, 1991, on power. */
const KNEE = 3

/** Output at which it saturates: such that `driveW` gives `fullW`. Infinite where it stays linear. */
export function saturatedW({ gainDb, driveW, fullW }: AmplifierStage): number {
  const linear = driveW * 10 ** (gainDb / 10)
  const over = (linear / fullW) ** KNEE - 1
  return over > 1e-9 ? linear / over ** (1 / KNEE) : Infinity
}

/**
 * Output setting for a net drive, W PEP: straight at first, compressed near full output.
 *
 * @example amplifierOutputW(amplifier, 10) // 199
 */
export function amplifierOutputW(stage: AmplifierStage, driveW: number): number {
  const linear = driveW * 10 ** (stage.gainDb / 10)
  return linear / (1 + (linear / saturatedW(stage)) ** KNEE) ** (1 / KNEE)
}

/**
 * Net drive for an output, W; infinite above what it can make.
 *
 * @example driveForW(amplifier, 800) // 50
 */
export function driveForW(stage: AmplifierStage, outputW: number): number {
  const most = saturatedW(stage)
  if (outputW >= most) return Infinity
  const linear = outputW / (1 - (outputW / most) ** KNEE) ** (1 / KNEE)
  return linear / 10 ** (stage.gainDb / 10)
}

/** Most output in a mode, W PEP: never more than full output, whatever a mode's own ceiling says. */
export const ceilingW = ({ fullW, ceilings }: AmplifierStage, mode?: ModeId): number =>
  Math.min(fullW, (mode && ceilings?.[mode]) ?? fullW)

/**
 * What the exciter sees of it.
 *
 * @example inputImpedance(amplifier, 7e6) // { re: 75, im: 0 }
 */
export function inputImpedance(
  { inputOhm, inputBands = [] }: Pick<AmplifierStage, 'inputOhm' | 'inputBands'>,
  frequencyHz: number,
): Complex {
  const { rOhm, xOhm } =
    inputBands.find(({ lowHz, highHz }) => frequencyHz >= lowHz && frequencyHz <= highHz) ??
    inputOhm
  return complex(rOhm, xOhm)
}

/** What an amplifier does in a solved chain. */
export interface AmplifierState {
  /** Net power into it. */
  driveW: number
  /** What it would put out into its reference. */
  outputW: number
  /** Fraction that its own foldback leaves. */
  foldback: number
  ceilingW: number
  /** Drive that gives the ceiling. */
  mostDriveW: number
  /** Whether the drive is more than that. */
  overdriven: boolean
  /** The cures of too much drive, in a solved chain. */
  cure?: { turnDownToW: number; padDb: number | null }
  /** Why it would switch itself off; figures are given as though it held. */
  trips?: { by: 'SWR' | 'reflected power'; value: number; limit: number }
}

/** A little more drive than needed is no fact worth red ink. */
const TOLERANCE = 1.01

/** What an amplifier makes of a drive: its output (W), and whether it is driven too hard, trips or folds back. */
export function amplifierState(
  stage: AmplifierStage,
  at: {
    driveW: number
    mode?: ModeId | undefined
    swr: number
    reflectedW: number
    foldback: number
  },
): AmplifierState {
  const most = ceilingW(stage, at.mode)
  const mostDriveW = driveForW(stage, most)
  const { tripSwr = Infinity, tripReflectedW = Infinity } = stage
  return {
    driveW: at.driveW,
    outputW: amplifierOutputW(stage, at.driveW),
    foldback: at.foldback,
    ceilingW: most,
    mostDriveW,
    overdriven: at.driveW / mostDriveW > TOLERANCE,
    ...(at.swr > tripSwr
      ? { trips: { by: 'SWR' as const, value: at.swr, limit: tripSwr } }
      : at.reflectedW > tripReflectedW
        ? {
            trips: {
              by: 'reflected power' as const,
              value: at.reflectedW,
              limit: tripReflectedW,
            },
          }
        : {}),
  }
}
