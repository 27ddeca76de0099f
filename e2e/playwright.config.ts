import { defineConfig } from '@playwright/test'
import { CHROMIUM } from './setup.ts'

export default defineConfig({
  testDir: './tests',
  outputDir: './results',
  globalSetup: './globalSetup.ts',
  fullyParallel: true,
  workers: 2,
  timeout: 90_000,
  expect: { timeout: 15_000 },
  forbidOnly: true,
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
    // It would answer where a test makes the network fail; the tests of being offline allow it.
    serviceWorkers: 'block',
    permissions: ['clipboard-read', 'clipboard-write'],
    // What a failed test saw, step by step: npx playwright show-trace e2e/results/…/trace.zip
    trace: { mode: 'retain-on-failure', screenshots: false, sources: false },
  },
})
