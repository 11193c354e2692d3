import { defineConfig } from '@playwright/test';

import { CHROMIUM } from './e2e/browser';

/** Run through `npm test`, which starts database and server and sets RED_PLUMB_TEST_URL. */
export default defineConfig({
  testDir: 'e2e',
  // Generous: a slow machine is no fault of the application.
  timeout: 300_000,
  expect: { timeout: 30_000 },
  workers: 1,
  forbidOnly: true,
  // Words are counted on the demo as it is loaded, before the other tests have worked in it.
  projects: [
    { name: 'quiet', testMatch: /(quiet|oneTruth)\.spec\.ts/ },
    { name: 'work', testIgnore: /(quiet|oneTruth)\.spec\.ts/ },
  ],
  reporter: [['line'], ['json', { outputFile: '.local/playwright.json' }]],
  use: {
    baseURL: process.env.RED_PLUMB_TEST_URL,
    viewport: { width: 1280, height: 800 },
    // This browser knows who is at the machine; `initials.spec.ts` is about one that does not.
    storageState: {
      cookies: [
        {
          name: 'who',
          value: 'KT',
          domain: '127.0.0.1',
          path: '/',
          expires: -1,
          httpOnly: false,
          secure: false,
          sameSite: 'Lax',
        },
      ],
      origins: [],
    },
    launchOptions: CHROMIUM,
    actionTimeout: 30_000,
    navigationTimeout: 60_000,
    contextOptions: { reducedMotion: 'reduce' },
  },
});
