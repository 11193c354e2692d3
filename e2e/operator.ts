import { expect, type Locator, type Page } from '@playwright/test';

/*
 * An operator who looks at the simulated loupe and works the keys. What is pressed comes from the picture
 * on the screen (which printed line a cut line runs into), not from any figure the application computes.
 */

/** Places of the lines of one colour in the small loupe picture, on the measured axis, px. */
async function lines(page: Page, colour: 'print' | 'cut'): Promise<number[]> {
  const loupe = page.locator('section', { hasText: 'Loupe of the simulated rig' }).locator('svg');
  return loupe.locator(`path[stroke="var(--rp-${colour})"]`).evaluateAll((paths) =>
    paths.map((path) => {
      const d = path.getAttribute('d') ?? '';
      const [x, y] = d.slice(1).split(/[ VH]/).map(Number) as [number, number];
      return d.includes('V') ? x : y;
    }),
  );
}

/** How many presses of the right (or up) key match the picture; negative: left (or down). */
async function pressesNeeded(page: Page, coarse: boolean): Promise<number> {
  const cut = await lines(page, 'cut');
  // In the coarse picture the first printed path is the axis itself.
  const printed = (await lines(page, 'print')).slice(coarse ? 1 : 0);
  let best = { index: 0, gap: Infinity };
  printed.forEach((p, index) => {
    for (const c of cut) if (Math.abs(c - p) < best.gap) best = { index, gap: Math.abs(c - p) };
  });
  const middle = (printed.length - 1) / 2;
  return best.index - middle;
}

/** Nudges the large picture by keys until it looks like the loupe. */
export async function matchByKeys(page: Page): Promise<{ readonly coarse: boolean }> {
  const heading = (await page.locator('h1.answer').textContent()) ?? '';
  const coarse = heading.includes('cross the cross');
  const along = heading.includes('along the feed');
  const presses = await pressesNeeded(page, coarse);
  const key = along ? (presses > 0 ? 'ArrowUp' : 'ArrowDown') : presses > 0 ? 'ArrowRight' : 'ArrowLeft';
  for (let i = 0; i < Math.abs(presses); i += 1) await page.keyboard.press(key);
  return { coarse };
}

/** The reading desk takes keys once its sums are loaded. */
export const deskIsReady = (page: Page): Promise<void> =>
  page.locator('fieldset.keys:enabled').first().waitFor();

/** Reads every comb that is left, by keys alone; stops after `most` combs. */
export async function readByKeys(page: Page, most = Infinity): Promise<number> {
  let kept = 0;
  await deskIsReady(page);
  while (kept < most) {
    const { coarse } = await matchByKeys(page);
    const before = await soFar(page);
    await page.keyboard.press('Enter');
    if (coarse) {
      await page.locator('h1.answer', { hasText: 'runs straight through' }).waitFor();
      continue;
    }
    kept += 1;
    const [done, all] = await until(page, before);
    if (done === all) break;
  }
  return kept;
}

/** How many readings are kept, of how many. */
export async function soFar(page: Page): Promise<[number, number]> {
  const words = (await page.getByRole('heading', { name: /^So far/ }).textContent()) ?? '';
  const [done, all] = words.match(/\d+/g)!.map(Number) as [number, number];
  return [done, all];
}

async function until(page: Page, before: [number, number]): Promise<[number, number]> {
  // A page that hears of the log meanwhile may show an older count for a moment.
  await expect(async () => expect((await soFar(page))[0]).toBeGreaterThan(before[0])).toPass({
    timeout: 45_000,
  });
  return soFar(page);
}

/** Waits until nothing is left unsaved. */
export const allSaved = (page: Page): Promise<void> => page.getByText('All saved.').waitFor();

/** Adds a rig with a medium as the form has it at first; back on the bench. */
export async function addPlainRig(page: Page, name: string, media: string): Promise<void> {
  await page.goto('/rigs/new');
  await unfoldAll(page);
  for (const [label, text] of [
    ['Name', name],
    ['Media', media],
    ['Printer', 'p'],
    ['Cutter', 'c'],
  ] as const)
    await page.getByLabel(label, { exact: true }).fill(text);
  await page.getByRole('radio', { name: 'none', exact: true }).check();
  await page.getByRole('button', { name: 'Add this rig' }).click();
}

/** Presses what is folded open, as a person does: it is remembered, and stays open when the page lays itself out anew. */
export const unfold = (page: Page, words: string): Promise<void> =>
  page
    .locator('details > summary', { hasText: words })
    .first()
    .evaluate((summary) => {
      if (!(summary.parentElement as HTMLDetailsElement).open) (summary as HTMLElement).click();
    });

/** Lays a sheet out anew: waits until it is. */
export const laidOut = (page: Page): Promise<void> =>
  page.locator('.stack[aria-busy="false"]').first().waitFor();

/** Every term, where a rig that was proved before opens with two picks. */
export async function wholeSheet(page: Page): Promise<void> {
  const full = page.getByRole('radio', { name: /^Full/ });
  if (await full.isChecked()) return;
  await full.check();
  await page.getByRole('heading', { name: /Then read \d+ stations/ }).waitFor();
}

/** The same with everything that is folded. */
export const unfoldAll = (page: Page): Promise<void> =>
  page.locator('details.fold').evaluateAll((folds) =>
    folds.forEach((d) => {
      if (!(d as HTMLDetailsElement).open) d.querySelector('summary')!.click();
    }),
  );

/** One of a setup's acts on the Bench, brought out from behind More where it is there. */
export async function benchAct(page: Page, row: RegExp | string, act: RegExp | string): Promise<Locator> {
  const region = page.getByRole('region', { name: row });
  await region.waitFor();
  const found = region.locator('.acts').locator('a, button').filter({ hasText: act }).first();
  if (!(await found.isVisible())) await region.locator('.more-acts > summary').click();
  return found;
}
