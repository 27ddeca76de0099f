import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import { formatPower, heatShareOf, windowAverageW } from '@saltline/core'
import { radiatedOf } from '../model/radiated.ts'
import { useUnits } from '../platform/preferences.ts'
import { FigureList } from '../ui/FigureList.tsx'

/** Windows that exposure rules average over, min. */
const WINDOWS_MIN = [6, 30] as const

/** What an assessment of exposure asks for: average power, over the windows that rules know. No distance follows from it here. */
export function ExposureFigures({
  document,
  channel,
  antennaW,
}: {
  document: ChainDocument
  channel: ChannelDocument
  antennaW: number
}) {
  const { power } = useUnits()
  const averageW = antennaW * heatShareOf(channel)
  const rows = WINDOWS_MIN.map((minutes) => {
    const watts = windowAverageW(averageW, channel.longestOverS, minutes * 60)
    const radiated = radiatedOf(document, channel, watts)
    const text = formatPower(watts, power)
    return [
      `Average over ${minutes} min`,
      radiated ? `${text}, ${radiated.kind} ${formatPower(radiated.watts, power)}` : text,
    ] as const
  })
  return (
    <section
      aria-label="For an exposure assessment"
      className="rounded border border-rule px-3 py-2 text-sm"
    >
      <h3 className="font-bold">For an exposure assessment</h3>
      <FigureList rows={rows} />
      <p className="mt-1 text-xs text-muted">
        At the antenna, on this channel;{' '}
        {channel.longestOverS === undefined
          ? 'transmitting all the time, since the longest transmission is not known (channel panel).'
          : 'transmissions of the longest length, with pauses as long.'}{' '}
        A figure to take to the assessment that your local rules ask for: no safe distance follows
        from it alone.
      </p>
    </section>
  )
}
