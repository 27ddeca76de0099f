/** Where the formulas of the workings stand. */
export const POZAR = 'Pozar, Microwave Engineering, ch. 2 and 4'
export const SKIN =
  'Ramo, Whinnery & Van Duzer, Fields and Waves in Communication Electronics: skin effect'
export const CHIPMAN = 'Chipman, Transmission Lines'
export const RAPP = 'C. Rapp, Effects of HPA-nonlinearity on a 4-DPSK/OFDM signal, 1991'
