import { expect, test } from '@playwright/test';

import { benchAct, addPlainRig, deskIsReady } from './operator';
import { expectSoundAtAllWidths, listenForErrors } from './sound';

test('gaps by ruler and a pasted table count with the combs, and are taken back', async ({ page }) => {
  const errors = listenForErrors(page);

  await addPlainRig(page, 'Ruler rig', 'test card');
  await (await benchAct(page, 'Ruler rig, test card', 'Calibrate')).click();
  await page.getByRole('button', { name: /It is cut/ }).click();
  await deskIsReady(page);
  await page.getByText('Read it another way').click();
  const gap = (label: string) => page.getByRole('textbox', { name: `${label}, mm` });
  await gap('Shape’s middle, from the left edge').fill('60');
  await gap('from the near edge').fill('80');
  await gap('Gap left').fill('1.5');
  await page.getByRole('button', { name: 'Keep these gaps' }).click();
  await expect(page.getByText('With one side of two, say how wide the border should be')).toBeVisible();
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

test('long lengths by tape: the next to measure is proposed, what they say is told, one is taken back', async ({
  page,
}) => {
  const errors = listenForErrors(page);
  await addPlainRig(page, 'Tape rig', 'banner');
  await (await benchAct(page, 'Tape rig, banner', 'Calibrate')).click();
  await page.getByRole('button', { name: /It is cut/ }).click();
  await deskIsReady(page);
  await page.getByText('Read it another way').click();
  const field = (label: string) => page.getByRole('textbox', { name: `${label}, mm` });
  const keep = page.getByRole('button', { name: 'Keep this length' });
  await field('Cut, middle to middle').fill('20');
  await keep.click();
  // What is hardly meant is asked about, and says how long it should be about; what cannot be is refused.
  const asked = page.getByRole('alertdialog');
  await expect(asked).toContainText('20.00 mm where');
  await asked.getByRole('button', { name: '20 as typed' }).click();
  await expect(page.locator('#length-cutMm-say')).toContainText('mm on the sheet');
  const told = page.getByText('By the lengths alone');
  for (let i = 0; i < 6 && !(await told.isVisible()); i += 1) {
    await field('Cut, middle to middle').fill(`3${i}`);
    await keep.click();
    const nominal = Number(/where ([\d.]+) mm should/.exec((await asked.textContent())!)![1]);
    await field('Cut, middle to middle').fill((nominal * 1.002).toFixed(1));
    await keep.click();
    await expect(page.getByRole('group', { name: 'Long lengths' }).getByRole('row')).toHaveCount(i + 2);
  }
  await expect(told).toContainText(/0\.[12]\d %/);
  await expect(page.getByText('it would sharpen this most')).toBeVisible();
  const rows = page.getByRole('group', { name: 'Long lengths' }).getByRole('row');
  const before = await rows.count();
  await page
    .getByRole('button', { name: /^Take the length/ })
    .first()
    .click();
  await expect(rows).toHaveCount(before - 1);
  await expectSoundAtAllWidths(page);
  expect(errors).toEqual([]);
});
