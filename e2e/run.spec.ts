import { expect, test, type Page } from '@playwright/test';

import { allSaved, readByKeys, unfold, unfoldAll } from './operator';
import { expectQuiet } from './quiet';
import { expectSound, expectSoundAtAllWidths, listenForErrors } from './sound';

/** The operator's readings: where the cut of each section lies, mm; a slip of 0.6 mm before the third. */
const READ: Readonly<Record<number, readonly [first: [number, number], last: [number, number]]>> = {
  1: [
    [0.12, 0.06],
    [0.2, 0.04],
  ],
  2: [
    [0.01, -0.02],
    [0.0, 0.01],
  ],
  3: [
    [0.63, 0.02],
    [0.6, -0.01],
  ],
  4: [
    [0.03, 0.02],
    [0.05, 0.0],
  ],
};

async function check(page: Page, section: number): Promise<void> {
  const form = page.getByRole('form', { name: `Check section ${section}` });
  for (const [i, place] of (['first row', 'last row'] as const).entries()) {
    const [along, across] = READ[section]![i]!;
    await form.getByRole('button', { name: place, exact: false }).click();
    await form.getByLabel('Along, mm').fill(String(Math.abs(along)));
    await form.getByRole('button', { name: along < 0 ? 'back' : 'further', exact: true }).click();
    await form.getByLabel('Across, mm').fill(String(Math.abs(across)));
    await form.getByRole('button', { name: across < 0 ? 'left' : 'right', exact: true }).click();
    await form.getByRole('button', { name: 'Keep this check' }).click();
    // With its last row read the form is folded; what was read stands beside it.
    await expect(page.getByRole('region', { name: `Read of section ${section}` })).toContainText(
      `${place}, KT`,
    );
  }
}

/** Makes the file of a section, says that it is cut, and hands over what was written. */
async function cut(page: Page, section: number): Promise<{ name: string; text: string }> {
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'SVG', exact: true }).click();
  const file = await download;
  const chunks: Buffer[] = [];
  for await (const chunk of await file.createReadStream()) chunks.push(chunk as Buffer);
  await page.getByRole('button', { name: `Section ${section} is cut with its file` }).click();
  await expect(page.getByRole('form', { name: `Check section ${section}` })).toBeVisible();
  return { name: file.suggestedFilename(), text: Buffer.concat(chunks).toString('utf8') };
}

/** Far edge of the first outline: 110 mm beyond its near edge, as far as the file stretches it. */
/** Along the feed, which is x in this rig’s files. */
function lengthOfFirst(svg: string): number {
  const d = / d="M([^"]+)"/.exec(svg)![1]!;
  const xs = d
    .split(/[^\d.-]+/)
    .filter(Boolean)
    .flatMap((word, i) => (i % 2 === 0 ? [Number(word)] : []));
  return Math.max(...xs) - Math.min(...xs);
}

