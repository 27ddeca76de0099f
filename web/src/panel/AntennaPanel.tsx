import type { LoadDocument } from '@saltline/contract'
import { formatFrequency, formatImpedance, formatSwr, heatShareOf } from '@saltline/core'
import { ChooseFile } from '../importing/ChooseFile.tsx'
import { ChoiceField } from '../parts/ChoiceField.tsx'
import { FigureList } from '../parts/FigureList.tsx'
import { OhmField, SwrField } from '../parts/quantities.tsx'
import { TextField } from '../parts/TextField.tsx'
import { BandsFields } from './BandsFields.tsx'
import { LoadLimits } from './LoadLimits.tsx'
import { ResistorFields, ResonatorFields } from './loadFields.tsx'
import type { PanelProps } from './SidePanel.tsx'

export function AntennaPanel({ document, answer, station, channel, actions, onFile }: PanelProps) {
  const { load } = document
  const set = (next: LoadDocument) => actions.edit((d) => ({ ...d, load: next }))
  const swept = station.antennas.filter((antenna) => antenna.sweeps.length > 0)
  const become = (choice: string) => {
    const { name } = load
    if (choice === 'fixed') {
      const z = answer?.ok ? answer.solution.planes.at(-1)!.impedanceOhm : { re: 50, im: 0 }
      const tidy = (ohm: number) => Math.round(ohm * 10) / 10
      return set({ kind: 'fixed', name, rOhm: Math.max(0, tidy(z.re)), xOhm: tidy(z.im) })
    }
    if (choice === 'swr') {
      const swr = answer?.ok ? answer.solution.planes.at(-1)!.swr : 1.5
      return set({
        kind: 'swr',
        name,
        swr: Math.min(1000, Math.max(1, Math.round(swr * 100) / 100)),
      })
    }
    if (choice === 'bands') return set({ kind: 'bands', name, bands: [] })
    if (choice === 'resonator')
      return set({ kind: 'resonator', name, resonanceHz: channel.frequencyHz, rOhm: 50, q: 10 })
    if (choice === 'resistors') {
      const strays = { strayInductanceH: 5e-9, strayCapacitanceF: 2e-12 }
      return set({ kind: 'resistors', name, ohmEach: 500, count: 10, ...strays })
    }
    const antenna = swept.find(({ id }) => id === choice)
    if (antenna)
      set({
        kind: 'antenna',
        name: antenna.name,
        antennaId: antenna.id,
        sweepId: antenna.sweeps[0]!.id,
      })
  }
  const chosen = load.kind === 'antenna' ? load.antennaId : load.kind
  const sweep =
    load.kind === 'antenna'
      ? swept.flatMap(({ sweeps }) => sweeps).find(({ id }) => id === load.sweepId)
      : undefined
  return (
    <div className="space-y-3">
      <TextField label="Name" value={load.name} onChange={(name) => set({ ...load, name })} />
      <ChoiceField
        label="What is known of it"
        value={chosen}
        options={[
          ...swept.map(({ id, name }) => ({ value: id, label: `${name}, a sweep` })),
          { value: 'fixed', label: 'one impedance, R + jX' },
          { value: 'swr', label: 'only an SWR' },
          { value: 'bands', label: 'SWR readings, band by band' },
          { value: 'resonator', label: 'a resonance: frequency, R and Q' },
          { value: 'resistors', label: 'dummy load of resistors' },
        ]}
        onChange={become}
        hint={
          sweep &&
          `${sweep.pointCount} points from ${formatFrequency(sweep.lowHz)} to ${formatFrequency(sweep.highHz)}, at the feed point${sweep.phaseKnown ? '' : '; SWR only, no phase'}`
        }
      />
      {load.kind === 'fixed' && (
        <div className="grid grid-cols-2 gap-2">
          <OhmField
            label="Resistance"
            value={load.rOhm}
            onChange={(rOhm) => set({ ...load, rOhm })}
          />
          <OhmField
            label="Reactance"
            within="reactanceOhm"
            value={load.xOhm}
            onChange={(xOhm) => set({ ...load, xOhm })}
          />
        </div>
      )}
      {load.kind === 'swr' && (
        <SwrField
          label="SWR at the antenna"
          value={load.swr}
          onChange={(swr) => set({ ...load, swr })}
          hint="The phase is not known, so figures that depend on it are given as ranges."
        />
      )}
      {load.kind === 'bands' && <BandsFields load={load} onChange={set} />}
      {load.kind === 'resonator' && <ResonatorFields load={load} onChange={set} />}
      {load.kind === 'resistors' && <ResistorFields load={load} onChange={set} />}
      <LoadLimits
        document={document}
        meanW={answer?.ok ? answer.solution.antennaW * heatShareOf(channel) : null}
        set={(part) => actions.edit((d) => ({ ...d, ...part }))}
      />
      <ChooseFile onFile={onFile}>Import a sweep (.s1p, .csv)</ChooseFile>
      {answer?.ok && (
        <FigureList
          rows={[
            ['SWR here', formatSwr(answer.solution.planes.at(-1)!.swr)],
            ...(answer.spread?.phaseUnknown
              ? []
              : [
                  [
                    'Impedance',
                    formatImpedance(answer.solution.planes.at(-1)!.impedanceOhm),
                  ] as const,
                ]),
          ]}
        />
      )}
    </div>
  )
}
