import { expect, test, type Page } from '@playwright/test';

import { benchAct, addPlainRig, deskIsReady, laidOut, unfold } from './operator';
import { expectQuiet } from './quiet';
import { expectSoundAtAllWidths, listenForErrors } from './sound';

/* A rig just met, read by the even border: nobody knows which way its figures go, one push tells. */

/** “0.30 mm right”, “0.20 mm back” as a signed figure. */
function said(words: string): number {
  const [, size, way] = /^([\d.]+) mm ?(.*)$/.exec(words.trim())!;
  return /left|back/.test(way!) ? -Number(size) : Number(size);
}

/** Reads every row of a set by keys: the ring nearest to what the rig does. */
async function readRings(
  page: Page,
  truth: { readonly across: number; readonly along: number },
): Promise<void> {
  const coarse = page.getByRole('region', { name: 'Coarse first' });
  await deskIsReady(page);
  if (await coarse.isVisible()) await coarse.getByRole('button', { name: 'On to the rings' }).click();
  const slider = page.getByLabel('The even ring');
  const rows = await page.getByLabel('Row', { exact: true }).getByRole('option').allTextContents();
  expect(rows).toHaveLength(8);
  for (const row of rows) {
    const target = row.includes('across') ? truth.across : truth.along;
    await slider.focus();
    for (let press = 0; press < 20; press += 1) {
      const off = target - said((await page.getByTestId('ring-says').textContent())!);
      // Half a ring of 0.2 mm is 0.1 mm.
      if (Math.abs(off) <= 0.051) break;
      await page.keyboard.press(off > 0 ? 'ArrowRight' : 'ArrowLeft');
    }
    await page.getByRole('button', { name: 'Keep it, next row' }).press('Enter');
    await page.getByText(`${row} kept.`).waitFor();
  }
}

test('a rig just met is read by rings, pushed once, and then told what to type', async ({ page }) => {
  const errors = listenForErrors(page);
  await addPlainRig(page, 'Just met', 'ring card');
  await (await benchAct(page, 'Just met, ring card', 'Calibrate')).click();
  await unfold(page, 'Another layout');
  for (const [label, option] of [
    ['Columns', '2'],
    ['Rows', '2'],
    ['Rings beside the combs', '0.2'],
  ] as const) {
    await page.getByLabel(label, { exact: true }).selectOption(option);
    await laidOut(page);
    await expect(page.getByLabel(label, { exact: true })).toHaveValue(option);
  }
  await page.getByRole('button', { name: /It is cut/ }).click();
  await readRings(page, { across: 0.3, along: 0.5 });
  await expectSoundAtAllWidths(page);
  const table = page.waitForEvent('download');
  await page.getByRole('link', { name: 'What was read, as a table' }).click();
  expect((await table).suggestedFilename()).toMatch(/^readings-\d{4}-A\.csv$/);
  await page.getByRole('button', { name: 'See what these say' }).click();
  await expect(page.locator('h1.answer')).toContainText(
    'Push Offset X and Offset Y once: which way they go is not known yet',
  );
  await expect(page.getByTestId('to-Offset X')).toContainText('0.50');
  await expect(page.getByTestId('to-Offset Y')).toContainText('0.80');
  await expectSoundAtAllWidths(page);
  await expectQuiet(page, 'Push', 100);
  // Who knows a way says so: the push is a figure; and who is not sure pushes again.
  const asked = page.getByRole('group', { name: 'Which way does more of Offset X go?' });
  await asked.getByRole('radio', { name: 'Right' }).check();
  await expect(page.locator('h1.answer')).toContainText(/Type Offset X .*, and push Offset Y once/);
  await expect(asked).toHaveCount(0);
  await unfold(page, 'Another way');
  await page.getByRole('button', { name: 'Not sure which way Offset X goes: push it' }).click();
  await expect(page.locator('h1.answer')).toContainText('Push Offset X and Offset Y once');
  await page.getByRole('button', { name: 'Pushed: cut the next set' }).click();
  // +1 on X moves the cut left, +1 on Y back.
  await page.getByRole('button', { name: /cut.*read/i }).click();
  await readRings(page, { across: 0.3 - 0.5, along: 0.5 - 0.8 });
  await page.getByRole('button', { name: /See what these say|Is it plumb/ }).click();
  await page.getByRole('heading', { name: 'Now it is known' }).waitFor();
  await page
    .getByRole('button', { name: 'Declare it so: +1 on Offset X is left, +1 on Offset Y is back' })
    .click();
  await expect(page.getByRole('heading', { name: 'Now it is known' })).toHaveCount(0);
  await expectSoundAtAllWidths(page);
  await page.getByRole('button', { name: /round again/i }).click();
  // 0.2 mm left and 0.3 mm back of the print, from 0.50 and 0.80: X and Y come down by as much.
  await expect(page.locator('h1.answer')).toContainText(/Type Offset X 0\.[23]\d and Offset Y 0\.[45]\d/);
  expect(errors).toEqual([]);
});
