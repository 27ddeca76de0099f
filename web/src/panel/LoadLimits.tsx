import type { ChainDocument } from '@saltline/contract'
import { decimals, formatPower, keyingTime } from '@saltline/core'
import { MaybeField, PlainField, PowerField, span } from '../ui/quantities.tsx'

/** What an antenna or a dummy load bears, and how long a load may be keyed. */
export function LoadLimits({
  document: { loadAverageW, loadBurst },
  meanW,
  set,
}: {
  document: ChainDocument
  /** What reaches it on average over an over, W. */
  meanW: number | null
  set: (part: Partial<ChainDocument>) => void
}) {
  const keying =
    loadAverageW !== undefined && loadBurst && meanW !== null
      ? keyingTime({ continuousW: loadAverageW, burst: loadBurst }, meanW)
      : null
  const minutes = (value: number) =>
    value < 1 ? `${decimals(value * 60, 0)} s` : `${decimals(value, 0)} min`
  return (
    <div className="space-y-2 rounded border border-rule px-3 py-2">
      <MaybeField
        label="Continuous power is known"
        value={loadAverageW}
        usual={100}
        onChange={(watts) =>
          set({ loadAverageW: watts, ...(watts === undefined && { loadBurst: undefined }) })
        }
      >
        {(watts) => (
          <PowerField
            label="average"
            value={watts}
            onChange={(value) => set({ loadAverageW: value })}
          />
        )}
      </MaybeField>
      {loadAverageW !== undefined && (
        <MaybeField
          label="Intermittent power is known"
          value={loadBurst?.watts}
          usual={loadAverageW * 3}
          onChange={(watts) =>
            set({
              loadBurst:
                watts === undefined ? undefined : { watts, minutes: loadBurst?.minutes ?? 10 },
            })
          }
        >
          {(watts) => (
            <div className="grid grid-cols-2 gap-2">
              <PowerField
                label="average"
                value={watts}
                onChange={(value) => set({ loadBurst: { ...loadBurst!, watts: value } })}
              />
              <PlainField
                label="for"
                unit="min"
                value={loadBurst!.minutes}
                step={1}
                {...span('loadMinutes')}
                onChange={(value) => set({ loadBurst: { ...loadBurst!, minutes: value } })}
              />
            </div>
          )}
        </MaybeField>
      )}
      {keying && meanW !== null && (
        <p role="status" className="text-sm">
          At {formatPower(meanW)} on average:{' '}
          {Number.isFinite(keying.onMinutes)
            ? `key for at most ${minutes(keying.onMinutes)} from cold, then let it cool for ${minutes(keying.coolMinutes)}. It gets hot: do not touch.`
            : 'without a time limit.'}
        </p>
      )}
    </div>
  )
}
