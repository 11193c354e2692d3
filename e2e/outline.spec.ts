import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';

import { readCutFile } from '../src/core/drawing/file';
import { badge } from '../test/badge';

import { unfoldAll } from './operator';
import { expectQuiet } from './quiet';
import { expectSoundAtAllWidths, listenForErrors, tabTo } from './sound';

test('a picture becomes a cut line: dropped, sized, one hole ignored, saved', async ({ page }) => {
  const errors = listenForErrors(page);
  await page.goto('/jobs');
  await page.getByRole('heading', { level: 1 }).waitFor();
  // By keyboard to the page; the file itself comes from the system's own dialog.
  await tabTo(page, 'A sheet from a picture');
  await page.keyboard.press('Enter');
  await page.waitForURL(/outline/);
  const picture = page.getByLabel('Artwork to trace');
  await expect(page.getByRole('button', { name: 'Choose artwork' })).toBeEnabled();
  await picture.setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('hello') });
  const answer = page.getByRole('heading', { level: 1 });
  await picture.setInputFiles({
    ...{ name: 'badge.jpg', mimeType: 'image/jpeg' },
    buffer: await badge().jpeg({ quality: 85 }).toBuffer(),
  });
  await expect(answer).toHaveText('How large is it to be?');
  const width = page.getByLabel('Picture’s width, mm');
  await width.fill('wide');
  await expect(page.getByText('“wide” is not a length')).toBeVisible();
  await width.fill('90');
  await expect(answer).toContainText('One line and 2 holes');
  await expectQuiet(page, 'Outline', 120);
  await unfoldAll(page);
  await page.getByLabel('Border, mm').fill('1.5');
  await expect(answer).toContainText('69.');
  await page
    .getByRole('checkbox', { name: /hole of 4\d mm²/ })
    .first()
    .uncheck();
  await expect(answer).toContainText('One line and one hole');
  await expectSoundAtAllWidths(page);
  const coming = page.waitForEvent('download');
  await page.getByRole('button', { name: 'SVG', exact: true }).click();
  const file = await coming;
  expect(file.suggestedFilename()).toBe('badge-cut.svg');
  const read = readCutFile(readFileSync(await file.path(), 'utf8'));
  if (!read.ok) throw new Error(read.refusal.code);
  expect(read.value.drawing.page!.widthMm).toBeCloseTo(90, 6);
  // Hull from 12 to 78 mm, with 1.5 mm of border.
  expect(Math.abs(read.value.bounds.x0 - 10.5)).toBeLessThan(0.3);
  expect(Math.abs(read.value.bounds.x1 - 79.5)).toBeLessThan(0.3);
  expect(read.value.drawing.paths).toHaveLength(2);
  // The text that was no artwork.
  expect(errors.filter((e) => !e.includes('/api/picture'))).toEqual([]);
});

test('a pair is checked for a setup before it is printed: what spoils it, where, and a good one has nothing', async ({
  page,
}) => {
  const errors = listenForErrors(page);
  await page.goto('/jobs');
  await page.getByRole('link', { name: 'Check a pair' }).click();
  await page.waitForURL(/check/);
  const setup = page.getByLabel('For', { exact: true });
  await expect(setup).toBeEnabled();
  await setup.selectOption({ label: 'Deck-plan desk rig / matt paper 160 g' });
  await page.getByLabel('Allowed miss, mm').fill('');
  const answer = page.getByRole('heading', { level: 1 });
  const cut = (body: string) => ({
    ...{ name: 'cut.svg', mimeType: 'image/svg+xml' },
    buffer: Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="210mm" height="297mm" viewBox="0 0 210 297">${body}</svg>`,
    ),
  });
  const field = page.getByLabel('Cut file: SVG, DXF or HPGL');
  const card = '<path d="M60 100H140V150H60Z" fill="none" stroke="#000"/>';
  await field.setInputFiles(cut(card + card));
  await page.getByRole('button', { name: 'Check them' }).click();
  await expect(answer).toContainText('would spoil it');
  await expect(page.getByRole('listitem').filter({ hasText: 'cut twice' })).toContainText(
    'Delete one of them',
  );
  await expectSoundAtAllWidths(page);
  await field.setInputFiles({ ...cut(''), buffer: Buffer.from('no drawing') });
  await page.getByRole('button', { name: 'Check them' }).click();
  await expect(answer).toContainText(/SVG|file/);
  await field.setInputFiles(cut(card));
  await page.getByRole('button', { name: 'Check them' }).click();
  await expect(answer).toContainText('The cut file has nothing to find');
  expect(errors.filter((e) => !e.includes('/api/check'))).toEqual([]);
});
