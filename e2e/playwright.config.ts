import { defineConfig } from '@playwright/test'
import { CHROMIUM, WINDOW } from './setup.ts'

export default defineConfig({
  testDir: './tests',
  outputDir: './results',
  globalSetup: './globalSetup.ts',
  fullyParallel: true,
  // Two cores: what waits leaves them to a third.
  workers: 3,
  // However slow the machine is, what is waited for may come; what hangs ends.
  timeout: 900_000,
  expect: { timeout: 120_000 },
  forbidOnly: true,
  use: {
    ...WINDOW,
    // What is pressed may be long in coming; what never comes fails here, and names itself.
    actionTimeout: 120_000,
    navigationTimeout: 120_000,
    launchOptions: CHROMIUM,
    // What a failed test saw, step by step: TRACE=on, then npx playwright show-trace e2e/results/…/trace.zip
    trace: process.env['TRACE'] === 'on' ? 'retain-on-failure' : 'off',
  },
})
