import { defineConfig } from '@playwright/test'
import { CHROMIUM, PORT } from './setup.ts'

export default defineConfig({
  testDir: './tests',
  outputDir: './results',
  fullyParallel: true,
  workers: 2,
  timeout: 60_000,
  forbidOnly: true,
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
    permissions: ['clipboard-read', 'clipboard-write'],
  },
  webServer: {
    command: `npx tsx server/src/main.ts --create --demo --quiet --port ${PORT} --db "$(mktemp -d)/e2e.sqlite"`,
    cwd: '..',
    url: `http://127.0.0.1:${PORT}/api/health`,
    reuseExistingServer: false,
  },
})
