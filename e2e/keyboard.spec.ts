import { expect, test } from '@playwright/test';

import { benchAct, allSaved, deskIsReady, readByKeys } from './operator';
import { expectQuiet } from './quiet';
import { expectSound, listenForErrors, tabTo } from './sound';

test('one whole calibration by keyboard alone, with every screen free of accessibility violations', async ({
  page,
}) => {
  const errors = listenForErrors(page);
  await page.goto('/calibrate');
  await expectSound(page);
  await page.getByRole('row', { name: /Honey-label desk rig/ }).waitFor();
  // The first row's buttons are the deck-plan rig's; the second row's are ours.
  await tabTo(page, 'Quick check');
  await tabTo(page, 'Quick check');
  await tabTo(page, 'Calibrate');
  await page.keyboard.press('Enter');
  await page.waitForURL(/print$/);
  await expectSound(page);
  // It was proved before: two picks would do.
  await tabTo(page, /^(Short|Full)/);
  if (await page.getByRole('radio', { name: /^Short/ }).isChecked()) await page.keyboard.press('ArrowDown');
  await page.getByRole('heading', { name: /Then read 9 stations/ }).waitFor();
  await expectQuiet(page, 'Print, full', 100);
  await tabTo(page, 'It is cut');
  await page.keyboard.press('Enter');

  await page.waitForURL(/read$/);
  await expect(page.getByRole('heading', { name: /where does the cut line cross/ })).toBeVisible();
  await expectSound(page);
  await readByKeys(page, 3);
  // Leave and come back: the same place, nothing lost.
  await allSaved(page);
  const heading = await page.locator('h1.answer').textContent();
  await page.reload();
  await expect(page.locator('h1.answer')).toHaveText(heading!);
  await expect(page.getByRole('heading', { name: 'So far, 3 of 18 combs' })).toBeVisible();
  await expectQuiet(page, 'Read', 110);
  // Take one back and undo it.
  await deskIsReady(page);
  // Figures are typed as well as nudged: what the scale does not have is told, and what was there stays.
  await page.keyboard.type('2.5');
  await expect(page.getByRole('status').filter({ hasText: '2.5' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^On, \+2\.5 mm/ })).toBeVisible();
  await page.keyboard.type('9');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/The cross goes from/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^On, \+2\.5 mm/ })).toBeVisible();
  await page.keyboard.type('0');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^On, 0\.0 mm/ })).toBeVisible();
  await page.keyboard.press('PageUp');
  await page.keyboard.press('Delete');
  await expect(page.getByRole('heading', { name: 'So far, 2 of 18 combs' })).toBeVisible();
  await tabTo(page, 'Undo');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'So far, 3 of 18 combs' })).toBeVisible();
  await page.keyboard.press('PageDown');
  await expectSound(page);
  await readByKeys(page);
  await allSaved(page);
  await tabTo(page, 'See what it says');
  await page.keyboard.press('Enter');

  await page.waitForURL(/correct$/);
  await expect(page.locator('h1.answer')).toContainText('Type Side');
  // This machine shows sign and size apart, and says which to touch.
  await expect(page.getByText(/(sign to (minus|plus)|Keep (minus|plus))/).first()).toBeVisible();
  await expectQuiet(page, 'Correct', 100);
  await expectSound(page);
  await tabTo(page, /prove it$/);
  await page.keyboard.press('Enter');

  await page.waitForURL(/prove$/);
  await expect(page.locator('h1.answer')).toContainText('Do not unload yet');
  await expectSound(page);
  await tabTo(page, 'Set B is cut');
  await page.keyboard.press('Enter');
  await page.waitForURL(/read$/);
  await readByKeys(page);
  await allSaved(page);
  await tabTo(page, 'See what it says');
  await page.keyboard.press('Enter');
  await page.waitForURL(/prove$/);
  await expect(page.locator('h1.answer')).toContainText(/^Plumb: 95 of 100 cuts stay within 0\.\d\d mm/);
  await expectQuiet(page, 'Prove', 90);
  await expectSound(page);
  await tabTo(page, 'Close: it is proved');
  await page.keyboard.press('Enter');
  await page.waitForURL(/logbook\//);
  await expect(page.locator('h1.answer')).toContainText('Calibrated by');
  await expectSound(page);
  expect(errors).toEqual([]);
});

test('a quick check is one station and two picks', async ({ page }) => {
  await page.goto('/');
  await (await benchAct(page, /^Roll rig, gloss/, 'Quick check')).click();
  await page.waitForURL(/print$/);
  await page.getByRole('button', { name: /It is cut/ }).click();
  await page.waitForURL(/read$/);
  expect(await readByKeys(page)).toBe(2);
  await allSaved(page);
  await page.getByRole('button', { name: 'See what it says' }).click();
  await page.waitForURL(/prove$/);
  await expect(page.locator('h1.answer')).toContainText('at the place that was read');
});
