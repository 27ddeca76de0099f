import { address } from '../platform/base.ts'
import type { LensId } from '../editor/lens.ts'
import { chainAddress } from '../editor/useChainAddress.ts'
import { useEffect, useRef } from 'react'
import { Link, useLocation, useParams } from 'react-router'
import { Dialog } from '../ui/Dialog.tsx'
import { Tabs } from '../ui/Tabs.tsx'
import { entryOf, glossary } from './glossary.ts'
import { shortcuts } from './keys.ts'

const leaves = [
  { id: 'first-steps', label: 'First steps' },
  { id: 'keys', label: 'Keys' },
  { id: 'glossary', label: 'Glossary' },
] as const

/** First steps, keys, the glossary, and the cautions that go with the subject. */
export default function Help({
  at,
  onClose,
}: {
  /** A leaf, or a term of the glossary. */
  at: string
  onClose: () => void
}) {
  const { search } = useLocation()
  const term = entryOf(at)
  const leaf = leaves.find(({ id }) => id === at)?.id ?? (term ? 'glossary' : 'first-steps')
  return (
    <Dialog title="Help" onClose={onClose}>
      <Tabs
        name="Help"
        tabs={leaves.map(({ id, label }) => ({
          to: `${search}#help/${id}`,
          label,
          current: id === leaf,
        }))}
      />
      <div className="pt-3">
        {leaf === 'first-steps' && <FirstSteps />}
        {leaf === 'keys' && <Keys />}
        {leaf === 'glossary' && <Glossary current={term?.id} />}
      </div>
      <p className="mt-4 border-t border-rule pt-3 text-sm text-muted">
        Salt Line computes; it does not make a station safe. Radio-frequency power burns, mismatched
        lines carry high voltage, masts invite lightning and falls. Never key without a load. Local
        rules and licensed practice come first.
      </p>
      <p className="mt-2 text-sm">
        <a
          className="link"
          href={address('/third-party-notices.md')}
          target="_blank"
          rel="noreferrer"
        >
          Licences of the libraries and the typeface
        </a>
      </p>
    </Dialog>
  )
}

function FirstSteps() {
  const { stationId, chainId } = useParams()
  const on = (lens: LensId) =>
    stationId && chainId ? chainAddress(stationId, chainId, lens) : null
  const station = stationId ? `/station/${stationId}` : null
  const questions: [question: string, answer: string, to: string | null][] = [
    [
      'How many watts reach my antenna?',
      'Quick sum, with five figures; or Budget, on a chain.',
      on('budget') ?? '/quick',
    ],
    [
      'What is the most I may run?',
      'Headroom: every part against its limit, and what a broken antenna does.',
      on('headroom'),
    ],
    [
      'Is a tuner worth it, and where?',
      'Match: without, at the radio, at the feed point.',
      on('match'),
    ],
    [
      'I read a meter. Does it fit, and where did the watts go?',
      'Log: type the reading; it stands against what was expected.',
      on('log'),
    ],
    [
      'Is this cable still good?',
      'Bench: loss by substitution, from both ends, or from one.',
      station && `${station}/bench`,
    ],
  ]
  return (
    <div className="space-y-3">
      <p>
        A <b>chain</b> is one path from a transmitter to an antenna. Its drawing is the <b>band</b>:
        as thick, at every place, as the net power that passes there. The dashed line over it is the{' '}
        <b>set power</b>; the tint between them is what was lost as heat. The hatched strip under it
        is reflected power.
      </p>
      <p>
        A <b>plane</b> is a place between two parts, marked by a ring: press it for power, SWR,
        impedance, voltage and current there. Press a part to change it, the plus between two parts
        to insert one. Every change is computed at once and saved by itself.
      </p>
      <h3 className="text-sm text-muted">Where to start</h3>
      <ul className="space-y-1.5">
        {questions.map(([question, answer, to]) => (
          <li key={question}>
            {to ? (
              <Link className="link" to={to}>
                {question}
              </Link>
            ) : (
              <b>{question}</b>
            )}
            <span className="block text-sm text-muted">{answer}</span>
          </li>
        ))}
      </ul>
    </div>
  )
}

const Keys = () => (
  <div className="grid gap-x-8 gap-y-4 sm:grid-cols-2">
    {shortcuts.map(({ where, list }) => (
      <section key={where}>
        <h3 className="mb-1 text-sm text-muted">{where}</h3>
        <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 text-sm">
          {list.map(({ keys, what }) => (
            <div key={keys} className="contents">
              <dt className="font-bold whitespace-nowrap">{keys}</dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </section>
    ))}
  </div>
)

function Glossary({ current }: { current: string | undefined }) {
  const here = useRef<HTMLDivElement>(null)
  useEffect(() => {
    here.current?.scrollIntoView({ block: 'center' })
  }, [current])
  return (
    <dl className="max-h-[50vh] overflow-y-auto text-sm" tabIndex={0} aria-label="Glossary">
      {glossary.map(({ id, term, text }) => (
        <div
          key={id}
          ref={id === current ? here : null}
          aria-current={id === current || undefined}
          className={`border-l-2 py-1.5 pl-3 ${id === current ? 'border-tide bg-paper' : 'border-transparent'}`}
        >
          <dt className="font-bold">{term}</dt>
          <dd>{text}</dd>
        </div>
      ))}
    </dl>
  )
}
