import { MOST_SWEEP_TEXT } from '@saltline/contract'
import type { FarEnd } from '@saltline/core'
import { useState } from 'react'
import { act } from '../../platform/act.ts'
import type { Look } from '../../model/alongLine.ts'
import { enterLineSweep } from '../../platform/outbox/enter.ts'
import { setPreferences, usePreferences } from '../../platform/preferences.ts'
import { Problem } from '../../ui/Problem.tsx'
import { TextField } from '../../ui/TextField.tsx'
import type { Chosen } from './useLineSweep.ts'

/** As a field for date and time has it, where the operator is. */
const local = (iso: string): string => {
  const at = new Date(iso)
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16)
}

/** Keeps a sweep with the log: when, with what, by whom. */
export function KeepSweep({
  chainId,
  look,
  farEnd,
  file,
  onKept,
}: {
  chainId: string
  look: Look
  farEnd: FarEnd
  file: Chosen
  onKept: (id: string, waits: boolean) => void
}) {
  const { by: usual, analyser } = usePreferences()
  const [at, setAt] = useState(() => local(file.readAt))
  const [by, setBy] = useState(usual)
  const [instrument, setInstrument] = useState('')
  const [weather, setWeather] = useState('')
  const [note, setNote] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  const keep = () => {
    if (at === '' || Number.isNaN(Date.parse(at))) return setProblem('Give the day it was taken.')
    if (file.text.length > MOST_SWEEP_TEXT) return setProblem('The file is too large to be kept.')
    setProblem(null)
    void act(async () => {
      const { id, waits, undo } = await enterLineSweep(chainId, {
        ...{ before: look.before, alone: look.alone, farEnd },
        ...{ name: file.name, touchstone: file.text },
        ...{ readAt: new Date(at).toISOString(), by, instrument, analyser, weather, note },
      })
      setPreferences({ by })
      onKept(id, waits)
      return { said: waits ? 'The sweep waits for the server.' : 'The sweep is kept.', undo }
    })
  }
  return (
    <form
      aria-label="Keep the sweep"
      className="grid grid-cols-2 gap-2 border-t border-rule pt-3"
      onSubmit={(event) => {
        event.preventDefault()
        keep()
      }}
    >
      <label className="text-xs text-muted">
        Taken at
        <input
          type="datetime-local"
          className="field mt-0.5 text-sm"
          value={at}
          onChange={({ target }) => setAt(target.value)}
        />
      </label>
      <TextField label="Analyser" value={instrument} most={80} optional onChange={setInstrument} />
      <TextField label="By" value={by} most={40} optional onChange={setBy} />
      <TextField label="Weather" value={weather} most={80} optional onChange={setWeather} />
      <div className="col-span-2">
        <TextField label="Note" value={note} most={400} optional onChange={setNote} />
      </div>
      <div className="col-span-2 space-y-2">
        <Problem text={problem} />
        <button type="submit" className="button button-main">
          Keep it with the log
        </button>
      </div>
    </form>
  )
}
