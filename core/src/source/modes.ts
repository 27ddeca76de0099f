/**
 * What a mode does to power. PEP, mean and carrier power are those of the ITU Radio Regulations,
 * 1.157 to 1.159. The ratios are rules of practice; every channel may carry its own.
 */
export const modeIds = [
  'voice-plain',
  'voice-processed',
  'CW',
  'AM',
  'FM',
  'data',
  'key-down',
  'own',
] as const
export type ModeId = (typeof modeIds)[number]

export interface ModeEntry {
  id: ModeId
  /** As it stands in lists. */
  name: string
  /** As it stands beside a frequency. */
  short: string
  /** Mean power while keyed, over PEP: what an averaging meter shows of it. */
  meanToPeak: number
  /** Share of an over during which power is out. */
  keyDown: number
  /** Where the two ratios come from. */
  source: string
}

/** Modes of emission, each with its ratio of average power to PEP and where that is from. */
export const modeTable: readonly ModeEntry[] = [
  {
    id: 'voice-plain',
    name: 'voice, plain',
    short: 'voice',
    meanToPeak: 0.2,
    keyDown: 1,
    source:
      'Unprocessed single-sideband speech: 20 to 25 % in practice, 20 % in FCC OET Bulletin 65 Supplement B. Pauses between words are in it.',
  },
  {
    id: 'voice-processed',
    name: 'voice, processed',
    short: 'voice, processed',
    meanToPeak: 0.45,
    keyDown: 1,
    source: 'Compressed single-sideband speech: 40 to 50 % in practice.',
  },
  {
    id: 'CW',
    name: 'CW, Morse',
    short: 'CW',
    meanToPeak: 1,
    keyDown: 0.44,
    source: 'The standard word PARIS is keyed for 22 of its 50 units.',
  },
  {
    id: 'AM',
    name: 'AM',
    short: 'AM',
    meanToPeak: 0.27,
    keyDown: 1,
    source:
      'The carrier alone is a quarter of the PEP at full modulation; speech at a third of full modulation adds a little. A full tone would make it 37.5 %.',
  },
  {
    id: 'FM',
    name: 'FM',
    short: 'FM',
    meanToPeak: 1,
    keyDown: 1,
    source: 'The envelope of FM is constant.',
  },
  {
    id: 'data',
    name: 'data, steady',
    short: 'data',
    meanToPeak: 1,
    keyDown: 1,
    source: 'Frequency-shift modes have a constant envelope and no pauses.',
  },
  {
    id: 'key-down',
    name: 'key down, tuning carrier',
    short: 'key down',
    meanToPeak: 1,
    keyDown: 1,
    source: 'A steady carrier.',
  },
  {
    id: 'own',
    name: 'own',
    short: 'own mode',
    meanToPeak: 0.5,
    keyDown: 0.5,
    source: 'Figures of your own: give both.',
  },
]

/**
 * A mode by its identity.
 *
 * @example modeOf('voice-plain').name // 'voice, plain'
 */
export const modeOf = (id: ModeId): ModeEntry => modeTable.find((mode) => mode.id === id)!

/** A channel's mode, with what it overrides of the table. */
export interface Emission {
  mode: ModeId
  meanToPeak?: number | undefined
  keyDown?: number | undefined
}

/**
 * Mean over PEP while keyed, 0 to 1: an averaging meter's share.
 *
 * @example meanToPeakOf({ mode: 'voice-plain' }) // 0.2
 */
export const meanToPeakOf = ({ mode, meanToPeak }: Emission): number =>
  meanToPeak ?? modeOf(mode).meanToPeak

/**
 * Mean over PEP averaged over an over, 0 to 1: what heats a part in the long run.
 *
 * @example heatShareOf({ mode: 'voice-plain', keyDown: 0.5 }) // 0.1
 */
export const heatShareOf = (emission: Emission): number =>
  meanToPeakOf(emission) * (emission.keyDown ?? modeOf(emission.mode).keyDown)
