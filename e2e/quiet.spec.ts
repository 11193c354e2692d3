import { expect, test, type Page } from '@playwright/test';

import { loudness } from './quiet';

/*
 * How many words each screen of the demo says with its folds closed, where its red act is, and how long its headline.
 * A limit goes down when a screen is quieted, never up.
 */

const linkTo = async (page: Page, from: string, pattern: RegExp): Promise<string> => {
  const found = pattern.exec(await (await page.request.get(from)).text());
  if (!found) throw new Error(`nothing like ${pattern} on ${from}`);
  return found[1]!;
};

const SCREENS: readonly (readonly [name: string, at: (page: Page) => Promise<string>, mostWords: number])[] =
  [
    ['Bench', () => Promise.resolve('/'), 140],
    ['New rig', () => Promise.resolve('/rigs/new'), 120],
    ['Rig', (page) => linkTo(page, '/', /href="(\/rigs\/[0-9a-f-]{36})">Roll rig</), 220],
    ['Setup', (page) => linkTo(page, '/', /href="(\/setups\/[0-9a-f-]{36})"/), 160],
    [
      'Charts',
      (page) => linkTo(page, '/', /href="(\/rigs\/[0-9a-f-]{36})">Roll rig</).then((a) => `${a}/charts`),
      130,
    ],
    ['Plan', () => Promise.resolve('/jobs/new'), 240],
    ['Jobs', () => Promise.resolve('/jobs'), 180],
    ['Logbook', () => Promise.resolve('/logbook'), 320],
    ['Correct a file', () => Promise.resolve('/correct'), 240],
  ];

test.use({ viewport: { width: 1280, height: 800 } });

for (const [name, at, mostWords] of SCREENS)
  test(`${name} says at most ${mostWords} words`, async ({ page }) => {
    await page.goto(await at(page));
    await page.waitForLoadState('networkidle');
    const { words, redEndsAt, headlineLines, tooLong } = await loudness(page);
    if (process.env.RED_PLUMB_SIZES)
      console.log(`${name}: ${words} words, red ends at ${redEndsAt}, ${headlineLines} lines`);
    expect(words).toBeGreaterThan(20);
    expect(words).toBeLessThanOrEqual(mostWords);
    expect(headlineLines).toBeLessThanOrEqual(2);
    expect(tooLong).toBeNull();
    if (redEndsAt !== null) expect(redEndsAt).toBeLessThanOrEqual(800);
  });
