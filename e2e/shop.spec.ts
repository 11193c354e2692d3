import { expect, test, type Page } from '@playwright/test';

import { benchAct, allSaved, readByKeys, unfold, unfoldAll } from './operator';
import { expectSound } from './sound';

/* One machine, two media: whichever page says what it shows, it says the same. */

const MEDIA = { vinyl: 'gloss white vinyl', film: 'clear film, reversed' } as const;

async function openSetup(page: Page, medium: string): Promise<void> {
  await page.goto('/');
  await page
    .getByRole('region', { name: `Roll rig, ${medium}` })
    .getByRole('link', { name: medium })
    .click();
  await page.waitForURL(/setups\/[0-9a-f-]{36}$/);
  await page.getByRole('heading', { level: 1, name: medium }).waitFor();
}

/** What the rig’s home says that the machine shows, by setting. */
async function shown(page: Page): Promise<Record<string, string>> {
  await page.goto('/');
  await page.getByRole('link', { name: 'Roll rig', exact: true }).click();
  await page.getByText('The machine shows now').waitFor();
  const cells = page.locator('[data-testid^="shows-"]');
  const found: Record<string, string> = {};
  for (const cell of await cells.all())
    found[(await cell.getAttribute('data-testid'))!.replace('shows-', '')] = (await cell.textContent())!;
  return found;
}

/** What the change-over card of a medium says: from what to what each figure is typed. */
async function card(
  page: Page,
  medium: string,
): Promise<{ name: string; from: string | null; to: string }[]> {
  await openSetup(page, medium);
  const over = page.getByRole('link', { name: 'Change over', exact: true });
  if (!(await over.isVisible())) await page.getByText('More acts').click();
  await over.click();
  await page.getByRole('heading', { name: /now gets/ }).waitFor();
  const rows = await page.locator('.change-row').all();
  return Promise.all(
    rows.map(async (row) => {
      const to = row.locator('[data-testid^="to-"]');
      const from = row.locator('.from');
      return {
        name: (await to.getAttribute('data-testid'))!.replace('to-', ''),
        from: (await from.count()) > 0 ? await from.textContent() : null,
        to: (await to.textContent())!,
      };
    }),
  );
}

async function changeOver(page: Page, medium: string): Promise<void> {
  await card(page, medium);
  await page.getByRole('button', { name: 'The machine shows them all' }).click();
  await page.getByRole('heading', { name: 'The machine shows what it wants' }).waitFor();
}

/** Every page that says what the Roll rig’s cutter shows says the same. */
async function expectOneTruth(page: Page): Promise<Record<string, string>> {
  const shows = await shown(page);
  for (const medium of Object.values(MEDIA)) {
    for (const row of await card(page, medium)) {
      const says = row.from ?? row.to;
      expect(`${medium}: ${row.name} ${says}`).toBe(`${medium}: ${row.name} ${shows[row.name]}`);
    }
    await openSetup(page, medium);
    for (const [name, figure] of Object.entries(shows)) {
      const other = page.getByTestId(`shows-${name}`);
      const says = (await other.count()) > 0 ? other : page.getByTestId(`wants-${name}`);
      await expect(says).toHaveText(figure);
    }
  }
  await page.goto('/');
  const group = page.getByRole('region', { name: 'On the rig Roll rig' });
  for (const [name, figure] of Object.entries(shows)) await expect(group).toContainText(`${name} ${figure}`);
  return shows;
}

