import { expect, test } from '@playwright/test';

import { addPlainRig, deskIsReady } from './operator';
import { expectSoundAtAllWidths, listenForErrors } from './sound';

test('gaps by ruler and a pasted table count with the combs, and are taken back', async ({ page }) => {
  const errors = listenForErrors(page);

  await addPlainRig(page, 'Ruler rig', 'test card');
  await page
    .getByRole('region', { name: 'Ruler rig, test card' })
    .getByRole('button', { name: 'Calibrate' })
    .click();
  await page.getByRole('button', { name: /printed and cut/i }).click();
  await deskIsReady(page);
  await page.getByText('Read it another way').click();
  const gap = (label: string) => page.getByRole('textbox', { name: `${label}, mm` });
  await gap('Shape’s middle, from the left edge').fill('60');
  await gap('from the near edge').fill('80');
  await gap('Gap left').fill('1.5');
  await page.getByRole('button', { name: 'Keep these gaps' }).click();
  await expect(page.getByText('Measure this side too, or leave both out.')).toBeVisible();
  await gap('Gap right').fill('2.5');
  await gap('Border as designed').fill('2');
  await page.getByRole('button', { name: 'Keep these gaps' }).click();
  const kept = page.getByRole('group', { name: 'Read another way' });
  await expect(kept.getByRole('row', { name: /G1.*0.50 mm right/ })).toBeVisible();
  const table = page.getByLabel('Rows from a spreadsheet or CSV');
  await table.fill('x, y\n1, 2');
  await page.getByRole('button', { name: 'Keep this table' }).click();
  await expect(page.getByText(/No column holds dx/)).toBeVisible();
  await expect(table).toHaveValue('x, y\n1, 2');
  await table.fill('id,x,y,dx,dy\n1,20,20,0.5,0.1\n2,190,20,0.5,0.1\n3,20,270,0.5,0.1\n4,190,270,0.5,0.1');
  await page.getByRole('button', { name: 'Keep this table' }).click();
  await expect(kept.getByRole('row')).toHaveCount(6);
  await page.getByRole('button', { name: 'Take T-4 back' }).click();
  await expect(kept.getByRole('row')).toHaveCount(5);
  await expectSoundAtAllWidths(page);
  await page.getByRole('button', { name: 'See what these say' }).click();
  await expect(page.locator('h1.answer')).toContainText('0.50 mm right');
  expect(errors).toEqual([]);
});
