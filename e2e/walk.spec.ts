import { expect, test, type Page } from '@playwright/test';

import { transformToField } from '../src/core/fit';
import { landedLines, landing, termsAbout } from '../src/core/rigsim';
import { printedLineMm, type LineComb } from '../src/core/comb';
import { buildProofSheet, type ProofSheet } from '../src/core/proof';
import { benchAct, allSaved, deskIsReady, soFar, unfold, unfoldAll } from './operator';
import { expectSound, expectSoundAtAllWidths } from './sound';
import { MOST_SCRIPT_BYTES, scriptBytes } from './weight';

/* A real rig has no loupe on the screen: the test stands at the machine, with a rig of its own. */

const SHEET = { width: 210, height: 297, left: 10, near: 15, areaWidth: 190, areaHeight: 267 };
const AREA = { x0: 10, y0: 15, x1: 200, y1: 282 };
const CENTRE = { x: 105, y: 148.5 };
/** How far out the rig is, mm: at no place just half-way between two lines, where an eye that never errs would be a coin. */
const OUT = { x: -2.912, y: 3.108 };

async function addRig(page: Page, name: string): Promise<void> {
  await page.goto('/rigs/new');
  await unfoldAll(page);
  await page.getByRole('radio', { name: 'none', exact: true }).check();
  const field = (label: string, nth = 0) => page.getByLabel(label, { exact: true }).nth(nth);
  for (const [label, text] of [
    ['Name', name],
    ['Media', 'test card'],
    ['Printer', 'p'],
    ['Cutter', 'c'],
  ] as const)
    await field(label).fill(text);
  await field('Now').fill('0.15');
  await field('+1 makes the cut go').selectOption('left');
  await field('Now', 1).fill('-1.20');
  await field('+1 makes the cut go', 1).selectOption('back');
  await page.getByRole('button', { name: 'Add this rig' }).click();
  await page.getByRole('region', { name: `${name}, test card` }).waitFor();
}

/** What the hidden rig does to a comb: the printed line a cut line runs into, and where the coarse line lies. */
function sight(comb: LineComb, x: number, y: number): { line: number; coarse: number } {
  const field = transformToField(
    termsAbout({ shiftXMm: x, shiftYMm: y, turnRad: 0, scaleAcross: 1, scaleAlong: 1, leanRad: 0 }, CENTRE),
    CENTRE,
  );
  const landed = landedLines(comb, landing(field, null));
  let best = { line: 0, gap: Infinity };
  for (let line = -5; line <= 5; line += 1)
    for (const at of landed) {
      const gap = Math.abs(at - printedLineMm(comb, line));
      if (gap < best.gap) best = { line, gap };
    }
  return { line: best.line, coarse: Math.round((comb.axis === 'across' ? x : y) / 0.5) };
}

async function readAll(page: Page, sheet: ProofSheet, x: number, y: number): Promise<void> {
  await deskIsReady(page);
  for (;;) {
    const heading = (await page.locator('h1.answer').textContent())!;
    const station = sheet.stations.find((s) => s.id === /^(\w+),/.exec(heading)![1])!;
    const along = heading.includes('along the feed');
    const { line, coarse } = sight(along ? station.along : station.across, x, y);
    const isCoarse = heading.includes('cross the cross');
    const presses = isCoarse ? coarse : line;
    const key = along ? (presses > 0 ? 'ArrowUp' : 'ArrowDown') : presses > 0 ? 'ArrowRight' : 'ArrowLeft';
    for (let i = 0; i < Math.abs(presses); i += 1) await page.keyboard.press(key);
    await page.keyboard.press('Enter');
    // The last reading leaves the heading as it is, a coarse one the count.
    let finished = false;
    await expect(async () => {
      const [done, all] = await soFar(page);
      finished = done === all;
      expect(finished || (await page.locator('h1.answer').textContent()) !== heading).toBe(true);
    }).toPass();
    if (finished) return;
  }
}

async function sheetOnScreen(page: Page): Promise<ProofSheet> {
  const number = Number(/sheet (\d+)/.exec((await page.locator('header.top').textContent())!)![1]);
  const built = buildProofSheet({
    sheetWidthMm: SHEET.width,
    sheetHeightMm: SHEET.height,
    workArea: AREA,
    columns: 2,
    rows: 2,
    secondSet: true,
    marks: null,
    unit: 'mm',
    stepMm: 0.1,
    seed: number,
  });
  if (!built.ok) throw new Error(built.refusal.code);
  return built.value;
}

