import { expect, test } from '@playwright/test';

import { deskIsReady, matchByKeys, unfold } from './operator';
import { expectSoundAtAllWidths, listenForErrors } from './sound';

/* How well is it read? Some combs of a sheet that was read are read again, by keys, with nothing shown of the first look. */

test('a round is read again, a look is taken back, and the study stands on its page and on the rig’s', async ({
  page,
}) => {
  const errors = listenForErrors(page);
  await page.goto('/logbook?find=Deck-plan&kind=calibration&outcome=plumb');
  await page.locator('tbody').getByRole('link').first().click();
  await page.getByRole('link', { name: 'Read some of it again' }).click();
  await page.waitForURL(/\/again$/);
  await expect(page.getByText('Read one round')).toBeVisible();
  for (let comb = 1; comb <= 10; comb += 1) {
    await page.getByText(`Round 1, comb ${comb} of 10`).waitFor();
    await deskIsReady(page);
    expect(await matchByKeys(page)).toEqual({ coarse: false });
    await page.keyboard.press('Enter');
  }
  await page.getByText('Round 2, comb 1 of 10').waitFor();
  await expect(page.getByText(/differ by more than chance/)).toBeVisible();
  await deskIsReady(page);
  await page.keyboard.press('Delete');
  await page.getByText('Round 1, comb 10 of 10').waitFor();
  await deskIsReady(page);
  await matchByKeys(page);
  await page.keyboard.press('Enter');
  await page.getByText('Round 2, comb 1 of 10').waitFor();
  await expectSoundAtAllWidths(page);
  await page.goto('/');
  await page.getByRole('link', { name: 'Deck-plan desk rig', exact: true }).first().click();
  await unfold(page, 'Set up');
  await expect(page.getByRole('heading', { name: 'How well it is read' })).toBeVisible();
  expect(errors).toEqual([]);
});
