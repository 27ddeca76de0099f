import type { LoadDocument } from '@saltline/contract'
import { formatFrequency, formatImpedance, formatSwr, heatShareOf } from '@saltline/core'
import { Table } from 'lucide-react'
import { ChooseFile } from './ChooseFile.tsx'
import { ChoiceField } from '../ui/ChoiceField.tsx'
import { FigureList } from '../ui/FigureList.tsx'
import { TextField } from '../ui/TextField.tsx'
import { ExposureFigures } from './ExposureFigures.tsx'
import { GainFields } from './GainFields.tsx'
import { LoadLimits } from './LoadLimits.tsx'
import { isLoadKind, type Kind, loadChoices, loadFields, loads } from './loads.tsx'
import type { PanelProps } from './panelProps.ts'

export function AntennaPanel({
  document,
  answer,
  station,
  channel,
  actions,
  onFile,
  onType,
}: PanelProps) {
  const { load } = document
  const set = (next: LoadDocument) => actions.edit((d) => ({ ...d, load: next }))
  const swept = station.antennas.filter((antenna) => antenna.sweeps.length > 0)
  const become = (choice: string) => {
    if (isLoadKind(choice)) {
      const there = answer?.ok ? answer.solution.planes.at(-1)! : null
      const begun = loads[choice].begin({
        hz: channel.frequencyHz,
        impedanceOhm: there?.impedanceOhm ?? null,
        swr: there?.swr ?? null,
      })
      return set({ ...begun, kind: choice, name: load.name } as LoadDocument)
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
  const Fields = loadFields[load.kind as Kind]
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
          ...loadChoices,
        ]}
        onChange={become}
        hint={
          sweep &&
          `${sweep.pointCount} points from ${formatFrequency(sweep.lowHz)} to ${formatFrequency(sweep.highHz)}, at the feed point${sweep.phaseKnown ? '' : '; SWR only, no phase'}`
        }
      />
      {load.kind !== 'antenna' && (
        <Fields load={load} onChange={set} stages={document.stages} hz={channel.frequencyHz} />
      )}
      <LoadLimits
        document={document}
        meanW={answer?.ok ? answer.solution.antennaW * heatShareOf(channel) : null}
        set={(part) => actions.edit((d) => ({ ...d, ...part }))}
      />
      <GainFields
        document={document}
        channel={channel}
        antennaW={answer?.ok ? answer.solution.antennaW : null}
        set={(part) => actions.edit((d) => ({ ...d, ...part }))}
      />
      {answer?.ok && (
        <ExposureFigures
          document={document}
          channel={channel}
          antennaW={answer.solution.antennaW}
        />
      )}
      <ChooseFile onFile={onFile}>Import a sweep (.s1p, .csv)</ChooseFile>
      <button type="button" className="button" onClick={onType}>
        <Table size={14} aria-hidden /> Type or paste a table
      </button>
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
