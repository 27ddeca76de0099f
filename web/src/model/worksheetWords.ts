import type { WorksheetKind } from '@saltline/contract'

/** What each worksheet of the bench is called, and what it is for in half a line. */
export const worksheetWords: Readonly<Record<WorksheetKind, { title: string; purpose: string }>> = {
  substitution: {
    title: 'Loss by substitution',
    purpose: 'loss of a cable at several frequencies',
  },
  leads: { title: 'Leads compared', purpose: 'a handful of leads, one meter, the odd one' },
  'both-ends': { title: 'Loss from both ends', purpose: 'loss of an installed line, in use' },
  'one-port': {
    title: 'Loss from one end',
    purpose: 'return loss with the far end open and shorted',
  },
  'velocity-factor': {
    title: 'Velocity factor, length, fault',
    purpose: 'from the dips of an open or shorted line',
  },
  'through-line': {
    title: 'Forward and reflected',
    purpose: 'everything that follows from the two',
  },
  'range-choice': { title: 'Element and range', purpose: 'which full scale suits a power' },
  'two-meters': {
    title: 'Two meters compared',
    purpose: 'two meters in one line check each other',
  },
  calibration: {
    title: 'Calibrate a meter or probe',
    purpose: 'against a known one; kept with the instrument',
  },
  probe: { title: 'Peak-detector probe', purpose: 'volts across a load are watts' },
  'am-depth': { title: 'AM modulation depth', purpose: 'from carrier and peak envelope power' },
  'dummy-load': { title: 'Dummy load', purpose: 'SWR, highest frequency, power, time' },
  converter: { title: 'Converter', purpose: 'one figure in every unit' },
}
