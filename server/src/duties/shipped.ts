/** The duties that ship: what they ask for, and which chains and stations they fit. */
import type { ChainDocument, DutyBody, Station } from '@saltline/contract'
import { missingFor } from '@saltline/core'

type Asked = Pick<DutyBody, 'title' | 'task' | 'months' | 'afterEvent' | 'note'>

interface Shipped extends Asked {
  name: string
}

interface ForChain extends Shipped {
  fits: (document: ChainDocument) => boolean
}

interface ForStation extends Shipped {
  fits: (station: Station) => boolean
}

/** Not a dummy load alone. */
const hasAntenna = ({ load }: ChainDocument): boolean => load.kind !== 'resistors'

const usual = { months: 12, afterEvent: null, note: '' } as const

export const forChains: readonly ForChain[] = [
  {
    ...usual,
    name: 'yearly',
    title: 'Yearly round of readings',
    task: { kind: 'sheet', sheetId: 'yearly' },
    fits: () => true,
  },
  {
    ...usual,
    name: 'after-storm',
    title: 'Look after a storm',
    task: { kind: 'sheet', sheetId: 'after-storm' },
    months: null,
    afterEvent: 'storm',
    note: 'Not before the storm has passed, and only where the local rules allow it.',
    fits: hasAntenna,
  },
  {
    ...usual,
    name: 'arrester',
    title: 'Arrester and earth: tight, dry, not blackened',
    task: { kind: 'plain' },
    note: 'Not with a thunderstorm near. Work on the earth of the mast belongs to those who are licensed for it.',
    fits: ({ stages }) => stages.some((stage) => stage.kind === 'pad' && stage.part === 'arrester'),
  },
  {
    ...usual,
    name: 'connectors',
    title: 'Connectors outside and their sealing',
    task: { kind: 'plain' },
    note: 'The transmitter off and locked; heights only for those who are trained and secured for it.',
    fits: (document) => hasAntenna(document) && document.stages.some(({ kind }) => kind === 'line'),
  },
  {
    ...usual,
    name: 'tuner',
    title: 'Tuner settings at full power',
    task: { kind: 'sheet', sheetId: 'hand-tuner' },
    fits: (document) => missingFor(document, { needs: ['hand tuner'] }).length === 0,
  },
]

export const forStations: readonly ForStation[] = [
  {
    ...usual,
    name: 'two-meters',
    title: 'One meter against another',
    task: { kind: 'bench', worksheet: 'two-meters' },
    fits: ({ gear }) => gear.filter(({ kind }) => kind === 'instrument').length > 1,
  },
  {
    ...usual,
    name: 'backup',
    title: 'A backup restored on trial, on another machine',
    task: { kind: 'plain' },
    fits: () => true,
  },
]
