import { existsSync } from 'node:fs'
import type { BrowserContextOptions } from '@playwright/test'

/** Debian's Chromium, quiet: nothing here may look for the network. */
export const CHROMIUM = {
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
}

const WITHOUT_WINDOWS = '/usr/bin/chromium-headless-shell'

/** The same version of it without windows and menus, where it is there: tests take a quarter less of the processor. */
export const CHROMIUM_OF_TESTS = {
  ...CHROMIUM,
  ...(existsSync(WITHOUT_WINDOWS) && { executablePath: WITHOUT_WINDOWS }),
}

/** A small one, upright. */
export const PHONE = { width: 390, height: 844 }

/** The window of a test. */
export const WINDOW = {
  viewport: { width: 1280, height: 800 },
  // It would answer where a test makes the network fail; the tests of being offline allow it.
  serviceWorkers: 'block',
  reducedMotion: 'reduce',
  permissions: ['clipboard-read', 'clipboard-write'],
} as const satisfies BrowserContextOptions
