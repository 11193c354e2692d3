import { expect, test } from '@playwright/test';
import pg from 'pg';

import { allSaved, readByKeys, wholeSheet } from './operator';

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
