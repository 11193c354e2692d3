import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';

import { readCutFile } from '../src/core/drawing/file';
import { badge } from '../test/badge';

import { unfold } from './operator';
import { expectSoundAtAllWidths, listenForErrors } from './sound';

/* Several pieces of artwork in one job: a picture, a drawing, and a second print with the line of the first. */

const TAG = Buffer.from(
  '<svg xmlns="http://www.w3.org/2000/svg" width="50mm" height="30mm" viewBox="0 0 50 30"><rect x="3" y="3" width="44" height="24" rx="5" fill="#2f6f5e" stroke="#123" stroke-width="2"/></svg>',
);

test('artwork is added, has the line of another, gets another line, is moved by keys, and is cut another way', async ({
  page,
}) => {
  const errors = listenForErrors(page);
  await page.goto('/jobs/outline');
  await expect(page.getByRole('button', { name: 'Choose artwork' })).toBeEnabled();
  const artwork = page.getByLabel('Artwork to trace');
  const answer = page.getByRole('heading', { level: 1 });
  // A drawing is drawn by the server, and says how large it is.
  await artwork.setInputFiles({ name: 'crate tag.svg', mimeType: 'image/svg+xml', buffer: TAG });
  await expect(page.getByLabel('Picture’s width, mm')).toHaveValue('50');
  await expect(answer).toContainText('One line, 50.0');
  await page.getByRole('button', { name: /As large as the sheet takes/ }).click();
  await expect(answer).not.toContainText('One line, 50.0');
  await page.getByLabel('Picture’s width, mm').fill('40');
  await page
    .getByLabel('Printed and cut on')
    .selectOption({ label: 'Honey-label desk rig / gloss label sheet' });
  await page.getByRole('button', { name: 'Lay it out' }).click();
  await page.waitForURL(/jobs\/sheets\//);
  await expect(answer).toContainText('pieces on one sheet');
  const job = page.url();
  const copies = (piece: string) =>
    page.getByRole('group', { name: new RegExp(`^${piece} `) }).getByLabel('Copies');
  await expect(copies('A')).toBeEnabled();
  await copies('A').fill('4');
  await page.keyboard.press('Enter');
  await expect(answer).toContainText('4 pieces');
  // A picture more, with its own line.
  await page.getByRole('link', { name: 'Add artwork' }).click();
  await page.waitForURL(/pieces$/);
  await expect(page.getByRole('button', { name: 'Choose artwork' })).toBeEnabled();
  await artwork.setInputFiles({
    ...{ name: 'honey badge.jpg', mimeType: 'image/jpeg' },
    buffer: await badge().jpeg({ quality: 85 }).toBuffer(),
  });
  await page.getByLabel('Picture’s width, mm').fill('60');
  await page.getByLabel('Copies').fill('2');
  await page.getByRole('button', { name: 'Add it' }).click();
  await page.waitForURL(job);
  await expect(answer).toContainText('6 pieces');
  // The same picture in other colours: the line of B.
  await page.getByRole('link', { name: 'Add artwork' }).click();
  await page.waitForURL(/pieces$/);
  await expect(page.getByRole('button', { name: 'Choose artwork' })).toBeEnabled();
  await artwork.setInputFiles({
    ...{ name: 'pale badge.png', mimeType: 'image/png' },
    buffer: await badge().modulate({ brightness: 1.4 }).png().toBuffer(),
  });
  await page.getByLabel('Its line').selectOption({ label: 'that of B, honey badge.jpg' });
  await expect(answer).toContainText('It gets the line of B');
  await expectSoundAtAllWidths(page);
  await page.getByRole('button', { name: 'Add it' }).click();
  await page.waitForURL(job);
  await expect(answer).toContainText('7 pieces');
  await expect(page.getByText('with the line of B')).toBeVisible();
  // B gets a wider border, and C follows.
  await page.getByRole('group', { name: /^B / }).getByRole('link', { name: 'Change its line' }).click();
  await page.waitForURL(/pieces\/B$/);
  await page.getByLabel('Border, mm').fill('4');
  await expect(answer).toContainText('One line');
  await page.getByLabel('Picture’s width, mm').fill('45');
  await expect(page.getByText('The border stays')).toBeHidden();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await page.waitForURL(job);
  const sizes = async (piece: string) =>
    (await page
      .getByRole('group', { name: new RegExp(`^${piece} `) })
      .locator('legend')
      .textContent())!.match(/\d{1,4}\.\d\d mm × \d{1,4}\.\d\d mm/)![0];
  expect(await sizes('B')).toBe(await sizes('C'));
  // One piece is moved by keys, and put back by Undo.
  const first = page.getByRole('button', { name: /^Piece 1 of sheet 1/ });
  await first.focus();
  await page.keyboard.press('Shift+ArrowUp');
  await page.keyboard.press('ArrowUp');
  await expect(first).toHaveAccessibleName(/moved 5.50 mm further along/);
  await expect(page.getByLabel('Further, mm')).toHaveValue('5.5');
  await expectSoundAtAllWidths(page);
  await first.focus();
  await page.keyboard.press('Control+z');
  await expect(first).toHaveAccessibleName(/where the rule puts it/);
  await page.getByRole('button', { name: 'Freeze it for printing' }).click();
  await expect(answer).toContainText(/is frozen/);
  // Cut another way: one badge left, the other cut through twice, one piece left out.
  await unfold(page, 'Another cut file');
  await page.getByText('Cut it another way').click();
  await page.getByLabel('B, outline').selectOption('cut through');
  await page.getByLabel('C, outline').selectOption('not cut');
  await page.getByRole('listitem').filter({ hasText: 'cut through' }).getByLabel('Passes').selectOption('2');
  await page.getByLabel(/a pause between them/).check();
  await page.getByLabel('Skip these pieces').fill('99');
  await page.getByRole('button', { name: 'Make a cut file of it' }).click();
  await expect(page.getByText(/sheet 1 has pieces 1 to 7/).first()).toBeVisible();
  await page.getByLabel('Skip these pieces').fill('1');
  await expectSoundAtAllWidths(page);
  await page.getByRole('button', { name: 'Make a cut file of it' }).click();
  await expect(page.getByText(/cut through 2 times, a pause between; without piece 1/)).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'DXF', exact: true }).first().click(),
  ]);
  const cut = readCutFile(readFileSync((await download.path())!, 'utf8'));
  if (!cut.ok) throw new Error(cut.refusal.code);
  const layers = cut.value.drawing.paths.map((p) => p.layer);
  expect(layers.filter((l) => l === 'cut-through-pass-2')).toHaveLength(
    layers.filter((l) => l === 'cut-through').length,
  );
  expect(errors).toEqual([]);
});

