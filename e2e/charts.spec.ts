import { readFileSync } from 'node:fs';

import { expect, test, type Page } from '@playwright/test';

import { unfold } from './operator';
import { expectSoundAtAllWidths, listenForErrors, tabTo } from './sound';

/* A rig’s charts: chosen, brushed, taken along. */

async function openCharts(page: Page): Promise<void> {
  await page.goto('/');
  await page.getByRole('link', { name: 'Roll rig', exact: true }).click();
  await unfold(page, 'All terms');
  await page.getByRole('link', { name: 'All charts' }).click();
  // The term that speaks comes first; these are drawn of another.
  await page.getByRole('img', { name: /shift along of/ }).waitFor();
  await page.getByRole('link', { name: 'shift across' }).click();
  await page.getByRole('img', { name: /shift across of/ }).waitFor();
}

test('every chart of a rig opens, is sound in both themes, and its figures are a table', async ({ page }) => {
  const errors = listenForErrors(page);
  await openCharts(page);
  for (const chart of ['Each load', 'Adds up small drifts', 'All terms at once', 'Running average']) {
    await page.getByRole('navigation', { name: 'Chart' }).getByRole('link', { name: chart }).click();
    await page
      .getByRole('navigation', { name: 'Chart' })
      .locator('[aria-current]', { hasText: chart })
      .waitFor();
    await page.getByText('The figures', { exact: true }).click();
    expect(await page.getByRole('row').count()).toBeGreaterThan(4);
  }
  await expectSoundAtAllWidths(page);
  expect(errors).toEqual([]);
});

test('a part of the record is drawn over, or told by its days by keys; the address keeps it', async ({
  page,
}) => {
  await openCharts(page);
  const dots = page.locator('.wide-chart circle');
  const all = await dots.count();
  const strip = (await page.locator('.brush-strip').boundingBox())!;
  await page.mouse.move(strip.x + 0.5 * strip.width, strip.y + 20);
  await page.mouse.down();
  await page.mouse.move(strip.x + 0.99 * strip.width, strip.y + 24, { steps: 5 });
  await page.mouse.up();
  await page.waitForURL(/from=\d{4}-\d\d-\d\d&to=/);
  await expect.poll(() => dots.count()).toBeLessThan(all);
  const part = await dots.count();
  expect(part).toBeGreaterThan(1);
  await page.reload();
  await expect(dots).toHaveCount(part);
  await page.getByRole('button', { name: 'The whole record' }).focus();
  await page.keyboard.press('Enter');
  await expect(dots).toHaveCount(all);
  // The days, by keys.
  const from = page.getByLabel('from', { exact: true });
  await from.focus();
  // One form of days everywhere; slashes are read two ways by two readers.
  await from.fill('5/6/2026');
  await page.keyboard.press('Enter');
  await expect(from).toHaveAccessibleDescription(/Type a day as 9 Aug 2026\.$/);
  await from.fill('1 Jan 2026');
  await page.keyboard.press('Enter');
  await page.waitForURL(/from=2026-01-01/);
  await expect(from).toHaveValue('1 Jan 2026');
  await tabTo(page, 'The whole record');
});

test('the picture is taken along as SVG and PNG, the figures as CSV', async ({ page }) => {
  await openCharts(page);
  const taken = async (name: string): Promise<Buffer> => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole(name === 'CSV' ? 'link' : 'button', { name, exact: true }).click(),
    ]);
    return readFileSync((await download.path())!);
  };
  const svg = (await taken('SVG')).toString();
  expect(svg).toMatch(/^<svg[^>]*xmlns="http:\/\/www.w3.org\/2000\/svg"/);
  expect(svg).not.toContain('var(--');
  expect(svg.match(/<circle/g)!.length).toBe(await page.locator('.wide-chart circle').count());
  const png = await taken('PNG');
  expect(png.subarray(1, 4).toString()).toBe('PNG');
  // Twice the drawing’s width, from the file’s own header.
  expect(png.readUInt32BE(16)).toBe(1800);
  const rows = (await taken('CSV')).toString().trim().split('\r\n');
  expect(rows[0]).toBe('when,load_mm,statistic,downwards,step_mm,centre,lower,upper,beyond,new');
  expect(rows.length - 1).toBe(await page.locator('.wide-chart circle').count());
});

test('the logbook leads to the charts of the medium that it shows', async ({ page }) => {
  await page.goto('/logbook');
  await page.getByLabel('Rig', { exact: true }).selectOption({ label: 'Roll rig / gloss white vinyl' });
  await page.getByRole('link', { name: 'Charts', exact: true }).click();
  await page.waitForURL(/charts\?medium=/);
  await expect(page.getByRole('img', { name: /shift (across|along) of/ })).toBeVisible();
});
