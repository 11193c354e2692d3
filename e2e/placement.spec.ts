import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';

import { asDxf } from '../test/foreignFiles';
import { linesOfDxf } from '../test/machine/readers';

import { expectSoundAtAllWidths, listenForErrors } from './sound';

test('a mark will not read: driven to by hand, the cut file comes back where the print lies', async ({
  page,
}) => {
  const errors = listenForErrors(page);
  await page.goto('/');
  await page.getByRole('heading', { level: 1 }).waitFor();
  await page.keyboard.press('m');
  await page.getByRole('link', { name: 'Drive the tool to the marks by hand' }).click();
  await page.getByRole('link', { name: 'Deck-plan desk rig / matt paper 160 g' }).click();
  const field = (mark: number, what: string) => page.getByLabel(`Mark ${mark}, ${what}, mm`, { exact: true });
  const at = async (mark: number): Promise<[number, number]> => [
    Number(await field(mark, 'x in the file').inputValue()),
    Number(await field(mark, 'y in the file').inputValue()),
  ];
  await expect(field(1, 'x of the tool')).toBeEnabled();
  for (const mark of [1, 2]) {
    const [x, y] = await at(mark);
    await field(mark, 'x of the tool').fill(String(x + 3));
    await field(mark, 'y of the tool').fill(mark === 1 ? 'four' : String(y - 1.5));
  }
  await expect(page.getByText('“four” is not a length')).toBeVisible();
  await field(1, 'y of the tool').fill(String((await at(1))[1] - 1.5));
  await expect(page.getByRole('heading', { level: 1 })).toContainText('3.00 mm right and 1.50 mm back');
  await expectSoundAtAllWidths(page);
  await page.getByLabel('Cut file to move').setInputFiles({
    ...{ name: 'plan.dxf', mimeType: 'image/vnd.dxf' },
    buffer: Buffer.from(asDxf([[20, 30, 120, 30]])),
  });
  const coming = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save plan-moved.dxf' }).click();
  const made = linesOfDxf(readFileSync(await (await coming).path(), 'utf8'));
  expect(made.flat().map((v) => Math.round(v * 1000) / 1000)).toEqual([23, 28.5, 123, 28.5]);
  // Other figures: what was moved by the old ones is no longer offered.
  await field(1, 'x of the tool').fill('999');
  await expect(page.getByRole('link', { name: /^Save/ })).toHaveCount(0);
  await expect(page.getByText(/further apart than they are in the file/)).toBeVisible();
  expect(errors).toEqual([]);
});
