import { useEffect, useMemo, useRef, useState } from 'react'
import { useLocation, useNavigationType, useSearchParams } from 'react-router'
import { Page } from '../../shell/Page.tsx'
import { CableField } from '../../panel/CableField.tsx'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { FrequencyField, LengthField, LevelField, SwrField } from '../../ui/quantities.tsx'
import { quickChain, type QuickSum, readQuickSum, writeQuickSum } from './quickSum.ts'
import { Answer } from './QuickAnswer.tsx'

/** One question, five figures, the answer at once. The address is the question. */
export function QuickPage() {
  const { sum, unread, set } = useQuickSum()
  const chain = useMemo(() => quickChain(sum), [sum])
  return (
    <Page title="Quick sum">
      <div className="mx-auto grid max-w-6xl md:grid-cols-[300px_1fr]">
        <form
          className="grid grid-cols-2 content-start gap-x-3 gap-y-2.5 px-5 py-4 md:border-r md:border-rule"
          aria-label="The question"
          onSubmit={(event) => event.preventDefault()}
        >
          <LevelField
            label="Power"
            value={sum.powerW}
            onChange={(powerW) => set({ powerW })}
            autoFocus
          />
          <FrequencyField
            label="Frequency"
            value={sum.frequencyHz}
            onChange={(frequencyHz) => set({ frequencyHz })}
          />
          <div className="col-span-2">
            <CableField
              value={sum.cableId}
              onChange={(cableId) => set({ cableId })}
              frequencyHz={sum.frequencyHz}
            />
          </div>
          <LengthField
            label="Length"
            value={sum.lengthM}
            onChange={(lengthM) => set({ lengthM })}
          />
          <SwrField label="SWR" value={sum.swr} onChange={(swr) => set({ swr })} />
          <div className="col-span-2">
            <ChoiceField
              label="SWR read"
              value={sum.readAt}
              options={[
                { value: 'antenna', label: 'at the antenna' },
                { value: 'radio', label: 'at the radio, before the cable' },
              ]}
              onChange={(readAt) => set({ readAt })}
            />
          </div>
          <div className="col-span-2">
            <ChoiceField
              label="Tuner"
              value={sum.tuner}
              options={[
                { value: 'none', label: 'no tuner' },
                { value: 'radio', label: 'at the radio, matching' },
              ]}
              onChange={(tuner) => set({ tuner })}
            />
          </div>
        </form>
        {unread.length > 0 && (
          <p role="alert" className="px-5 py-2 text-sm text-danger md:col-span-2">
            ⚠ A part of the address could not be read; the usual figure stands in its place.{' '}
            {unread.join(' ')}
          </p>
        )}
        {chain.possible ? (
          <Answer sum={sum} chain={chain} set={set} />
        ) : (
          <p role="alert" className="max-w-2xl px-6 py-5 text-lg text-danger">
            <strong>⚠ These cannot both be right.</strong> {chain.message}
          </p>
        )}
      </div>
    </Page>
  )
}

/**
 * What is typed is the one source of the sum; the address follows it and is read only when somebody
 * goes to one: on opening, by a link, by Back or Forward.
 */
function useQuickSum() {
  const [search, setSearch] = useSearchParams()
  const { key } = useLocation()
  const wentTo = useNavigationType() === 'REPLACE' ? null : key
  const [{ sum, unread, at }, setState] = useState(() => ({ ...readQuickSum(search), at: wentTo }))
  if (wentTo !== null && wentTo !== at) setState({ ...readQuickSum(search), at: wentTo })
  const written = useRef(sum)
  useEffect(() => {
    if (sum === written.current) return
    written.current = sum
    setSearch(writeQuickSum(sum), { replace: true })
  }, [sum, setSearch])
  const set = (change: Partial<QuickSum>) =>
    setState((old) => ({ ...old, sum: { ...old.sum, ...change }, unread: [] }))
  return { sum, unread, set }
}
