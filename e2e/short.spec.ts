import { expect, test, type Page } from '@playwright/test';

import pg from 'pg';

import { benchAct, addPlainRig, unfold } from './operator';
import { expectSound, expectSoundAtAllWidths, listenForErrors } from './sound';

/*
 * Two picks and two answers, on the simulated rig: what is pressed comes from the pictures of its loupe, and every press and
 * key is counted, from Calibrate to “plumb in the middle”.
 */

type Axis = 'across' | 'along';

/** Places of the lines of one colour in a loupe, on the measured axis, px. */
const lines = (page: Page, axis: Axis, colour: 'print' | 'cut'): Promise<number[]> =>
  page
    .getByTestId(`loupe-${axis}`)
    .locator(`path[stroke="var(--rp-${colour})"]`)
    .evaluateAll((paths) =>
      paths.map((path) => {
        const d = path.getAttribute('d') ?? '';
        const [x, y] = d.slice(1).split(/[ VH]/).map(Number) as [number, number];
        return d.includes('V') ? x : y;
      }),
    );

/** How many lines from the middle the pair lies that runs straight through. */
async function straightThrough(page: Page, axis: Axis): Promise<number> {
  const [printed, cut] = [await lines(page, axis, 'print'), await lines(page, axis, 'cut')];
  let best = { index: 0, gap: Infinity };
  printed.forEach((p, index) => {
    for (const c of cut) if (Math.abs(c - p) < best.gap) best = { index, gap: Math.abs(c - p) };
  });
  return best.index - (printed.length - 1) / 2;
}

const KEYS = { across: ['ArrowRight', 'ArrowLeft'], along: ['ArrowUp', 'ArrowDown'] } as const;
const BUTTONS = {
  across: ['One to the right', 'One to the left'],
  along: ['One further', 'One back'],
} as const;

/** What another test left open is thrown away. */
async function nothingOpen(page: Page, rig: string): Promise<void> {
  await page.goto('/calibrate');
  const goOn = page.getByRole('row', { name: new RegExp(rig) }).getByRole('button', { name: 'Go on' });
  if ((await goOn.count()) === 0) return;
  await goOn.click();
  await page.getByText('Started by mistake?').click();
  await page.getByRole('button', { name: 'Discard this session' }).click();
  await page.waitForURL(/logbook/);
}

/** Somebody bumps the simulated rig: it is off, whatever other tests left of it. */
async function bump(rig: string): Promise<void> {
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL! });
  await client.connect();
  await client.query(
    `update setups set simulation = jsonb_set(jsonb_set(simulation,
       '{truth,shiftXMm}', to_jsonb((simulation->'truth'->>'shiftXMm')::float8 + 0.3)),
       '{truth,shiftYMm}', to_jsonb((simulation->'truth'->>'shiftYMm')::float8 - 0.2))
     where rig_id = (select id from rigs where name = $1)`,
    [rig],
  );
  await client.end();
}

async function toRead(page: Page, rig: string): Promise<number> {
  await nothingOpen(page, rig);
  await bump(rig);
  let presses = 0;
  const press = async (name: string | RegExp): Promise<void> => {
    presses += 1;
    await page.getByRole('button', { name }).click();
  };
  await page.goto('/calibrate');
  presses += 1;
  await page
    .getByRole('row', { name: new RegExp(rig) })
    .getByRole('button', { name: 'Calibrate' })
    .click();
  await page.waitForURL(/print$/);
  // What was chosen last is remembered.
  const short = page.getByRole('radio', { name: /^Short/ });
  if (!(await short.isChecked())) {
    presses += 1;
    await short.check();
    await page.getByRole('heading', { name: /Then two picks/ }).waitFor();
  }
  await press(/It is cut/);
  await page.waitForURL(/read$/);
  await page.locator('fieldset.short-hand:enabled').first().waitFor();
  return presses;
}

