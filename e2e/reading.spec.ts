import { expect, test } from '@playwright/test';

import { allSaved, readByKeys } from './operator';

test('readings taken while the server is away are kept, said, and saved when it is back', async ({
  page,
}) => {
  await page.goto('/calibrate');
  await page
    .getByRole('row', { name: /Roll rig/ })
    .getByRole('button', { name: /Calibrate|Go on/ })
    .click();
  await page.waitForURL(/print$/);
  await page.getByRole('button', { name: /printed and cut/ }).click();
  await page.waitForURL(/read$/);
  await readByKeys(page, 2);
  await allSaved(page);

  await page.route('**/calibrate/**', (route) =>
    route.request().method() === 'POST' ? route.abort() : route.continue(),
  );
  await readByKeys(page, 2);
  await expect(page.getByText(/^2 not saved yet/)).toBeVisible();
  await expect(page.getByRole('button', { name: /See what these say/ })).toBeDisabled();
  // Even a reload keeps them.
  await page.reload();
  await expect(page.getByText(/^2 not saved yet/)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'So far, 4 of' })).toBeVisible();

  await page.unroute('**/calibrate/**');
  await allSaved(page);
  await page.reload();
  await expect(page.getByRole('heading', { name: 'So far, 4 of' })).toBeVisible();
});
