import { formatCapacitance, formatInductance, type TunerState } from '@saltline/core'

/** Where a coil or capacitor of a tuner sits. */
export const elementName = ({ place, part }: TunerState['elements'][number]): string =>
  `${part === 'coil' ? 'Coil' : 'Capacitor'} ${place === 'series' ? 'in line' : 'across'}`

/** What it is set to. */
export const elementValue = ({ part, value }: TunerState['elements'][number]): string =>
  part === 'coil' ? formatInductance(value) : formatCapacitance(value)