test('first calibration short: at most 14 keys and 3 presses to “plumb in the middle”', async ({ page }) => {
  const errors = listenForErrors(page);
  const presses = await toRead(page, 'Honey-label desk rig');
  // A short one has no Correct.
  const steps = page.getByRole('navigation', { name: 'Places' }).getByRole('listitem');
  await expect(steps).toHaveText(['Bench', 'Calibrate', 'Print', 'Read', 'Prove', 'Jobs', 'Logbook']);
  // Nothing is proposed before both combs stand.
  await expect(page.getByText('As soon as both combs stand.')).toBeVisible();
  let keys = 0;
  const key = async (name: string): Promise<void> => {
    keys += 1;
    await page.keyboard.press(name);
  };
  for (const axis of ['across', 'along'] as const) {
    const by = await straightThrough(page, axis);
    for (let i = 0; i < Math.abs(by); i += 1) await key(KEYS[axis][by > 0 ? 0 : 1]);
  }
  // A comb that already runs straight through at its middle stands by one Enter.
  if (await page.getByText('As soon as both combs stand.').isVisible()) await key('Enter');
  await expect(page.getByTestId('to-Side')).toBeVisible();
  await key('Enter');
  await page.waitForURL(/prove$/);
  await page.locator('.confirm-answers .btn:enabled').first().waitFor();
  await expectSound(page);
  await key('y');
  await key('y');
  await expect(page.locator('h1.answer')).toContainText('Plumb in the middle');
  // What nobody saw is said.
  await expect(page.getByText(/in the worst corner/)).toBeVisible();
  expect(keys).toBeLessThanOrEqual(14);
  expect(presses).toBeLessThanOrEqual(3);
  await expectSoundAtAllWidths(page);
  await page.keyboard.press('Enter');
  await page.waitForURL(/logbook/);
  expect(errors).toEqual([]);
});

test.describe('by thumb', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

  test('both combs, what to type and the act are in one screen at 390 wide; a no opens the combs; the full sheet loses nothing', async ({
    page,
  }) => {
    await toRead(page, 'Honey-label desk rig');
    await expectSound(page);
    for (const axis of ['across', 'along'] as const) {
      const by = await straightThrough(page, axis);
      const button = page.getByRole('button', { name: BUTTONS[axis][by > 0 ? 0 : 1] });
      for (let i = 0; i < Math.abs(by); i += 1) await button.tap();
      // Straight through at the middle: there and back.
      if (by === 0) {
        await button.tap();
        await page.getByRole('button', { name: BUTTONS[axis][0] }).tap();
      }
      await expect(button).toBeInViewport();
      await expect(page.getByRole('img', { name: new RegExp(`^Comb ${axis}`) })).toBeInViewport({ ratio: 1 });
      await expect(page.getByTestId(`reads-${axis}`)).toBeInViewport();
    }
    const act = page.locator('.short-dock .big-act');
    await expect(act).toBeInViewport({ ratio: 1 });
    expect(await page.evaluate(() => window.scrollY)).toBe(0);
    // Its log may say to leave it: then it is typed all the same.
    if ((await act.textContent())?.startsWith('Leave')) {
      await unfold(page, 'Another way');
      await page.getByRole('button', { name: 'Typed: cut set B' }).tap();
    } else await act.tap();
    await page.waitForURL(/prove$/);
    await page
      .getByRole('region', { name: /^Across/ })
      .getByRole('button', { name: 'No' })
      .tap();
    await page
      .getByRole('region', { name: /^Along/ })
      .getByRole('button', { name: 'Yes' })
      .tap();
    await page.getByRole('button', { name: 'One to the right' }).tap();
    await page.getByRole('button', { name: 'Keep both' }).tap();
    await expect(page.locator('h1.answer')).toContainText('n the middle');
    await unfold(page, 'Something else');
    await page.getByRole('button', { name: 'Full sheet instead' }).tap();
    await page.waitForURL(/print$/);
    await expect(page.getByRole('heading', { name: /Then read 9 stations/ })).toBeVisible();
  });
});

test('a ring that is broken: the coarse scales first, and the combs say whole lengths', async ({ page }) => {
  await addPlainRig(page, 'Two picks', 'short card');
  await (await benchAct(page, 'Two picks, short card', 'Calibrate')).click();
  await page.getByRole('radio', { name: /^Short/ }).check();
  await page.getByRole('heading', { name: /Then two picks/ }).waitFor();
  await page.getByRole('button', { name: /It is cut/ }).click();
  await page.locator('fieldset.short-hand:enabled').first().waitFor();
  await page.keyboard.press('c');
  for (let i = 0; i < 5; i += 1) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.type('0');
  await page.keyboard.press('Enter');
  // 2.5 mm on the coarse scale: the comb repeats every 1.1 mm.
  await expect(page.getByTestId('reads-across')).toHaveText(/^\+2\.[0-9]+$/);
  await page.keyboard.press('Enter');
  await expect(page.getByText('Push: nobody knows yet which way')).toBeVisible();
});
