import { expect, test } from '@playwright/test';
import pg from 'pg';

import { addPlainRig, allSaved, benchAct, deskIsReady, readByKeys, wholeSheet } from './operator';

test('readings taken while the server is away are kept, said, and saved when it is back', async ({
  page,
}) => {
  await page.goto('/calibrate');
  await page
    .getByRole('row', { name: /Roll rig.*gloss/ })
    .getByRole('button', { name: /Calibrate|Go on/ })
    .click();
  await page.waitForURL(/print$/);
  await wholeSheet(page);
  await page.getByRole('button', { name: /It is cut/ }).click();
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

/** The database lets nobody in, and everybody who was in is put out; then all is as before. */
async function withoutDatabase(during: () => Promise<void>): Promise<void> {
  const address = new URL(process.env.DATABASE_URL!);
  const name = address.pathname.slice(1);
  const admin = new pg.Client({ connectionString: Object.assign(address, { pathname: '/postgres' }).href });
  await admin.connect();
  try {
    await admin.query(`alter database ${pg.escapeIdentifier(name)} allow_connections false`);
    await admin.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [name]);
    await during();
  } finally {
    await admin.query(`alter database ${pg.escapeIdentifier(name)} allow_connections true`);
    await admin.end();
  }
}

test('the database stops mid-reading: the screen says so and keeps what was read; back again, it is saved', async ({
  page,
  request,
}) => {
  await page.goto('/calibrate');
  await page
    .getByRole('row', { name: /Honey-label desk rig/ })
    .getByRole('button', { name: /Calibrate|Go on/ })
    .click();
  await page.waitForURL(/print$/);
  await wholeSheet(page);
  await page.getByRole('button', { name: /It is cut/ }).click();
  await page.waitForURL(/read$/);
  await readByKeys(page, 1);
  await allSaved(page);
  await withoutDatabase(async () => {
    await readByKeys(page, 2);
    await expect(page.getByText(/^2 not saved yet. .*tried again by itself/)).toBeVisible();
    expect((await request.get('/api/logbook/json')).status()).toBe(503);
    // What needs no database goes on.
    const station = { id: 'a', x: 1, y: 2, dx: 0.1, dy: 0.2, u: 0.03 };
    expect((await request.post('/api/fit', { data: { stations: [station] } })).status()).toBe(200);
  });
  await allSaved(page);
  await page.reload();
  await expect(page.getByRole('heading', { name: 'So far, 3 of' })).toBeVisible();
});

test('two tablets read one sheet: what one has read the other leaves, and says who read it', async ({
  browser,
}) => {
  const [one, two] = await Promise.all([browser.newPage(), browser.newPage()]);
  await addPlainRig(one, 'Two tablets', 'shared card');
  await (await benchAct(one, 'Two tablets, shared card', 'Calibrate')).click();
  await one.waitForURL(/print$/);
  await wholeSheet(one);
  await one.getByRole('button', { name: /It is cut/ }).click();
  await one.waitForURL(/read$/);
  await Promise.all([deskIsReady(one), two.goto(one.url())]);
  await deskIsReady(two);
  const asked = (await two.locator('h1.answer').textContent())!;
  await one.keyboard.press('Enter');
  await one.locator('h1.answer', { hasText: 'runs straight through' }).waitFor();
  await one.keyboard.press('Enter');
  // Within three seconds, and what the other tablet’s page needs to be drawn.
  await expect(two.getByText(/^KT has read A1 across\.$/)).toBeVisible({ timeout: 6000 });
  await expect(two.locator('h1.answer')).not.toHaveText(asked);
  await expect(two.getByRole('heading', { name: /^So far, 1 of/ })).toBeVisible();
});