test('one medium is calibrated; the other’s pages say what the machine shows, and what to type first', async ({
  page,
}) => {
  const before = await expectOneTruth(page);
  // The machine is at the vinyl’s figures: the film is not measured with them.
  await openSetup(page, MEDIA.film);
  await expect(page.getByRole('heading', { name: 'It wants' })).toBeVisible();
  await expectSound(page);
  await page.getByRole('button', { name: 'Calibrate', exact: true }).click();
  await expect(page.getByText(/Change the rig over to it first/)).toBeVisible();

  await changeOver(page, MEDIA.film);
  const film = await expectOneTruth(page);
  expect(film).not.toEqual(before);

  await openSetup(page, MEDIA.film);
  await page.getByRole('button', { name: 'Calibrate', exact: true }).click();
  await page.waitForURL(/print$/);
  await page.getByRole('button', { name: /It is cut/ }).click();
  await page.waitForURL(/read$/);
  await readByKeys(page);
  await allSaved(page);
  await page.getByRole('button', { name: 'See what it says' }).click();
  await page.waitForURL(/correct$/);
  const leave = page.getByText('Correct it all the same');
  if (await leave.isVisible()) await leave.click();
  await page.getByRole('button', { name: /prove it$/ }).click();
  await page.waitForURL(/prove$/);
  // Typed, and not proved yet: every page says what the machine shows now.
  const typed = await expectOneTruth(page);
  await page.goto('/');
  await (await benchAct(page, `Roll rig, ${MEDIA.film}`, 'Prove it')).click();
  await page.getByRole('button', { name: 'Set B is cut: read it' }).click();
  await page.waitForURL(/read$/);
  await readByKeys(page);
  await allSaved(page);
  await page.getByRole('button', { name: 'See what it says' }).click();
  await page.waitForURL(/prove$/);
  await page
    .getByRole('button', { name: /^Close/ })
    .first()
    .click();
  await page.waitForURL(/logbook\//);
  expect(await expectOneTruth(page)).toEqual(typed);

  // Back to the vinyl, found at something else: the log has both.
  await card(page, MEDIA.vinyl);
  await page.getByRole('button', { name: 'It showed something else' }).click();
  await page.getByLabel('Offset X showed').fill('about 2');
  await page.getByRole('button', { name: 'The machine shows them all' }).click();
  await expect(page.getByText(/Type what Offset X shows as a number/)).toBeVisible();
  await page.getByLabel('Offset X showed').fill('2,5');
  await page.getByRole('button', { name: 'The machine shows them all' }).click();
  await page.getByRole('heading', { name: 'The machine shows what it wants' }).waitFor();
  expect(await expectOneTruth(page)).toEqual(before);
  await shown(page);
  await unfold(page, 'All terms');
  await expect(page.getByRole('row', { name: /Offset X.*2\.5.*found so/ })).toBeVisible();
  await expect(page.getByText(/on it now/)).toBeVisible();
  await expectSound(page);
});

test('another medium: nothing that the rig knows is typed twice; an earlier correction stands again', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Another medium on Roll rig' }).click();
  await page.getByRole('heading', { name: /everything else is as for/ }).waitFor();
  await expect(page.getByLabel('Sheet width')).toHaveValue('1370');
  await page.getByRole('button', { name: 'Put it on Roll rig' }).click();
  await expect(page.getByText(/Enter the media/)).toBeVisible();
  await page.getByLabel('Media', { exact: true }).fill('reflective film');
  await unfold(page, 'Sheet and allowed miss');
  await page.getByLabel('Allowed miss').fill('0.6');
  await page.getByRole('button', { name: 'Put it on Roll rig' }).click();
  await page.getByRole('heading', { name: 'The machine shows what it wants' }).waitFor();
  await expectSound(page);

  await openSetup(page, MEDIA.vinyl);
  await unfold(page, 'Its standing correction');
  await page
    .getByRole('button', { name: /Use this one again/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: 'It wants' })).toBeVisible();
  await expect(page.getByText('an earlier one, taken back')).toBeVisible();
  // And back again: nobody has to remember what it was.
  await page
    .getByRole('button', { name: /Use this one again/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: 'The machine shows what it wants' })).toBeVisible();
});

