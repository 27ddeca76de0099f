import { useUnits } from '../../platform/preferences.ts'
import { Scroll } from '../../ui/Scroll.tsx'
import type { ChainDocument } from '@saltline/contract'
import {
  floorPower,
  formatFrequency,
  formatPower,
  type ModeId,
  modeOf,
  type MostPower,
  type PowerUnit,
  type Range,
} from '@saltline/core'
import { wattsText } from '../../model/wattsText.ts'
import { mostModes, partName } from '../../model/headroomWords.ts'
import type { MostByMode } from '../../compute/tasks/most.ts'

const wattsOf = ({ powerW, by }: MostPower, unit: PowerUnit): string =>
  by === null || !Number.isFinite(powerW) ? 'no limit known' : formatPower(floorPower(powerW), unit)

/** The most that may be set, for every channel and mode, and the part that sets it. */
export function MostTable({
  document,
  most,
  rangesOf,
  current,
}: {
  document: ChainDocument
  /** Null until it is worked out. */
  most: MostByMode | null
  /** Of the most power, where ranges are there. */
  rangesOf: (channelId: string, mode: ModeId) => Range | null
  current: string
}) {
  const { power } = useUnits()
  return (
    <Scroll label="Most power by mode">
      <table className="w-full text-right text-sm">
        <thead className="text-muted">
          <tr className="border-b border-rule [&>th]:py-1 [&>th]:pl-2 [&>th]:font-normal">
            <th scope="col" className="!pl-0 text-left">
              channel
            </th>
            {mostModes.map((mode) => (
              <th key={mode} scope="col">
                {modeOf(mode).short}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {document.channels.map((channel) => {
            const row = most?.[channel.id]
            return (
              <tr
                key={channel.id}
                className={`border-b border-rule align-top ${channel.id === current ? 'bg-paper' : ''}`}
              >
                <th scope="row" className="py-1 text-left font-normal">
                  {formatFrequency(channel.frequencyHz)}
                  {row === null && <span className="block text-xs text-muted">no figure</span>}
                </th>
                {mostModes.map((mode) => {
                  const entry = row?.[mode]
                  const range = rangesOf(channel.id, mode)
                  return (
                    <td key={mode} className="py-1 pl-2">
                      {!most && (
                        <span className="block pb-4 text-muted" aria-hidden>
                          …
                        </span>
                      )}
                      {entry && (
                        <>
                          <b className="whitespace-nowrap">{wattsOf(entry, power)}</b>
                          <span className="block text-xs text-muted">
                            {entry.by && partName(document, entry.by.part)}
                          </span>
                          {range && Number.isFinite(entry.powerW) && (
                            <span className="block text-xs text-muted">
                              {wattsText(entry.powerW, power, range)}
                            </span>
                          )}
                        </>
                      )}
                    </td>
                  )
                })}
              </tr>
            )
          })}
        </tbody>
      </table>
    </Scroll>
  )
}