const STAR = Buffer.from(
  '<svg xmlns="http://www.w3.org/2000/svg" width="50mm" height="50mm" viewBox="0 0 50 50"><path d="M25 2L31 19L48 19L35 30L40 47L25 37L10 47L15 30L2 19L19 19Z" fill="#c05621"/></svg>',
);

test('true shapes are nested while somebody waits: what it saves is shown, taken, frozen, or taken back', async ({
  page,
}) => {
  const errors = listenForErrors(page);
  await page.goto('/jobs/outline');
  await expect(page.getByRole('button', { name: 'Choose artwork' })).toBeEnabled();
  await page
    .getByLabel('Artwork to trace')
    .setInputFiles({ name: 'star.svg', mimeType: 'image/svg+xml', buffer: STAR });
  const answer = page.getByRole('heading', { level: 1 });
  await expect(answer).toContainText('One line');
  await page
    .getByLabel('Printed and cut on')
    .selectOption({ label: 'Honey-label desk rig / gloss label sheet' });
  await page.getByRole('button', { name: 'Lay it out' }).click();
  await page.waitForURL(/jobs\/sheets\//);
  const held = async (): Promise<number> =>
    Number(/^(\d{1,4}) pieces/.exec((await answer.textContent())!)![1]);
  await expect(answer).toContainText('pieces on one sheet');
  const before = await held();
  await unfold(page, 'Less waste');
  await page.getByRole('button', { name: 'See what it saves' }).click();
  await expect(page.getByText(/% more from the same media/)).toBeVisible();
  await page.getByRole('button', { name: 'Stop looking' }).click();
  await expectSoundAtAllWidths(page);
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect.poll(held).toBeGreaterThan(before);
  const nested = await held();
  await page.getByRole('button', { name: 'Back to rectangles' }).click();
  await expect.poll(held).toBe(before);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(held).toBe(nested);
  await page.getByRole('button', { name: 'Freeze it for printing' }).click();
  await expect(answer).toContainText(/is frozen/);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'DXF', exact: true }).first().click(),
  ]);
  const cut = readCutFile(readFileSync((await download.path())!, 'utf8'));
  if (!cut.ok) throw new Error(cut.refusal.code);
  expect(cut.value.drawing.paths.filter((p) => p.layer === 'kiss-cut')).toHaveLength(nested);
  expect(errors).toEqual([]);
});