test('tools and mats of a cutter: what is wrong is said by its field, what is worn or too small before it runs', async ({
  page,
}) => {
  await shown(page);
  await unfold(page, 'Set up');
  await page.getByText('Fit a tool').click();
  await page.getByLabel('Metres run so far').fill('a few');
  await page.getByRole('button', { name: 'Fit it' }).click();
  await expect(page.getByText('Type metres as a number')).toBeVisible();
  await page.getByLabel('Metres run so far').fill('120');
  await page.getByRole('button', { name: 'Fit it' }).click();
  await expect(page.getByText(/Enter a name, for example/)).toBeVisible();
  await expect(page.getByLabel('Metres run so far')).toHaveValue('120');
  await page.getByLabel('Tool', { exact: true }).fill('wide rotary');
  await page.getByLabel('Kind', { exact: true }).selectOption('rotary');
  await page.getByRole('button', { name: 'Fit it' }).click();
  await expect(page.getByText('120 m run')).toBeVisible();
  await page.getByText('Add a mat').click();
  for (const [label, text] of [
    ['Mat', 'carrier sheet'],
    ['Width, mm', '600'],
    ['Length, mm', 'half a metre'],
  ] as const)
    await page.getByLabel(label, { exact: true }).fill(text);
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByText(/“half a metre” is not a length/)).toBeVisible();
  await page.getByLabel('Length, mm').fill('500');
  await page.getByRole('button', { name: 'Add it' }).click();
  await page.getByLabel('How worn carrier sheet is').selectOption('worn');
  await page.getByText('Reach and start-up').click();
  await page.getByLabel('When it is switched on, a line each').fill('lift the lid\n\nput it online');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('list', { name: 'When it is switched on' }).getByRole('listitem')).toHaveCount(
    2,
  );
  await expectSound(page);

  await openSetup(page, 'reflective film');
  await page.getByRole('link', { name: 'Edit' }).click();
  await page.waitForURL(/edit$/);
  await page.getByLabel('Media', { exact: true }).waitFor();
  await unfoldAll(page);
  await page.getByLabel('Cut with').selectOption({ label: 'wide rotary' });
  await page.getByLabel('On the mat').selectOption({ label: 'carrier sheet' });
  await page.getByLabel('Driver’s page width').fill('1300');
  await page.getByLabel('Driver’s page height').fill('1000');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Back to reflective film' }).click();
  await expect(page.getByText(/stands over the mat carrier sheet, which is 600 × 500 mm/)).toBeVisible();
  await expect(page.getByText(/carrier sheet is worn/)).toBeVisible();
  await expect(page.getByText(/driver is set to 1300 × 1000 mm, the sheet is 1370 × 1000 mm/)).toBeVisible();
  await expectSound(page);
});

test('the bench is searched and filtered without losing what waits', async ({ page }) => {
  await page.goto('/');
  await page.getByLabel('Find rig, medium or job').fill('honey');
  await page.getByLabel('Find rig, medium or job').press('Enter');
  await expect(page).toHaveURL(/find=honey/);
  await expect(page.getByRole('region', { name: /^Honey-label/ })).toBeVisible();
  await expect(page.getByRole('region', { name: /^Roll rig/ })).toHaveCount(0);
  await page.getByRole('link', { name: /^Never proved/ }).click();
  await expect(page.getByText('Nothing on the bench is called or waits like that.')).toBeVisible();
  await page.getByRole('link', { name: 'Show all of it' }).click();
  await expect(page.getByRole('region', { name: 'On the rig Roll rig' })).toBeVisible();
});

test('the shop says in which zone its days are, and the logbook writes them so', async ({ page }) => {
  await page.goto('/logbook');
  const first = page.locator('tbody tr').first().getByRole('link');
  const before = await first.textContent();
  await page.getByRole('link', { name: 'Shop settings' }).click();
  const zone = page.getByLabel('Time zone');
  await zone.selectOption('Pacific/Kiritimati');
  await page.getByRole('button', { name: 'Keep this' }).press('Enter');
  await page.getByText('Kept.').waitFor();
  await page.getByRole('link', { name: 'Logbook' }).last().click();
  // Fourteen hours before universal time; whatever the server's own is, it is not that.
  await expect(first).not.toHaveText(before!);
  await page.getByRole('link', { name: 'Shop settings' }).click();
  await expect(zone).toHaveValue('Pacific/Kiritimati');
  await zone.selectOption('');
  await page.getByRole('button', { name: 'Keep this' }).press('Enter');
  await page.getByText('Kept.').waitFor();
  await page.goto('/logbook');
  await expect(first).toHaveText(before!);
});