test('a whole run: planned, released, four sections with checks, a slip, registered anew, laminated, closed', async ({
  page,
}) => {
  const errors = listenForErrors(page);
  await page.goto('/jobs');
  await expectSound(page);
  await page.getByRole('link', { name: 'Plan a run' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Cut 400 luggage tags');
  await unfoldAll(page);
  await page.getByLabel('Job', { exact: true }).fill('gangway signs');
  await page.getByLabel('Copies', { exact: true }).fill('ninety');
  await expect(page.locator('#plan-copies-say')).toHaveText(/Type a number/);
  await expect(page.getByLabel('Copies', { exact: true })).toHaveValue('ninety');
  await page.getByLabel('Copies', { exact: true }).fill('96');
  await page.getByRole('radio', { name: /sections(?!,)/ }).check();
  // Whatever it shows before the plan has followed, it is moved twice.
  await page.getByLabel(/^Rows a section/).fill('3');
  await page.getByLabel(/^Rows a section/).fill('4');
  await expect(page.getByRole('heading', { level: 1 })).toContainText(
    '96 gangway signs in 4 sections of 4 rows',
  );
  await expectSound(page);
  // The one figure: as planned, before the first cut, and in the summary.
  const heading = (await page.getByRole('heading', { level: 1 }).textContent())!;
  const planned = /Expect at most (\d\.\d\d mm until section 1 is checked, then \d\.\d\d mm)/.exec(
    heading,
  )![1]!;
  await page.getByRole('button', { name: 'Freeze this plan' }).click();

  await page.waitForURL(/release$/);
  await expectQuiet(page, 'Release', 180);
  await expectSoundAtAllWidths(page);
  await page.getByRole('button', { name: 'Release the run' }).click();
  await expect(page.getByText(/Not released yet/)).toBeVisible();
  for (const box of await page.getByRole('checkbox').all()) await box.check();
  await page.getByRole('button', { name: 'Release the run' }).click();

  await page.waitForURL(/run$/);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Load section 1 of 4');
  await expect(page.getByRole('heading', { level: 1 })).toContainText(`Expect at most ${planned}`);
  await page.getByRole('button', { name: 'Section 1 is cut with its file' }).click();
  await expect(page.getByText(/No corrected file of section 1 was made yet/)).toBeVisible();
  const first = await cut(page, 1);
  expect(first.name).toMatch(/^R\d+_section-01-of-04_rows-1-4\.svg$/);
  expect(first.text).toContain('<title>Run R');
  await expectQuiet(page, 'Follow', 220);
  await check(page, 1);
  await expectSoundAtAllWidths(page);
  await cut(page, 2);
  await check(page, 2);
  await unfold(page, 'Also');
  await page.getByRole('button', { name: 'Pause the run' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('rests');
  await page.getByRole('button', { name: 'Go on with the run' }).click();
  await cut(page, 3);
  await check(page, 3);
  await expect(page.getByRole('heading', { level: 1 })).toContainText(
    /The cut moved about 0\.[56]\d mm further along between section 2 and 3/,
  );
  // No file before somebody decided; a decision can be taken back.
  await expect(page.getByRole('button', { name: 'SVG', exact: true })).toHaveCount(0);
  await page.getByRole('button', { name: 'Keep it: the files make up for it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Load section 4 of 4');
  await page.getByRole('button', { name: 'Undo: the slip is not kept, section 3' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('moved about');
  await page.getByRole('button', { name: 'Marks read again before section 4' }).click();
  await expect(page.getByRole('heading', { level: 1 })).not.toContainText('moved about');

  // Laminated: 1000 mm became 1001.5 mm, so the cut of the last section is 1.5 mm per m longer.
  const before = page.waitForEvent('download');
  await page.getByRole('button', { name: 'SVG', exact: true }).click();
  await before;
  await page.getByText('It was laminated').click();
  await page.getByLabel('As printed, mm').fill('1000');
  await page.getByLabel('After laminating, mm').fill('1100');
  await page.getByRole('button', { name: 'Put it into the cut' }).click();
  await page.getByRole('button', { name: '1100 as typed' }).click();
  await expect(page.getByText(/laminate stretches by a few tenths/)).toBeVisible();
  await page.getByLabel('After laminating, mm').fill('1001.5');
  await page.getByRole('button', { name: 'Put it into the cut' }).click();
  await expect(page.getByText('1.50 mm per m longer: put into the cut')).toBeVisible();
  const laminated = await cut(page, 4);
  const creepOf = (text: string): number => 110 - lengthOfFirst(text);
  // 110 mm stretched by 1.5 mm per m is 0.165 mm; the creep that is taken out shortens both files alike.
  expect(creepOf(first.text) - creepOf(laminated.text)).toBeGreaterThan(0.1);
  await check(page, 4);

  for (const section of [1, 2, 3, 4]) {
    await page.getByLabel(`Spoiled in section ${section}`).fill(section === 3 ? '7' : '0');
    await page
      .getByRole('row', { name: new RegExp(`^${section} `) })
      .getByRole('button', { name: 'Weeded' })
      .click();
    await expect(page.getByLabel(`Spoiled in section ${section}`)).toHaveCount(0);
  }
  await page.getByRole('button', { name: 'Count section 2 again' }).click();
  await page.getByLabel('Spoiled in section 2').fill('25');
  await page.getByRole('row', { name: /^2 / }).getByRole('button', { name: 'Weeded' }).click();
  await expect(page.getByText('A whole number from 0 to 24.')).toBeVisible();
  await page.getByLabel('Spoiled in section 2').fill('0');
  await page.getByRole('row', { name: /^2 / }).getByRole('button', { name: 'Weeded' }).click();
  await expect(page.getByLabel('Spoiled in section 2')).toHaveCount(0);
  const archive = page.waitForEvent('download');
  await page.getByRole('link', { name: 'All files in one archive' }).click();
  expect((await archive).suggestedFilename()).toMatch(/_cut-files\.zip$/);
  await page.getByLabel('A word for the log').fill('take-up caught');
  await page.getByLabel('An item costs').fill('0.60');
  await page.getByRole('button', { name: 'Close the run' }).click();
  await page.waitForURL(/summary$/);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('7 of 96 spoiled');
  await expect(page.getByText('4.20')).toBeVisible();
  await expect(page.getByRole('cell', { name: planned })).toBeVisible();
  await expectQuiet(page, 'Summary', 150);
  await expectSoundAtAllWidths(page);
  await page.getByRole('link', { name: 'What the log knows now' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('creeps');
  await expectSound(page);
  expect(errors).toEqual([]);
});

test('two tablets check different rows of one section at once and both are kept', async ({ browser }) => {
  const [one, two] = await Promise.all([browser.newPage(), browser.newPage()]);
  await one.goto('/jobs?show=open');
  const href = await one
    .getByRole('link', { name: /luggage tags/ })
    .first()
    .getAttribute('href');
  await Promise.all([one.goto(href!), two.goto(href!)]);
  const form = (page: Page) => page.getByRole('form', { name: 'Check section 2' });
  for (const page of [one, two]) if (!(await form(page).isVisible())) await unfold(page, 'Check section 2');
  await form(one).getByRole('button', { name: 'First row' }).click();
  await form(one).getByLabel('Along, mm').fill('+0.07');
  await form(two).getByRole('button', { name: 'Last row' }).click();
  await form(two).getByLabel('Along, mm').fill('+0.11');
  await Promise.all([
    form(one).getByRole('button', { name: 'Keep this check' }).click(),
    form(two).getByRole('button', { name: 'Keep this check' }).click(),
  ]);
  await expect(form(one).getByRole('status')).toContainText('Kept');
  await expect(form(two).getByRole('status')).toContainText('Kept');
  // Each tablet shows what the other one read without being told to look.
  for (const page of [one, two]) {
    await expect(page.getByText('+0.07, ·').locator('visible=true').first()).toBeVisible({ timeout: 15_000 });
    await expect(page.getByText('+0.11, ·').locator('visible=true').first()).toBeVisible({ timeout: 15_000 });
  }
});

test('the same row read twice: to count both, or to replace; and taken back', async ({ page }) => {
  await page.goto('/jobs?show=open');
  await page
    .getByRole('link', { name: /luggage tags/ })
    .first()
    .click();
  await page.waitForURL(/run$/);
  const form = page.getByRole('form', { name: 'Check section 2' });
  const read = page.getByRole('region', { name: 'Read of section 2' });
  const keep = async (along: string, both: boolean): Promise<void> => {
    await form.getByRole('button', { name: 'Last row' }).click();
    await form.getByLabel('Along, mm').fill(`+${along}`);
    if (both) await form.getByRole('checkbox').check();
    await form.getByRole('button', { name: 'Keep this check' }).click();
    await expect(form.getByRole('status')).toContainText('Kept');
    await expect(read.getByText(`+${along}, ·`)).toBeVisible();
  };
  if (!(await form.isVisible())) await unfold(page, 'Check section 2');
  await unfold(page, 'Read by comb');
  // A sign that is typed presses the button; pressing the other button takes the sign away.
  await form.getByLabel('Along, mm').fill('-0.3');
  await expect(form.getByRole('button', { name: 'back', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await expect(form.getByText('The cut lies 0.30 mm back.')).toBeVisible();
  await form.getByRole('button', { name: 'further', exact: true }).click();
  await expect(form.getByLabel('Along, mm')).toHaveValue('0.3');
  await expect(form.getByText('The cut lies 0.30 mm further along.')).toBeVisible();
  // Match the picture: arrow keys move the cut in it, as it lies in the machine: its right is on the left there.
  await form.getByRole('group', { name: /^Match the picture/ }).focus();
  for (const key of ['ArrowLeft', 'ArrowLeft', 'Shift+ArrowLeft']) await page.keyboard.press(key);
  await expect(form.getByRole('img', { name: /0\.30 mm further along and 0\.11 mm right/ })).toBeVisible();
  await expect(form.getByLabel('Across, mm')).toHaveValue('0.11');
  // A finger that only taps the picture changes nothing; one that moves, moves the cut.
  await form.getByRole('group', { name: /^Match the picture/ }).scrollIntoViewIfNeeded();
  const box = (await form.getByRole('group', { name: /^Match the picture/ }).boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 3, y);
  await expect(form.getByLabel('Across, mm')).toHaveValue('0.11');
  await page.mouse.move(x + 60, y, { steps: 4 });
  await page.mouse.up();
  await expect(form.getByText(/and 0\.\d+ mm left\./)).toBeVisible();
  // Half of a pair of gaps says nothing, and which one is missing is said.
  await form.getByLabel('Read by').selectOption('gaps');
  await form.getByLabel('Left gap, mm').fill('1.2');
  await form.getByRole('button', { name: 'Keep this check' }).click();
  await expect(form.getByText('Both gaps of the pair are needed.')).toBeVisible();
  await form.getByLabel('Left gap, mm').fill('');
  await form.getByLabel('Read by').selectOption('comb');
  await form.getByLabel('Across, mm').fill('');
  await keep('0.21', false);
  await keep('0.23', true);
  await expect(read.getByText('+0.21, ·')).toBeVisible();
  await keep('0.25', false);
  await expect(read.getByText('+0.21, ·')).toHaveCount(0);
  await expect(read.getByText('+0.23, ·')).toHaveCount(0);
  await read.getByText('+0.25, ·').locator('xpath=ancestor::div[1]').getByRole('button').click();
  await expect(read.getByText('+0.25, ·')).toHaveCount(0);
});

test('planning: figures, a roll that is too short, no room for rollers, inches', async ({ page }) => {
  const errors = listenForErrors(page);
  await page.goto('/jobs/new');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Cut 400 luggage tags');
  await unfoldAll(page);
  // The worked example: 46 of 183.4 mm with 3.5 mm between, four across, five rows a section.
  for (const [label, value] of [
    ['Item width, mm', '300'],
    ['Item height, mm', '183.4'],
    ['Gap, mm', '3.5'],
    ['Copies', '46'],
  ] as const)
    await page.getByLabel(label, { exact: true }).fill(value);
  await page.getByText('Margins, marks, lanes and speeds').click();
  await page.getByLabel('Mark to first row, mm').fill('0');
  await page.getByRole('radio', { name: /sections(?!,)/ }).check();
  // Whatever it shows before the plan has followed, it is moved twice.
  await page.getByLabel(/^Rows a section/).fill('4');
  await page.getByLabel(/^Rows a section/).fill('5');
  await expect(page.getByText('3 of 5 rows')).toBeVisible();
  await expect(page.getByText('4 across × 12 rows')).toBeVisible();
  await expect(page.getByText('931.00 mm')).toBeVisible();
  await expect(page.getByText('6 copies, 2 rows')).toBeVisible();
  await expect(page.getByText('2 more copies would fill the last row.')).toBeVisible();
  // Dragged two rows on, everything follows; by keyboard one back.
  await page.locator('[data-drag=rows]').scrollIntoViewIfNeeded();
  const bob = (await page.locator('[data-drag=rows]').boundingBox())!;
  const [x, y] = [bob.x + bob.width / 2, bob.y + bob.height / 2];
  const chart = (await page.locator('svg', { has: page.locator('[data-drag=rows]') }).boundingBox())!;
  // The chart's 2.24 m take 644 of its 720 units; a row is 186.9 mm.
  const row = (chart.width / 720) * 644 * (186.9 / 2249.8);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + row, y, { steps: 4 });
  await page.mouse.move(x + 2 * row, y, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByText('2 of 7 rows')).toBeVisible();
  await page.getByLabel(/^Rows a section/).press('ArrowLeft');
  await expect(page.getByText('2 of 6 rows')).toBeVisible();
  await page.getByLabel(/^Rows a section/).fill('5');
  await page.getByLabel('Left on the roll, mm').fill('1600');
  await expect(page.getByText(/1\.60 m left on the roll hold 20 copies this way/)).toBeVisible();
  await page.getByLabel('Left on the roll, mm').fill('600');
  await expect(page.getByText(/hold no copy this way/)).toBeVisible();
  await page.getByLabel('Item width, mm').fill('1400');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('only 1310.0 mm can be printed');
  await expectSound(page);
  // Another unit keeps what was typed, as lengths; so does leaving the page.
  await page.getByLabel('Item width, mm').fill('203.2');
  await page.getByRole('button', { name: 'inch' }).click();
  await expect(page.getByLabel('Item width, in')).toHaveValue('8');
  await page.getByLabel('Gap, in').fill('1/8');
  await page.goto('/jobs');
  await page.getByRole('link', { name: 'Plan a run' }).click();
  await expect(page.getByLabel('Item width, in')).toHaveValue('8');
  await expect(page.getByLabel('Gap, in')).toHaveValue('1/8');
  await page.getByRole('button', { name: 'mm', exact: true }).click();
  await expect(page.getByLabel('Gap, mm')).toHaveValue('3.175');
  await page.getByRole('button', { name: 'Start afresh' }).click();
  await expect(page.getByLabel('Item width, mm')).toHaveValue('185');
  expect(errors).toEqual([]);
});

test('drift from the first and the last mark, and a print that is too long by the tape', async ({ page }) => {
  const errors = listenForErrors(page);
  await page.goto('/');
  await page
    .getByRole('region', { name: /^Honey-label desk rig/ })
    .getByRole('link', { name: 'gloss label sheet' })
    .click();
  await page.waitForURL(/setups\//);
  await page.getByText('More acts').click();
  await page.getByRole('link', { name: 'Drift' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Nothing is on record');
  await page.getByText('Only the first and the last mark').click();
  await page.getByLabel('Between them, mm').fill('1500');
  await page.getByLabel('First, along, mm').fill('0,1');
  await page.getByLabel('Last, along, mm').fill('forty');
  await page.getByRole('button', { name: 'Keep both marks' }).click();
  await expect(page.getByText(/“forty” is not a length/)).toBeVisible();
  await page.getByLabel('Last, along, mm').fill('0.7');
  await page.getByRole('button', { name: 'Keep both marks' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/runs 0\.3\d mm per m long/);
  await page.getByLabel('Should be, mm').fill('2000');
  await page.getByLabel('Tape says, mm').fill('2003');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('its print is 1.50 mm per m too long');
  await page.getByLabel('Printer’s feed now, %').fill('a lot');
  await page.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByText(/Type the feed as a number/)).toBeVisible();
  await page.getByLabel('Printer’s feed now, %').fill('100');
  await page.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('feed from 100.00 to 99.85 %');
  await expectSound(page);
  await page.getByRole('button', { name: 'I have typed 99.85 %' }).click();
  await expect(page.getByText('Not measured since the feed was changed')).toBeVisible();
  await expect(page.getByLabel('Printer’s feed now, %')).toHaveValue('99.85');
  await page.getByText('A long proof strip').click();
  await page.getByLabel('Strip, mm').fill('400');
  await page.getByRole('button', { name: 'Lay out the strip' }).click();
  await expect(page.getByText(/at least 1 m long/)).toBeVisible();
  await page.getByLabel('Strip, mm').fill('2000');
  await page.getByLabel('A row every, mm').fill('950');
  await page.getByRole('button', { name: 'Lay out the strip' }).click();
  await page.waitForURL(/print$/);
  await expectSound(page);
  await page.getByRole('button', { name: /It is cut/ }).click();
  await page.waitForURL(/read$/);
  await readByKeys(page);
  await allSaved(page);
  await page.getByRole('button', { name: 'See what it says' }).click();
  // Back at the drift: the strip counts with the pair of marks.
  await page.waitForURL(/roll$/);
  await expect(page.getByText(/^2 runs, \d+ readings/).first()).toBeVisible();
  expect(errors).toEqual([]);
});
