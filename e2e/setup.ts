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
