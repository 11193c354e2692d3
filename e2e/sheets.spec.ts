import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';

import { readCutFile } from '../src/core/drawing/file';
import { badge } from '../test/badge';

import { unfold } from './operator';
import { expectQuiet } from './quiet';
import { expectSoundAtAllWidths, listenForErrors } from './sound';

/* From dropping artwork to downloading the pair, as a newcomer would do it. */

test('artwork becomes a frozen pair: dropped, sized, laid out, undone, frozen, taken, cut again, closed', async ({
  page,
}) => {
  const errors = listenForErrors(page);
  await page.goto('/jobs');
  const rows = page.getByRole('group', { name: 'Sheet jobs' }).getByRole('row');
  await expect(rows.first()).toBeVisible();
  const before = await rows.count();
  await page.getByRole('link', { name: 'A sheet from a picture' }).click();
  await expect(page.getByRole('button', { name: 'Choose artwork' })).toBeEnabled();
  await page.getByLabel('Artwork to trace').setInputFiles({
    ...{ name: 'honey badge.jpg', mimeType: 'image/jpeg' },
    buffer: await badge().jpeg({ quality: 85 }).toBuffer(),
  });
  const answer = page.getByRole('heading', { level: 1 });
  await page.getByLabel('Picture’s width, mm').fill('60');
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('honey badge');
  await page
    .getByLabel('Printed and cut on')
    .selectOption({ label: 'Honey-label desk rig / gloss label sheet' });
  await page.getByRole('button', { name: 'Lay it out' }).click();
  await page.waitForURL(/jobs\/sheets\//);
  await expect(answer).toContainText(/^\d{1,6} pieces on one sheet/);
  const filled = Number(/^(\d{1,6}) pieces/.exec((await answer.textContent())!)![1]);
  expect(filled).toBeGreaterThan(4);
  await expectQuiet(page, 'Sheet', 150);
  // So many copies, by keys; undone, done again.
  const copies = page.getByLabel('Copies');
  await expect(copies).toBeEnabled();
  await copies.fill('many');
  await page.keyboard.press('Tab');
  await expect(page.getByText('A whole number, or nothing to fill the sheet.')).toBeVisible();
  await copies.fill('3');
  await page.keyboard.press('Enter');
  await expect(answer).toContainText('3 pieces on one sheet');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(answer).toContainText(`${filled} pieces`);
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(answer).toContainText('3 pieces on one sheet');
  await page.getByLabel('Bleed, mm').fill('1');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Bleed, mm')).toHaveValue('1');
  await expectSoundAtAllWidths(page);
  await page.getByRole('button', { name: 'Freeze it for printing' }).click();
  await expect(answer).toContainText(/P\d{4} is frozen/);
  await expectQuiet(page, 'Sheet, frozen', 150);
  const taken = async (name: string): Promise<Buffer> => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name, exact: true }).first().click(),
    ]);
    return readFileSync((await download.path())!);
  };
  expect((await taken('Print file, PDF')).subarray(0, 5).toString()).toBe('%PDF-');
  const cut = readCutFile((await taken('DXF')).toString('utf8'));
  if (!cut.ok) throw new Error(cut.refusal.code);
  expect(cut.value.drawing.paths.length % 3).toBe(0);
  await unfold(page, 'Another cut file');
  await page.getByRole('button', { name: 'Cut file again, for today’s correction' }).click();
  await expect(page.getByText(/carries just that already/)).toBeVisible();
  await expectSoundAtAllWidths(page);
  await page.getByRole('button', { name: 'Done: close it' }).click();
  await expect(answer).toContainText('is closed');
  await page.getByRole('button', { name: 'The same again' }).click();
  await expect(answer).toContainText('Look at it, then freeze it');
  await page.getByRole('link', { name: 'Jobs' }).first().click();
  // This one and its copy more than before.
  await expect(rows).toHaveCount(before + 2);
  expect(errors).toEqual([]);
});
