import type { Alternative, ChainDocument } from '@saltline/contract'
import { formatFrequency, formatLength } from '@saltline/core'
import { useState } from 'react'
import { useSource } from '../../platform/store.ts'
import { ProgressBar } from '../../compute/ProgressBar.tsx'
import { useTask } from '../../compute/useTask.ts'
import type { LensProps } from '../../editor/lens.ts'
import {
  type Asked,
  firstWanted,
  linesOf,
  planFor,
  plannedAlternative,
  type Wanted,
} from '../../model/planning.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { Problem } from '../../ui/Problem.tsx'
import { PriceField } from '../../ui/quantities.tsx'
import { foundText, Result, Unknown } from './PlanResult.tsx'

/** Which cables, and where the tuner: all that is worth its price or its weight. */
export function Planner({
  onMade,
  full,
  ...props
}: LensProps & { onMade: (alternative: Alternative) => void; full: boolean }) {
  const { document, station, channel } = props
  const lines = linesOf(document)
  const [wanted, setWanted] = useState(() => firstWanted(lines))
  const [asked, setAsked] = useState<Asked | null>(null)
  const set = (change: Partial<Wanted>) => setWanted((old) => ({ ...old, ...change }))
  const ticked = lines.some(({ id }) => wanted.sections.includes(id))
  const { run, progress, stop } = useTask('plan', asked?.request ?? null)
  // The best so far, while it runs and after it was stopped.
  const { partial } = useSource(progress)
  const found = run?.state === 'done' ? run.value : run?.state === 'problem' ? undefined : partial
  const unit = wanted.by === 'price' ? station.currency : 'kg'
  return (
    <section aria-label="Planner" className="border-t border-rule pt-3">
      <h2 className="mb-1 text-base font-bold">Planner: which cables, and where the tuner?</h2>
      <div className="grid gap-x-8 gap-y-3 grid-cols-[repeat(auto-fit,minmax(220px,1fr))]">
        <fieldset className="min-w-0">
          <legend className="mb-1 text-sm text-muted">May change</legend>
          {lines.map(({ id, name, lengthM, cable }) => (
            <Tick
              key={id}
              label={`${name}: ${formatLength(lengthM)} of ${cable.name}`}
              checked={wanted.sections.includes(id)}
              onChange={(on) =>
                set({
                  sections: on
                    ? [...wanted.sections, id]
                    : wanted.sections.filter((each) => each !== id),
                })
              }
            />
          ))}
          <Tick
            label={hasTuner(document) ? 'the place of the tuner' : 'a tuner may come in'}
            checked={wanted.tuner}
            onChange={(tuner) => set({ tuner })}
          />
          {wanted.tuner && !hasTuner(document) && wanted.by === 'price' && (
            <PriceField
              label={`Price of a tuner, ${station.currency}`}
              value={wanted.tunerPrice}
              onChange={(tunerPrice) => set({ tunerPrice })}
            />
          )}
        </fieldset>
        <fieldset className="grid min-w-0 grid-cols-2 content-start gap-x-3 gap-y-2">
          <legend className="mb-1 text-sm text-muted">Cables that may be used</legend>
          <OptionalField
            label="Not thicker than"
            unit="mm"
            min={1}
            max={200}
            value={wanted.mostOuterMm}
            onChange={(mostOuterMm) => set({ mostOuterMm })}
          />
          <OptionalField
            label="Bends to a radius of"
            unit="mm"
            min={1}
            max={5000}
            value={wanted.mostBendMm}
            onChange={(mostBendMm) => set({ mostBendMm })}
          />
          <OptionalField
            label="Not heavier, 100 m"
            unit="kg"
            min={0.1}
            max={5000}
            value={wanted.mostKgPer100m}
            onChange={(mostKgPer100m) => set({ mostKgPer100m })}
          />
          <OptionalField
            label={`At most, ${station.currency}/m`}
            min={0}
            max={1e6}
            value={wanted.mostPricePerM}
            onChange={(mostPricePerM) => set({ mostPricePerM })}
          />
          <div className="col-span-2">
            <Tick
              label="only of the same impedance"
              checked={wanted.sameImpedance}
              onChange={(sameImpedance) => set({ sameImpedance })}
            />
          </div>
        </fieldset>
        <fieldset className="min-w-0 space-y-2">
          <legend className="mb-1 text-sm text-muted">What counts</legend>
          <ChoiceField
            label="Loss on"
            value={wanted.counts}
            options={[
              { value: 'worst', label: 'the worst channel' },
              { value: 'all', label: 'all channels alike' },
              { value: 'weights', label: 'all channels, by weight' },
              ...document.channels.map(({ id, frequencyHz }) => ({
                value: `one ${id}` as const,
                label: `${formatFrequency(frequencyHz)} alone`,
              })),
            ]}
            onChange={(counts) => set({ counts })}
          />
          {wanted.counts === 'weights' && (
            <div className="grid grid-cols-2 gap-2">
              {document.channels.map(({ id, frequencyHz }) => (
                <OptionalField
                  key={id}
                  label={formatFrequency(frequencyHz)}
                  min={0}
                  max={100}
                  value={wanted.weights[id] ?? 1}
                  onChange={(weight) => set({ weights: { ...wanted.weights, [id]: weight ?? 0 } })}
                />
              ))}
            </div>
          )}
          <ChoiceField
            label="Against"
            value={wanted.by}
            options={[
              { value: 'price', label: `price, ${station.currency}` },
              { value: 'weight', label: 'weight of the cable, kg' },
            ]}
            onChange={(by) => set({ by, budget: null })}
          />
          <OptionalField
            label={`At most, ${unit}`}
            min={0}
            max={1e9}
            value={wanted.budget}
            onChange={(budget) => set({ budget })}
          />
        </fieldset>
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="button button-main"
          disabled={!ticked && !wanted.tuner}
          onClick={() => setAsked(planFor(document, props.chain, station, wanted))}
        >
          Plan
        </button>
        {run?.state === 'running' && (
          <>
            <ProgressBar className="w-48 accent-tide" aria-label="Planning" of={progress} />
            <button type="button" className="button" onClick={stop}>
              Stop
            </button>
          </>
        )}
        <p role="status" className="text-sm">
          {run?.state === 'stopped' && 'Stopped: the best so far.'}
          {run?.state === 'done' && `${foundText(run.value.front, unit)} `}
          {run?.state === 'done' && run.value.combinations !== undefined && (
            <span className="text-muted">
              {run.value.combinations.toLocaleString('en-GB')} combinations,{' '}
              {run.value.solved?.toLocaleString('en-GB')} solved; the others were proved to lose
              more.
            </span>
          )}
        </p>
      </div>
      <Problem text={run?.state === 'problem' ? run.message : null} />
      {found && asked && (
        <Result
          {...{ document, channel, station, full, unit }}
          asked={asked}
          done={run?.state === 'done'}
          front={found.front}
          onTake={(member) => onMade(plannedAlternative(member, asked, document))}
        />
      )}
      {run?.state === 'done' && asked && (
        <Unknown
          ids={[...new Set((run.value.unknown ?? []).map(({ id }) => id))]}
          choices={asked.choices}
          tuner={run.value.tunerUnknown ?? false}
          by={wanted.by}
        />
      )}
    </section>
  )
}

const hasTuner = ({ stages }: ChainDocument) => stages.some(({ kind }) => kind === 'tuner')

function Tick({
  label,
  checked,
  onChange,
}: {
  label: string
  checked: boolean
  onChange: (on: boolean) => void
}) {
  return (
    <label className="flex min-h-6 items-start gap-2 py-0.5 text-sm">
      <input
        type="checkbox"
        className="mt-0.5 accent-tide"
        checked={checked}
        onChange={({ target }) => onChange(target.checked)}
      />
      {label}
    </label>
  )
}
