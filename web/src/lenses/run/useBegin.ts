import type { Danger, RunSheet } from '@saltline/core'
import { useState } from 'react'
import type { RunPlan } from '../../compute/tasks/runPlan.ts'
import { runTask } from '../../compute/runner.ts'
import type { LensProps } from '../../editor/lens.ts'
import { newRun, runStationOf } from '../../model/runs.ts'
import { dangerText } from '../../model/violationWords.ts'
import { beginRun } from '../../platform/outbox/enter.ts'
import { errorText } from '../../platform/errorText.ts'
import { usePreferences, useUnits } from '../../platform/preferences.ts'

/** A sheet is written out for the chain, checked, and begun; one that is dangerous asks why. */
export function useBegin({ chainId, document, channel, chain, station, put }: LensProps) {
  const { by } = usePreferences()
  const { power } = useUnits()
  const [preparing, setPreparing] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [asked, setAsked] = useState<{ sheet: RunSheet; plan: RunPlan } | null>(null)

  const start = async (sheet: RunSheet, { steps, dangers }: RunPlan, why?: string) => {
    const despite =
      why === undefined
        ? undefined
        : { why, dangers: ofSheet(dangers).map((each) => dangerText(each, document, power)) }
    const body = newRun(sheet, steps, { document, channel, by, power, despite })
    const { id } = await beginRun(chainId, body)
    put({ run: id })
  }
  const begin = async (sheet: RunSheet) => {
    setProblem(null)
    setPreparing(sheet.id)
    try {
      const plan = await runTask('runPlan', {
        sheet,
        station: runStationOf(document, chain, station),
        channelId: channel.id,
      })
      if (ofSheet(plan.dangers).length > 0) setAsked({ sheet, plan })
      else await start(sheet, plan)
    } catch (error) {
      setProblem(errorText(error))
    } finally {
      setPreparing(null)
    }
  }
  const answer = async (why: string | null) => {
    setAsked(null)
    if (!asked || why === null) return
    try {
      await start(asked.sheet, asked.plan, why)
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  return {
    begin,
    /** The sheet that is being written out. */
    preparing,
    problem,
    /** A sheet that is dangerous, waiting for a reason. */
    asked: asked && { title: asked.sheet.title, dangers: ofSheet(asked.plan.dangers) },
    answer,
  }
}

const ofSheet = (dangers: readonly Danger[]) => dangers.filter(({ of }) => of === 'sheet')
