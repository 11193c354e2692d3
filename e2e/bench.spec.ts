import { expect, test } from '@playwright/test';

import { benchAct, unfold, unfoldAll } from './operator';
import { expectSound, expectSoundAtAllWidths, listenForErrors } from './sound';

const PLACES = [
  ...[
    '/',
    '/?show=needs-you',
    '/calibrate',
    '/rigs/new',
    '/logbook',
    '/logbook/shop',
    '/logbook?sort=r95&order=up',
  ],
  ...['/correct', '/jobs', '/jobs/new'],
];

/** Pages of a rig and of a setup, by the links that lead there. */
const LINKED: readonly (readonly [what: string, links: readonly RegExp[]])[] = [
  ['a rig', [/^Roll rig$/]],
  ['a rig’s machines and settings', [/^Roll rig$/, /^Edit$/]],
  ['another medium on a rig', [/^Another medium on Roll rig$/]],
  ['a setup', [/^gloss white vinyl$/]],
  ['what a setup is', [/^gloss white vinyl$/, /^Edit$/]],
  ['drift', [/^gloss white vinyl$/, /^Drift$/]],
  ['a change-over', [/^clear film, reversed$/, /^Change over$/]],
];

test.describe('every place', () => {
  for (const place of PLACES)
    test(`${place} is sound: light and dark, at three widths`, async ({ page }) => {
      const errors = listenForErrors(page);
      await page.goto(place);
      await expectSoundAtAllWidths(page);
      await page.keyboard.press('m');
      await expect(page.getByRole('dialog')).toContainText('Less light');
      await expectSound(page);
      expect(errors).toEqual([]);
    });
  for (const [what, links] of LINKED)
    test(`${what} is sound: light and dark, at three widths`, async ({ page }) => {
      const errors = listenForErrors(page);
      await page.goto('/');
      for (const name of links) {
        const from = page.url();
        // What is seldom needed stands behind a button.
        if (name.source === '^Drift$') await page.getByText('More acts').click();
        await page.getByRole('link', { name }).first().click();
        await page.waitForURL((url) => url.href !== from);
        await page.getByRole('heading', { level: 1 }).waitFor();
      }
      await expectSoundAtAllWidths(page);
      expect(errors).toEqual([]);
    });
});

test('adding a rig: what is wrong is said by its field, what was typed stays, then it is on the bench', async ({
  page,
}) => {
  await page.goto('/rigs/new');
  await unfoldAll(page);
  const field = (name: string) => page.getByLabel(name, { exact: true }).first();
  await page.getByRole('radio', { name: 'none', exact: true }).check();
  await field('Name').fill('Luggage-tag rig');
  await field('Media').fill('tag board');
  await field('Printer').fill('desk printer');
  await field('Sheet width').fill('8 1/2 in');
  await field('Sheet height').fill('eleven');
  await field('Allowed miss').fill('1/0');
  await field('Step').fill('-0.1');
  await page.getByRole('button', { name: 'Add this rig' }).click();
  await expect(page.getByText('“eleven” is not a length. Type a number such as')).toBeVisible();
  await expect(page.getByText('divides by zero')).toBeVisible();
  await expect(field('Sheet height')).toBeFocused();
  await expect(field('Sheet width')).toHaveValue('8 1/2 in');

  await field('Sheet height').fill('11 in');
  await field('Allowed miss').fill('0.3');
  await page.getByRole('button', { name: 'Add this rig' }).click();
  await expect(page.getByText('The step is the smallest change the machine takes')).toBeVisible();
  await expect(field('Name')).toHaveValue('Luggage-tag rig');
  await expectSound(page);

  await field('Cutter').fill('small cutter');
  await field('Step').fill('0.1');
  await page.getByRole('button', { name: 'Letter' }).click();
  await page.getByRole('button', { name: 'Add this rig' }).click();
  const card = page.getByRole('region', { name: 'Luggage-tag rig, tag board' });
  await expect(card).toContainText('Not measured');

  // It can be put away, and the undo puts it back.
  await card.getByRole('link', { name: 'tag board' }).click();
  await unfold(page, 'Put away');
  await page.getByRole('button', { name: 'Put tag board on Luggage-tag rig away' }).click();
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expectSound(page);
  // What happens to it is noted on its rig.
  await page.getByRole('link', { name: 'Luggage-tag rig' }).click();
  await unfold(page, 'Set up');
  await page.getByLabel('Note', { exact: true }).fill('behind the ticket desk');
  await page.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByText('The bench asks for a quick check now.')).toBeVisible();
  // This shop checks after a rest and a new blade, not after every event.
  await page.getByRole('checkbox', { name: 'moved' }).uncheck();
  await page.getByLabel('After so many days without a cut').fill('thirty');
  await page.getByRole('button', { name: 'Keep this' }).click();
  await expect(page.getByText(/Type whole days, for example 30/)).toBeVisible();
  await page.getByLabel('After so many days without a cut').fill('30');
  await page.getByRole('button', { name: 'Keep this' }).click();
  await expect(page.getByText('Kept.')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('checkbox', { name: 'moved' })).not.toBeChecked();
  await expect(page.getByRole('checkbox', { name: 'new blade' })).toBeChecked();
  await expect(page.getByLabel('After so many days without a cut')).toHaveValue('30');
  await expectSound(page);
  await page.goto('/');
  await expect(page.getByRole('region', { name: 'Luggage-tag rig, tag board' })).toBeVisible();
});

