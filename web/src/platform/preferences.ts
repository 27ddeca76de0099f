import { type LengthUnit, type PowerUnit, usualAnalyser } from '@saltline/core'
import { useSyncExternalStore } from 'react'
import { z } from 'zod'

const schema = z.object({
  theme: z.enum(['system', 'day', 'night']).catch('system'),
  length: z.enum(['m', 'ft']).catch('m'),
  power: z.enum(['W', 'dBm']).catch('W'),
  /** Whether every figure comes with its 5 to 95 %. */
  ranges: z.boolean().catch(false),
  /** Who enters readings on this device. */
  by: z.string().max(40).catch(''),
  /** How far the analyser that is used here may be off after its calibration, dB. */
  analyser: z
    .object({
      directivityDb: z.number().min(10).max(90),
      sourceMatchDb: z.number().min(10).max(90),
      noiseDb: z.number().min(20).max(140),
    })
    .catch(usualAnalyser),
})
export type Preferences = z.infer<typeof schema>

const KEY = 'saltline.preferences'
const listeners = new Set<() => void>()
let current = read()

function read(): Preferences {
  try {
    return schema.parse(JSON.parse(localStorage.getItem(KEY) ?? '{}'))
  } catch {
    return schema.parse({})
  }
}

/** Remembered in this browser: theme, units, ranges, and who sits here. */
export function setPreferences(change: Partial<Preferences>): void {
  current = { ...current, ...change }
  try {
    localStorage.setItem(KEY, JSON.stringify(current))
  } catch {
    // Closed storage: the choice holds until the window is closed.
  }
  applyTheme()
  for (const listener of listeners) listener()
}

const systemDark = matchMedia('(prefers-color-scheme: dark)')

function applyTheme(): void {
  const night = current.theme === 'night' || (current.theme === 'system' && systemDark.matches)
  document.documentElement.dataset['theme'] = night ? 'night' : 'day'
}

systemDark.addEventListener('change', () => {
  current = { ...current }
  applyTheme()
  for (const listener of listeners) listener()
})

const subscribe = (listener: () => void) => {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

export const usePreferences = (): Preferences => useSyncExternalStore(subscribe, () => current)

export const useUnits = (): { length: LengthUnit; power: PowerUnit } => usePreferences()

/** What is on the screen now, whichever way it was chosen. */
export const isNight = (): boolean => document.documentElement.dataset['theme'] === 'night'
