/** How often each kind is the cause at all. */
export interface Priors {
  none: number
  /** The radio gives another power on every channel, or on one of those that were read. */
  transmitter: number
  transmitterOnChannel: number
  /** A loss that does not belong there, in any of the parts. */
  loss: number
  /** A cable that has aged. */
  aged: number
  /** The antenna has changed, as every channel sees it, or one alone. */
  antenna: number
  antennaOnChannel: number
  /** An instrument is off, or read on another scale. */
  meter: number
  averaging: number
  'common mode': number
  slip: number
}

/** Rules of practice, of the same order for all; they need not add up to 1. */
export const usualPriors: Priors = {
  none: 0.36,
  transmitter: 0.14,
  transmitterOnChannel: 0.06,
  loss: 0.14,
  aged: 0.1,
  antenna: 0.07,
  antennaOnChannel: 0.03,
  meter: 0.05,
  averaging: 0.02,
  'common mode': 0.02,
  slip: 0.03,
}
