import { decimals, formatPower, formatSwr, swrRead } from '@saltline/core'
import { Radio } from 'lucide-react'
import { toast } from 'sonner'
import { type LiveAround, useLiveAgainst } from '../../compute/useLiveAgainst.ts'
import { comparedWords } from '../../model/comparedWords.ts'
import { settingOf } from '../../model/answers.ts'
import { rangeText, wattsText } from '../../model/wattsText.ts'
import { act } from '../../platform/act.ts'
import { readingWords } from '../../model/readingWords.ts'
import { enterReading, orThrow } from '../../platform/outbox/enter.ts'
import { type LiveNow, useLive } from '../../platform/api/live.ts'
import { useKeys } from '../../shell/keys.ts'
import { usePreferences } from '../../platform/preferences.ts'

interface Around extends LiveAround {
  /** The plane that is picked out on the spine. */
  plane: number | null
}

/** Meters that talk: what each shows now against what it should, under the spine; nothing where none talks. */
export function LiveStrip(around: Around) {
  const meters = useLive(around.chainId)
  const { stages } = around.document
  const here = meters.filter(({ latest }) => latest.plane <= stages.length)
  if (here.length === 0) return null
  const first = here.find(({ latest }) => latest.plane === around.plane) ?? here[0]!
  return (
    <section aria-label="Live meters" className="border-t border-rule px-4 py-1.5">
      <ul className="flex flex-wrap gap-x-8 gap-y-1.5">
        {here.map((meter) => (
          <Meter key={meter.latest.plane} {...around} meter={meter} first={meter === first} />
        ))}
      </ul>
    </section>
  )
}

function Meter({ meter, first, ...around }: Around & { meter: LiveNow; first: boolean }) {
  const { chainId, document, channel } = around
  const { latest, lost, silentS, trend } = meter
  const { power, by } = usePreferences()
  const { place, instrument, expected, compared, outside } = useLiveAgainst(around, meter)
  const swr = swrRead(latest)
  const keep = () =>
    act(async () => {
      const body = {
        channelId: channel.id,
        frequencyHz: channel.frequencyHz,
        mode: channel.mode,
        ...(channel.meanToPeak && { meanToPeak: channel.meanToPeak }),
        powerW: settingOf(document.transmitter, channel),
        before: place.before,
        forwardW: latest.forwardW,
        ...(latest.reflectedW !== undefined && { reflectedW: latest.reflectedW }),
        ...(latest.reflectedW === undefined && latest.swr !== undefined && { swr: latest.swr }),
        ...(latest.supplyV !== undefined && { supplyV: latest.supplyV }),
        ...(instrument && { instrumentId: instrument.id }),
        by,
        note: 'live meter',
        readAt: latest.at ?? latest.seenAt,
      }
      const said = readingWords(body, place.name, power)
      const { reading } = await orThrow(enterReading(chainId, body, said))
      return { said: `${reading ? 'Saved' : 'Waits to be sent'}: ${said}.` }
    })
  const orSay = () =>
    lost
      ? toast(`Nothing kept: no signal from ${place.name} for ${Math.floor(silentS)} s.`)
      : void keep()
  useKeys(first ? { r: orSay } : {})
  return (
    <li aria-label={`Live ${place.name}`} className="flex items-center gap-3">
      <Radio size={16} className={`shrink-0 ${lost ? 'text-muted' : 'text-tide'}`} aria-hidden />
      <span>
        <span className="block text-xs text-muted">{place.name}</span>
        <b className={`text-lg tabular-nums ${lost ? 'text-muted' : ''}`}>
          {formatPower(latest.forwardW, power)}
        </b>
        {swr !== null && (
          <span className="text-sm whitespace-nowrap text-muted"> SWR {formatSwr(swr)}</span>
        )}
      </span>
      <Trend trend={trend} range={expected?.wattsRange} />
      <span role="status" className="text-sm">
        {lost ? (
          <span className="text-caution">▲ no signal for {Math.floor(silentS)} s</span>
        ) : compared && expected ? (
          <>
            <span className={outside ? 'text-danger' : ''}>
              {outside ? '▲' : '✓'} {compared.db < 0 ? '−' : '+'}
              {decimals(Math.abs(compared.db), 1)} dB:{' '}
              {outside === 'SWR'
                ? `SWR outside ${rangeText(expected.swr, expected.swrRange, formatSwr)}`
                : outside === 'forward'
                  ? comparedWords[compared.is]
                  : comparedWords.inside}
            </span>
            <span className="block text-xs text-muted">
              expected {wattsText(expected.watts, power, expected.wattsRange)}
            </span>
          </>
        ) : (
          <span className="text-muted">nothing to compare it with</span>
        )}
      </span>
      <button
        type="button"
        className="button shrink-0 max-sm:min-h-10"
        disabled={lost}
        onClick={() => void keep()}
      >
        Keep
        {first && <kbd aria-hidden>r</kbd>}
      </button>
    </li>
  )
}

const WIDTH = 110
const HEIGHT = 30

/** The last minutes, with what is expected as a band. */
function Trend({
  trend,
  range,
}: {
  trend: LiveNow['trend']
  range: { low: number; high: number } | undefined
}) {
  const watts = trend.map(([, w]) => w)
  const top = Math.max(1e-3, range?.high ?? 0, ...watts) * 1.1
  const y = (w: number) => HEIGHT - (w / top) * HEIGHT
  const x = (ago: number) => WIDTH - (Math.min(300, ago) / 300) * WIDTH
  const points = trend.map(([ago, w]) => `${x(ago).toFixed(1)},${y(w).toFixed(1)}`).join(' ')
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      role="img"
      aria-label={`Last five minutes, ${formatPower(Math.min(...watts))} to ${formatPower(Math.max(...watts))}`}
      className="border-b border-edge max-sm:hidden"
    >
      {range && (
        <rect
          width={WIDTH}
          y={y(range.high)}
          height={Math.max(1, y(range.low) - y(range.high))}
          fill="var(--tide-fill)"
        />
      )}
      <polyline points={points} fill="none" stroke="var(--ink)" strokeWidth={1.4} />
    </svg>
  )
}
