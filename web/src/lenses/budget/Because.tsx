import { type ChannelUncertainty, formatPercent, type ToleranceName } from '@saltline/core'

const names: Record<ToleranceName, string> = {
  source: 'the transmitter',
  length: 'the lengths',
  cable: 'the cable data',
  parts: 'the small parts',
  reflection: 'the antenna’s SWR',
}

/** What makes most of the uncertainty of the power at the antenna. */
export function Because({ because }: Pick<ChannelUncertainty, 'because'>) {
  const [first, ...others] = because
  return (
    <p>
      Ranges are 5–95 %.{' '}
      {first && (
        <>
          Most of the uncertainty of the power at the antenna comes from{' '}
          <b className="font-normal text-ink">{names[first.name]}</b> ({formatPercent(first.share)})
          {others
            .slice(0, 2)
            .map(({ name, share }) => `, ${names[name]} (${formatPercent(share)})`)
            .join('')}
          .
        </>
      )}
    </p>
  )
}
