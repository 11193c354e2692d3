import { mkdirSync } from 'node:fs';
import { join } from 'node:path';

import { chromium, type Browser, type Page } from '@playwright/test';

import { CHROMIUM } from '../e2e/browser';
import { allSaved, benchAct, readByKeys, unfold } from '../e2e/operator';
import { loudness } from '../e2e/quiet';
import { badge } from '../test/badge';
import { asDxf } from '../test/foreignFiles';
import type { Line } from '../test/machine/readers';

const base = process.env.RED_PLUMB_TEST_URL!;
const folder = process.argv[2] ?? 'docs/screenshots';
const size = {
  width: Number(process.env.SHOT_WIDTH ?? 1280),
  height: Number(process.env.SHOT_HEIGHT ?? 800),
};
const dark = process.env.SHOT_BENCH === 'dark';

/** Twelve cards, three by four. */
const CARDS = [0, 1, 2, 3].flatMap((row) =>
  [0, 1, 2].flatMap((column): Line[] => {
    const [x, y] = [20 + 58 * column, 30 + 60 * row];
    return [
      [x, y, x + 54, y],
      [x + 54, y, x + 54, y + 56],
      [x + 54, y + 56, x, y + 56],
      [x, y + 56, x, y],
    ];
  }),
);

async function main(): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const browser = await chromium.launch(CHROMIUM);
  try {
    await walk(browser);
  } finally {
    await browser.close();
  }
}

async function walk(browser: Browser): Promise<void> {
  const page = await browser.newPage({ viewport: size, reducedMotion: 'reduce' });
  page.setDefaultTimeout(15_000);
  page.on('console', (m) => m.type() === 'error' && console.log('console:', m.text()));
  await page
    .context()
    .addCookies([
      { name: 'who', value: 'KT', url: base },
      ...(dark ? [{ name: 'bench', value: 'dark', url: base }] : []),
    ]);
  const shot = async (name: string): Promise<void> => {
    await page.waitForTimeout(300);
    await page.screenshot({ path: join(folder, `${name}.png`) });
    const { words, redEndsAt } = await loudness(page);
    console.log(`${name}: ${words} words, the red act ends at ${redEndsAt ?? '–'}`);
  };
  await answered(page);
  await shop(page, shot);
  await calibration(page, shot);
  await rollRun(page, shot);
  await artwork(page, shot);
}

type Shot = (name: string) => Promise<void>;

async function shop(page: Page, shot: Shot): Promise<void> {
  await page.goto(base);
  await shot('bench');
  await page.getByRole('link', { name: 'Add a rig' }).click();
  await page.getByRole('heading', { name: /^Four answers/ }).waitFor();
  await shot('new-rig');
  await page.goto(base);
  await page.getByRole('link', { name: 'Roll rig', exact: true }).click();
  await page.getByText('The machine shows now').waitFor();
  await shot('rig');
  await unfold(page, 'All terms');
  await page.getByRole('link', { name: 'All charts' }).click();
  await page.getByRole('link', { name: 'shift along' }).click();
  await page.getByRole('img', { name: /^shift along/ }).waitFor();
  await shot('charts');
  await page.goBack();
  await page.goBack();
  await page.getByText('The machine shows now').waitFor();
  await page.getByRole('link', { name: 'clear film, reversed' }).first().click();
  await page.getByRole('heading', { name: /^Clear film/ }).waitFor();
  await shot('setup');
  await page.goto(`${base}/correct`);
  const desk = page.locator('#for-setup option', { hasText: 'Deck-plan' }).first();
  await page.locator('#for-setup').selectOption((await desk.getAttribute('value'))!);
  await page.getByRole('heading', { name: /^Give cut files for matt paper/ }).waitFor();
  await page.locator('main input[type=file]').setInputFiles([
    { name: 'deck-plan-B.dxf', mimeType: 'image/vnd.dxf', buffer: Buffer.from(asDxf(CARDS)) },
    { name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('Deck B: twelve cards.') },
  ]);
  await page.getByText('1 of 2 corrected, 1 not taken').waitFor();
  await shot('files');
}

