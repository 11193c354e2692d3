import { readFileSync } from 'node:fs';

import { expect, test, type Page } from '@playwright/test';

import { badge } from '../test/badge';

import { benchAct, addPlainRig, deskIsReady, laidOut, readByKeys, unfold } from './operator';
import { expectSoundAtAllWidths, listenForErrors } from './sound';

/* Readings that cost nothing: the witness of a sheet job, the strip beside a run; and one axis read by itself. */

const answer = (page: Page) => page.getByRole('heading', { level: 1 });

test('a sheet job’s witness is printed and cut with it, and read as a check of its setup', async ({
  page,
}) => {
  const errors = listenForErrors(page);
  await page.goto('/jobs');
  await page.getByRole('link', { name: 'A sheet from a picture' }).click();
  await expect(page.getByRole('button', { name: 'Choose artwork' })).toBeEnabled();
  await page.getByLabel('Artwork to trace').setInputFiles({
    ...{ name: 'witnessed badge.jpg', mimeType: 'image/jpeg' },
    buffer: await badge().jpeg({ quality: 85 }).toBuffer(),
  });
  await page.getByLabel('Picture’s width, mm').fill('60');
  await page
    .getByLabel('Printed and cut on')
    .selectOption({ label: 'Honey-label desk rig / gloss label sheet' });
  await page.getByRole('button', { name: 'Lay it out' }).click();
  await page.waitForURL(/jobs\/sheets\//);
  const job = page.url();
  await page.getByLabel('Copies').fill('4');
  await page.keyboard.press('Enter');
  await expect(answer(page)).toContainText('4 pieces on one sheet');
  await unfold(page, 'How it is laid out');
  await expect(page.getByLabel('Add a test station in the waste')).toBeChecked();
  await page.getByRole('button', { name: 'Freeze it for printing' }).click();
  await expect(answer(page)).toContainText(/P\d{4} is frozen/);
  await page.getByRole('button', { name: 'Read the witness of the sheet' }).click();
  await page.waitForURL(/\/read/);
  await expect(page.getByText(/gloss label sheet, the witness of P\d{4}/)).toBeVisible();
  expect(await readByKeys(page)).toBe(2);
  await page.getByRole('button', { name: 'See what it says' }).click();
  await page.waitForURL(/prove$/);
  await page
    .getByRole('button', { name: /^Close/ })
    .first()
    .click();
  await page.waitForURL(/logbook/);
  await page.goto(job);
  await expect(page.getByText(/the sheet, cut 1/)).toBeVisible();
  await expectSoundAtAllWidths(page);
  expect(errors).toEqual([]);
});

test('a strip beside a run is put in, printed, cut and read by keys', async ({ page }) => {
  const errors = listenForErrors(page);
  await page.goto('/jobs');
  await page.getByRole('link', { name: 'Plan a run' }).click();
  await page.getByLabel('Job', { exact: true }).fill('witnessed signs');
  await page.getByLabel('Copies', { exact: true }).fill('48');
  await unfold(page, 'Other ways to run it');
  await page.getByRole('radio', { name: /sections(?!,)/ }).check();
  await page.getByLabel(/^Rows a section/).fill('4');
  await expect(answer(page)).toContainText('48 witnessed signs in 2 sections of 4 rows');
  await page.getByRole('button', { name: 'Freeze this plan' }).click();
  await page.waitForURL(/release$/);
  // Before it is sent: afterwards section 1 would be printed without.
  await page.getByText('Witness strip', { exact: true }).click();
  await page.getByRole('button', { name: 'Put it in' }).click();
  await page.getByRole('checkbox', { name: /witness strip lies over the art/ }).check();
  for (const box of await page.getByRole('checkbox').all()) await box.check();
  await page.getByRole('button', { name: 'Release the run' }).click();
  await page.waitForURL(/run$/);
  const [pdf] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'To print, a page a section, PDF' }).click(),
  ]);
  expect(
    readFileSync((await pdf.path())!)
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');
  const [svg] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'SVG', exact: true }).click(),
  ]);
  expect(readFileSync((await svg.path())!, 'utf8')).toContain('witness');
  await page.getByRole('button', { name: 'Section 1 is cut with its file' }).click();
  await page.getByRole('link', { name: 'Read the witnesses of section 1' }).click();
  for (const place of ['first row', 'last row']) {
    await expect(answer(page)).toContainText(`Section 1, ${place}, across`);
    await deskIsReady(page);
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Enter');
    await expect(answer(page)).toContainText('along the feed');
    await page.keyboard.press('Enter');
  }
  await expect(answer(page)).toContainText('The witnesses of section 1 are read');
  await expectSoundAtAllWidths(page);
  await page.getByRole('link', { name: 'Back to the run' }).last().click();
  await expect(answer(page)).toContainText('Load section 2 of 2');
  expect(errors).toEqual([]);
});

test('how it is read is chosen at Print; one axis is read by itself, told by itself, and gives no verdict', async ({
  page,
}) => {
  const errors = listenForErrors(page);
  await addPlainRig(page, 'One by one', 'axis card');
  await (await benchAct(page, 'One by one, axis card', 'Calibrate')).click();
  await unfold(page, 'Another way');
  await page.getByLabel('It is read by').selectOption('gaps');
  await laidOut(page);
  await page.getByRole('button', { name: /It is cut/ }).click();
  await page.waitForURL(/read$/);
  // What was chosen is open; the combs are still there.
  await expect(page.getByLabel('Shape', { exact: true })).toHaveValue('A1');
  await page.getByLabel('Gap left, mm').fill('3');
  await page.getByLabel('Gap right, mm').fill('3.5');
  await page.getByRole('button', { name: 'Keep these gaps' }).click();
  await expect(page.getByRole('row', { name: /G-A1.*gaps round a shape/ })).toBeVisible();
  await expect(page.getByLabel('Shape', { exact: true })).toHaveValue('A2');
  await page.getByRole('button', { name: 'Take G-A1 back' }).click();
  await expect(page.getByRole('row', { name: /G-A1/ })).toHaveCount(0);
  await unfold(page, 'One axis, or again');
  await page.getByRole('link', { name: 'Across only' }).click();
  await page.waitForURL(/axis=across/);
  await deskIsReady(page);
  const combs = Number(
    /of (\d+) combs/.exec((await page.getByRole('heading', { name: /^So far/ }).textContent())!)![1],
  );
  for (let comb = 0; comb < combs; comb += 1) {
    await expect(answer(page)).toContainText('across');
    if ((await answer(page).textContent())!.includes('cross the cross')) await page.keyboard.press('Enter');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { name: `So far, ${comb + 1} of ${combs} combs` }).waitFor();
  }
  await page.getByRole('button', { name: 'See what it says' }).click();
  await page.waitForURL(/correct$/);
  await expect(answer(page)).toContainText('Read across only: there the cut lands');
  await expect(page.getByText('Across only', { exact: true }).first()).toBeVisible();
  await expectSoundAtAllWidths(page);
  expect(errors).toEqual([]);
});
