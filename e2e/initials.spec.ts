import { expect, test, type Page } from '@playwright/test';

import { allSaved, readByKeys, wholeSheet } from './operator';
import { expectSound } from './sound';

async function discard(page: Page): Promise<void> {
  await page.getByText('Started by mistake?').click();
  await page.getByRole('button', { name: 'Discard this session' }).click();
  await page.waitForURL(/\/logbook\//);
}

async function calibrate(page: Page): Promise<void> {
  await page.goto('/calibrate');
  const row = page.getByRole('row', { name: /Honey-label desk rig/ });
  await row.getByRole('button', { name: /Calibrate|Go on/ }).click();
  await page.waitForURL(/\/(print|read|correct|prove)$/);
}

test.use({ storageState: { cookies: [], origins: [] } });

test('initials are asked for at the first thing kept, and what waited goes on; a mistake is discarded', async ({
  page,
}) => {
  await page.goto('/calibrate');
  const row = page.getByRole('row', { name: /Honey-label desk rig/ });
  await row.getByRole('button', { name: 'Quick check' }).click();
  const asked = page.getByRole('dialog', { name: 'Who is at the machine?' });
  await expect(asked).toBeVisible();
  await expectSound(page);
  await page.keyboard.type('42');
  await page.keyboard.press('Enter');
  await expect(asked.getByText('One to four letters')).toBeVisible();
  await asked.getByLabel('Initials').fill('im');
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/(print|read|prove)$/);
  await expect(page.locator('#who')).toHaveValue('IM');

  await discard(page);
  await expect(page.getByRole('heading', { name: /Discarded by IM/ })).toBeVisible();
  await page.goto('/logbook');
  await expect(page.getByRole('row', { name: /discarded/ }).first()).toContainText('IM');
});

test('two tablets on one session: each sees what the other read; a late reading voids a proposal', async ({
  page,
  context,
}) => {
  await context.addCookies([{ name: 'who', value: 'KT', url: process.env.RED_PLUMB_TEST_URL! }]);
  await calibrate(page);
  // One that another test left open is not this one’s.
  if (!page.url().endsWith('/print')) {
    await discard(page);
    await calibrate(page);
  }
  await wholeSheet(page);
  await page.getByRole('button', { name: /It is cut/ }).click();
  await page.waitForURL(/read$/);
  const other = await context.newPage();
  await other.goto(page.url());
  await readByKeys(page, 2);
  await allSaved(page);
  await expect(other.getByRole('heading', { name: 'So far, 2 of' })).toBeVisible();
  // The comb at hand was read over there meanwhile: on to the next that is open.
  await other.keyboard.press('PageDown');
  await other.keyboard.press('PageDown');
  await readByKeys(other, 1);
  await expect(page.getByRole('heading', { name: 'So far, 3 of' })).toBeVisible();
  await page.getByRole('button', { name: /See what these say/ }).click();
  await page.waitForURL(/correct$/);
  // A reading of the other makes what was proposed void: both are back at reading.
  await readByKeys(other, 1);
  await page.waitForURL(/read$/);
  await discard(page);
});