async function calibration(page: Page, shot: Shot): Promise<void> {
  await page.goto(base);
  await (await benchAct(page, /^Honey-label desk rig/, 'Calibrate')).click();
  await page.waitForURL(/print$/);
  await shot('print');
  await page.getByRole('button', { name: 'It is cut: read it' }).click();
  await page.locator('fieldset.short-hand:enabled').first().waitFor();
  for (const key of [
    'ArrowLeft',
    'ArrowLeft',
    'ArrowLeft',
    'ArrowLeft',
    'ArrowUp',
    'ArrowUp',
    'ArrowUp',
    'ArrowUp',
  ])
    await page.keyboard.press(key);
  await page.getByTestId('to-Side').waitFor();
  await shot('two-picks');
  await page.goto(base);
  await (await benchAct(page, /^Deck-plan desk rig/, 'Finish sheet')).click();
  await page.waitForURL(/read$/);
  await readByKeys(page, 3);
  await page.keyboard.press('ArrowRight');
  await shot('read');
  await page.keyboard.press('ArrowLeft');
  await readByKeys(page);
  await allSaved(page);
  await page.getByRole('button', { name: 'See what it says' }).click();
  await page.waitForURL(/correct$/);
  await shot('correct');
  await page.getByRole('button', { name: /prove it$/ }).click();
  await page.waitForURL(/prove$/);
  await page.getByRole('button', { name: 'Set B is cut: read it' }).click();
  await page.waitForURL(/read$/);
  await readByKeys(page);
  await allSaved(page);
  await page.getByRole('button', { name: 'See what it says' }).click();
  await page.waitForURL(/prove$/);
  await shot('prove');
  await page.getByRole('button', { name: /^Close/ }).click();
  await page.waitForURL(/logbook\//);
  await page.goto(`${base}/logbook`);
  await shot('logbook');
}

async function rollRun(page: Page, shot: Shot): Promise<void> {
  await page.goto(`${base}/jobs/new`);
  await page.getByText('Type these').waitFor();
  await unfold(page, 'Other ways to run it');
  await page.getByRole('radio', { name: /sections(?!,)/ }).check();
  await page.getByText(/between the marks/).waitFor({ state: 'detached' });
  await page.getByLabel(/^Rows a section/).fill('17');
  await page.getByText(/sections of 17 rows/).waitFor();
  await page.evaluate(
    'document.querySelectorAll("details.fold").forEach((d) => (d.open = false)); window.scrollTo(0, 0)',
  );
  await page.locator('h1').click();
  await shot('plan');
  await page.getByRole('button', { name: 'Freeze this plan' }).click();
  await page.waitForURL(/release$/);
  await shot('release');
  await page.goto(`${base}/jobs?show=open`);
  await page
    .getByRole('row', { name: /luggage tags.*running/ })
    .getByRole('link')
    .click();
  await page.waitForURL(/run$/);
  // A section is cut and about to be checked: the picture is matched to the piece.
  const file = page.waitForEvent('download');
  await page.getByRole('button', { name: 'SVG', exact: true }).click();
  await file;
  await page.getByRole('button', { name: 'Section 3 is cut with its file' }).click();
  await page.getByRole('heading', { name: /^Section 3, first row/ }).waitFor();
  await page.getByRole('group', { name: /^Match the picture/ }).focus();
  for (const key of ['ArrowRight', 'ArrowRight', 'ArrowDown', 'Shift+ArrowDown'])
    await page.keyboard.press(key);
  await shot('run');
  await page.goto(`${base}/jobs?show=closed&sort=spoiled`);
  await page
    .getByRole('link', { name: /luggage tags/ })
    .first()
    .click();
  await page.waitForURL(/summary$/);
  await shot('summary');
  await page.getByRole('link', { name: 'What the log knows now' }).click();
  await page.waitForURL(/roll$/);
  await shot('drift');
}

async function artwork(page: Page, shot: Shot): Promise<void> {
  await page.goto(`${base}/jobs/outline`);
  await page.getByLabel('Artwork to trace').setInputFiles({
    ...{ name: 'badge.png', mimeType: 'image/png' },
    buffer: await badge().withMetadata({ density: 300 }).png().toBuffer(),
  });
  await page.getByRole('heading', { name: /^One line and 2 holes/ }).waitFor();
  await shot('outline');
  await page.goto(`${base}/jobs`);
  await page
    .getByRole('link', { name: /honey-jar labels/ })
    .first()
    .click();
  await page.getByRole('heading', { name: /is frozen/ }).waitFor();
  await shot('sheet');
}

async function answered(page: Page): Promise<void> {
  for (let i = 0; i < 80; i += 1) {
    const ok = await page.request.get(`${base}/api/health`).then(
      (r) => r.ok(),
      () => false,
    );
    if (ok) return;
    await page.waitForTimeout(250);
  }
}

main().catch((error: unknown) => {
  console.error(error);
  process.exitCode = 1;
});