test('inches everywhere when inches are chosen, and initials go into the log', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'inch' }).click();
  await expect(page.getByText(/^of 0\.020,/).first()).toBeVisible();
  await page.getByLabel('initials').fill('zq');
  await page.getByLabel('initials').press('Enter');
  await expect
    .poll(async () => (await page.context().cookies()).find((c) => c.name === 'who')?.value)
    .toBe('ZQ');
  await page.goto('/rigs/new');
  await expect(page.getByLabel('Sheet width')).toHaveValue('8.2677');
});

test('an address that leads nowhere says so', async ({ page }) => {
  for (const place of [
    '/logbook/not-an-id',
    '/calibrate/11111111-1111-4111-8111-111111111111',
    '/s/99999',
    '/s/abc',
    '/setups/1',
  ]) {
    const response = await page.goto(place);
    expect(response!.status()).toBe(404);
    await expect(page.getByRole('heading', { name: 'There is nothing at this address.' })).toBeVisible();
  }
});

test('a sheet’s QR address leads to its session', async ({ page }) => {
  await page.goto('/s/0001');
  await expect(page).toHaveURL(/\/(logbook|calibrate)\//);
});

test('a rig of any kind: marks that would be clipped are warned of, settings of every kind are kept as typed', async ({
  page,
}) => {
  await page.goto('/rigs/new');
  await unfoldAll(page);
  const field = (label: string, nth = 0) => page.getByLabel(label, { exact: true }).nth(nth);
  for (const [label, text] of [
    ['Name', 'Odd rig'],
    ['Media', 'foil'],
    ['Printer', 'p'],
    ['Cutter', 'c'],
  ] as const)
    await field(label).fill(text);
  await page.getByRole('radio', { name: 'roll', exact: true }).check();
  await unfoldAll(page);
  await field('What it does').selectOption('scale');
  await field('+1 makes the cut go').selectOption('longer');
  await field('Unit').selectOption('permille');
  await field('Now').fill('-0.4');
  await field('What it does', 1).selectOption('length');
  await field('Commanded, mm').fill('');
  await field('Marks on a sheet').selectOption('1');
  await expect(page.getByText(/laid in comes new every time/)).toBeVisible();
  await field('Inset left').fill('5');
  await expect(page.getByText(/printer leaves 5.0 mm unprinted and would clip it/)).toBeVisible();
  // Marks 5 mm in leave no room for a roller of 20 mm.
  await expect(
    page.getByText(/No roller fits outside the marks on the print’s left: it needs 20 mm/),
  ).toBeVisible();
  await field('Lead').fill('a lot');
  await page.getByLabel('borderless printing').check();
  await expect(page.getByText(/Borderless printing usually enlarges/)).toBeVisible();
  await expectSound(page);
  await page.getByRole('button', { name: 'Add this rig' }).click();
  await expect(page.locator('#settings-1-nominalMm-say')).toContainText(/length/i);
  await expect(page.locator('#roll-leadMm-say')).toContainText('“a lot” is not a length');
  await field('Lead').fill('420');
  await field('Commanded, mm').fill('300');
  await field('Inset left').fill('14');
  await page.getByRole('button', { name: 'Add this rig' }).click();
  const card = page.getByRole('region', { name: 'Odd rig, foil' });
  await card.getByRole('link', { name: 'foil' }).click();
  await page.getByRole('link', { name: 'Edit' }).click();
  await expect(field('Lead')).toHaveValue('420');
  await page.goto('/');
  await (await benchAct(page, 'Odd rig, foil', 'Calibrate')).click();
  await page.waitForURL(/print$/);
  await expect(page.getByText(/Borderless printing usually enlarges/)).toBeVisible();
  await page.getByText('Check bars', { exact: true }).click();
  await page.getByLabel('Bar along, mm').fill('1001');
  await page.getByRole('button', { name: 'Keep what the rule says' }).click();
  const asked = page.getByRole('alertdialog');
  await expect(asked).toContainText('1001.00 mm where 100.00 mm should be.');
  await expectSound(page);
  await asked.getByRole('button', { name: '1001 as typed' }).click();
  await expect(page.getByText(/A check bar is 50 or 100 mm long/)).toBeVisible();
  await expect(page.getByLabel('Bar along, mm')).toHaveValue('1001');
  await page.getByLabel('Bar along, mm').fill('100.9');
  await page.getByRole('button', { name: 'Keep what the rule says' }).click();
  await expect(
    page.getByText('The print is 0.9 % too long: the driver scaled it.', { exact: false }),
  ).toBeVisible();
  await expectSound(page);
});

test('what helped a mark to read is one tap, and comes earlier there the next time', async ({ page }) => {
  await page.goto('/');
  await page.keyboard.press('m');
  const help = page.getByRole('dialog', { name: /A mark will not read/ });
  const matte = help.getByRole('listitem').filter({ hasText: 'Kill the gloss' });
  const helped = help.getByRole('button', { name: 'Kill the gloss: it helped' });
  await helped.click();
  await help.getByText('Say first which rig and medium it is.').waitFor();
  const on = help.getByLabel('On', { exact: true });
  await on.selectOption({ label: 'Roll rig / gloss white vinyl' });
  // The demo’s log: matte tape helped this rig twice.
  await expect(matte).toContainText('helped 2 of 2 times in this shop');
  await helped.press('Enter');
  await help.getByText('Kill the gloss: kept. It comes earlier here the next time.').waitFor();
  await help.getByRole('button', { name: 'Smooth the media: it did not help' }).press('Enter');
  await help.getByText('Smooth the media: kept. Try the next.').waitFor();
  await help.getByRole('button', { name: 'Take it back' }).click();
  await help.getByText('Taken back.').waitFor();
  await page.keyboard.press('Escape');
  await expect(help).toHaveCount(0);
  await page.keyboard.press('m');
  await on.selectOption({ label: 'Roll rig / gloss white vinyl' });
  await expect(matte).toContainText('helped 3 of 3 times in this shop');
  await expect(help.getByRole('listitem').filter({ hasText: 'Smooth the media' })).not.toContainText(
    'in this shop',
  );
});