test('a real rig 3 mm out, settings that cross zero and move the cut backwards: typed once, proved on the same sheet', async ({
  page,
}) => {
  await addRig(page, 'Far-out rig');
  await (await benchAct(page, /^Far-out rig/, 'Calibrate')).click();
  await page.waitForURL(/print$/);
  await unfold(page, 'Another layout');
  await page.getByLabel('Columns').selectOption('2');
  await expect(page.getByRole('heading', { name: /Then read 6 stations/ })).toBeVisible();
  await page.getByLabel('Rows').selectOption('2');
  await expect(page.getByRole('heading', { name: /Then read 4 stations/ })).toBeVisible();
  await expectSoundAtAllWidths(page);
  const sheet = await sheetOnScreen(page);
  await page.getByRole('button', { name: /It is cut/ }).click();
  await page.waitForURL(/read$/);
  await expect(page.getByText('Loupe of the simulated rig')).toHaveCount(0);
  await expectSoundAtAllWidths(page);

  // The cut is 2.9 mm left and 3.1 mm further along.
  await readAll(page, sheet, OUT.x, OUT.y);
  await allSaved(page);
  await page.getByRole('button', { name: 'See what it says' }).click();
  await page.waitForURL(/correct$/);
  expect(await scriptBytes(page.request, page.url())).toBeLessThan(MOST_SCRIPT_BYTES);
  await expect(page.locator('h1.answer')).toContainText(/2\.\d\d mm left and 3\.\d\d mm further along/);
  // +1 on X moves left, so X must fall by 2.9; +1 on Y moves back, so Y must rise by 3.1.
  const typed = async (name: string): Promise<number> =>
    Number(
      (await page.getByTestId(`to-${name}`).textContent())!.replace('\u2212', '-').replace(/[^\d.-]/g, ''),
    );
  const x = await typed('Offset X');
  const y = await typed('Offset Y');
  expect(x).toBeCloseTo(0.15 - 2.9, 0.7);
  expect(y).toBeCloseTo(-1.2 + 3.1, 0.7);
  await expect(
    page.getByText(`It goes through zero: the new figure is minus ${Math.abs(x).toFixed(2)}.`),
  ).toBeVisible();
  await expect(page.getByText(`It goes through zero: the new figure is plus ${y.toFixed(2)}.`)).toBeVisible();
  await expectSoundAtAllWidths(page);

  await page.getByRole('button', { name: 'Typed: prove it' }).click();
  await page.waitForURL(/prove$/);
  expect(await scriptBytes(page.request, page.url())).toBeLessThan(MOST_SCRIPT_BYTES);
  await page.getByRole('button', { name: 'Set B is cut: read it' }).click();
  await page.waitForURL(/read$/);
  await readAll(page, sheet, OUT.x - (x - 0.15), OUT.y - (y + 1.2));
  await allSaved(page);
  await page.getByRole('button', { name: 'See what it says' }).click();
  await page.waitForURL(/prove$/);
  await expect(page.locator('h1.answer')).toContainText(/^Plumb/);
  await expectSoundAtAllWidths(page);

  // Round again is offered too, and a rig that is plumb is left alone.
  await page.getByRole('button', { name: 'Go round again' }).click();
  await page.waitForURL(/correct$/);
  // By chance of rounding it may ask to look at a reading again first; to leave it is what is offered either way.
  await expect(page.getByRole('button', { name: 'Leave it and close' })).toBeVisible();
  await expectSound(page);
  await page.getByRole('button', { name: 'Leave it and close' }).click();
  await page.waitForURL(/logbook\//);
  await expect(page.getByText('0.15 →')).toBeVisible();
  await expectSoundAtAllWidths(page);
  // Closed by mistake: it opens again where it was.
  await page.getByRole('button', { name: /open it again/ }).click();
  await page.waitForURL(/calibrate\/.*read$/);
});

test('somebody else saved the rig first: both values are shown and what was typed stays', async ({
  page,
  context,
}) => {
  await page.goto('/');
  await page
    .getByRole('region', { name: /^Roll rig, gloss/ })
    .getByRole('link', { name: 'gloss white vinyl' })
    .click();
  await page.getByRole('link', { name: 'Edit' }).click();
  await page.getByRole('heading', { name: /what it is, and how it is printed/ }).waitFor();
  const other = await context.newPage();
  await other.goto(page.url());
  await unfoldAll(other);
  await other.getByLabel('Allowed miss').fill('0.6');
  await other.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(other.getByText('Saved.')).toBeVisible();
  await unfoldAll(page);
  await page.getByLabel('Allowed miss').fill('0.7');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('tolerance (mm): saved “0.6”, yours “0.7”')).toBeVisible();
  await expect(page.getByLabel('Allowed miss')).toHaveValue('0.7');
});
