import { dayText, type Duty } from '@saltline/contract'
import { useState } from 'react'
import { Link } from 'react-router'
import { bodyOf, doWords, dueWords, howOften, placeOf, standing } from '../model/duties.ts'
import { act } from '../platform/act.ts'
import { changeDuty, deleteDuty, restoreDuty } from '../platform/api/dutyQueries.ts'
import { enterMark } from '../platform/outbox/enter.ts'
import { DutyDialog } from './DutyDialog.tsx'
import { MarkDialog } from './MarkDialog.tsx'

type Open = 'change' | 'done' | 'put off' | null

/** A duty: what it is, how it stands, and the press that does it. */
export function DutyRow({
  stationId,
  duty,
  today,
  brief = false,
}: {
  stationId: string
  duty: Duty
  today: string
  /** Without what changes it, as on the board. */
  brief?: boolean
}) {
  const [open, setOpen] = useState<Open>(null)
  const to = placeOf(stationId, duty)
  const stands = standing(duty, today)
  const { title, last, because, stretchTo } = duty
  const about = duty.chain ?? duty.thing
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-rule py-2">
      <span className="min-w-52 flex-1">
        <b>{title}</b>
        {about !== null && <span className="text-muted"> · {about}</span>}
        <span className={`block text-sm ${stands === 'overdue' ? 'text-caution' : 'text-muted'}`}>
          {stands === 'overdue' && '▲ '}
          {dueWords(duty, today)}
          {because && ` (${because})`}
        </span>
        {!brief && (
          <span className="block text-sm text-muted">
            {howOften(duty)};{' '}
            {last ? `last ${lastWords[last.how]} ${dayText(last.on)}` : 'never done by the record'}
          </span>
        )}
        {!brief && duty.note && <span className="block text-sm text-muted">{duty.note}</span>}
        {!brief && stretchTo !== null && (
          <span className="block text-sm">
            Nothing moved for years: every {stretchTo} months would do by the record.{' '}
            <button
              type="button"
              className="link"
              onClick={() =>
                void act(async () => {
                  await changeDuty(duty.id, { ...bodyOf(duty), months: stretchTo })
                  return {
                    said: `“${title}” is due every ${stretchTo} months now.`,
                    undo: () => changeDuty(duty.id, bodyOf(duty)),
                  }
                })
              }
            >
              stretch it
            </button>
          </span>
        )}
      </span>
      <span className="flex flex-wrap gap-2">
        {to === null ? (
          <button
            type="button"
            className="button min-w-24 justify-center"
            aria-label={`Done: ${title}`}
            onClick={done}
          >
            {doWords.plain}
          </button>
        ) : (
          <Link
            className="button min-w-24 justify-center"
            aria-label={`${doWords[duty.task.kind]}: ${title}`}
            to={to}
          >
            {doWords[duty.task.kind]}
          </Link>
        )}
        <button
          type="button"
          className="quiet"
          aria-label={`Put off: ${title}`}
          onClick={() => setOpen('put off')}
        >
          Put off
        </button>
        {!brief && (
          <>
            <button
              type="button"
              className="quiet"
              aria-label={`Done earlier: ${title}`}
              onClick={() => setOpen('done')}
            >
              Done earlier
            </button>
            <button
              type="button"
              className="quiet"
              aria-label={`Change: ${title}`}
              onClick={() => setOpen('change')}
            >
              Change
            </button>
          </>
        )}
      </span>
      {open === 'change' && (
        <DutyDialog
          stationId={stationId}
          duty={duty}
          onClose={() => setOpen(null)}
          onDelete={() =>
            void act(async () => {
              await deleteDuty(duty.id)
              return { said: `“${title}” is in the bin.`, undo: () => restoreDuty(duty.id) }
            })
          }
        />
      )}
      {(open === 'done' || open === 'put off') && (
        <MarkDialog duty={duty} kind={open} today={today} onClose={() => setOpen(null)} />
      )}
    </li>
  )

  function done() {
    void act(async () => {
      const { waits, undo } = await enterMark(duty, { kind: 'done', on: today, reason: '' })
      return { said: `“${title}” is done today${waits ? '; it waits for the server' : ''}.`, undo }
    })
  }
}

const lastWords: Record<NonNullable<Duty['last']>['how'], string> = {
  'run sheet': 'run sheet',
  'bench sheet': 'bench sheet',
  reading: 'reading',
  ticked: 'done on',
}
