import { execFileSync, spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { expect, test, type APIRequestContext, type Page } from '@playwright/test';

import { asDxf, asSvg } from '../test/foreignFiles';
import { linesOfDxf, type Line } from '../test/machine/readers';
import { unfold } from './operator';
import { expectSound, listenForErrors } from './sound';

/* The day after a calibration: cut files come back corrected, by whichever door; a machine left at other figures is found out. */

const JOB: readonly Line[] = [
  [40, 50, 90, 50],
  [90, 50, 90, 120.5],
  [90, 120.5, 40, 50],
];
const FILE = asDxf(JOB);
const tsx = (...words: string[]): [string, string[]] => [
  process.execPath,
  ['node_modules/tsx/dist/cli.mjs', ...words],
];

interface Standing {
  readonly map: { a11: number; a12: number; a21: number; a22: number; tx: number; ty: number } | null;
  readonly settings: readonly { name: string; value: number }[];
}
interface Setup {
  readonly id: string;
  readonly rig: string;
  readonly medium: string;
  readonly standing: Standing | null;
}

async function setupOf(request: APIRequestContext, rig: string, medium: string): Promise<Setup> {
  const { setups } = (await (await request.get('/api/setups')).json()) as { setups: Setup[] };
  return setups.find((s) => s.rig === rig && s.medium === medium)!;
}

/** Where T has to be told to go so that it lands at p, written out here. */
function commanded(m: NonNullable<Standing['map']>, x: number, y: number): [number, number] {
  const det = m.a11 * m.a22 - m.a12 * m.a21;
  const [u, v] = [x - m.tx, y - m.ty];
  return [(m.a22 * u - m.a12 * v) / det, (m.a11 * v - m.a21 * u) / det];
}

async function byPage(page: Page, setup: Setup, name: string, file: string): Promise<string> {
  await page.goto(`/correct?setup=${setup.id}`);
  await page.locator('main input[type=file]').setInputFiles({
    ...{ name, mimeType: 'image/vnd.dxf' },
    buffer: Buffer.from(file),
  });
  const saving = page.waitForEvent('download');
  await page.getByRole('link', { name: /^Save / }).click();
  return readFileSync(await (await saving).path(), 'utf8');
}

async function byAddress(
  request: APIRequestContext,
  base: string,
  setup: Setup,
  more: Record<string, string> = {},
) {
  return request.post('/api/correct', {
    headers: { Origin: base },
    multipart: {
      file: { name: 'deck.dxf', mimeType: 'image/vnd.dxf', buffer: Buffer.from(FILE) },
      setup: setup.id,
      ...more,
    },
  });
}

function byScript(folder: string, setup: Setup): string {
  writeFileSync(join(folder, 'deck.dxf'), FILE);
  const [node, words] = tsx('scripts/correct.ts', '--setup', `${setup.rig} / ${setup.medium}`);
  const said = execFileSync(node, [...words, join(folder, 'deck.dxf'), '-o', join(folder, 'out.dxf')], {
    encoding: 'utf8',
  });
  expect(said).toContain('must show: Offset X');
  return readFileSync(join(folder, 'out.dxf'), 'utf8');
}

async function byFolder(root: string, setup: Setup): Promise<string> {
  const [node, words] = tsx('scripts/folder.ts', root);
  const watcher = spawn(node, words, {
    stdio: 'ignore',
    env: { ...process.env, RED_PLUMB_SETTLED_MS: '300' },
  });
  try {
    const own = join(root, `${setup.rig} - ${setup.medium}`);
    await expect.poll(() => existsSync(join(own, 'done'))).toBe(true);
    writeFileSync(join(own, 'in', 'deck.dxf'), FILE);
    await expect.poll(() => readdirSync(join(own, 'done'))).toEqual(['deck.dxf']);
    const [out] = readdirSync(join(own, 'out')).filter((n) => n.endsWith('.dxf'));
    return readFileSync(join(own, 'out', out!), 'utf8');
  } finally {
    watcher.kill('SIGTERM');
  }
}

test('the same file by the page, the address, the script and the folder is the same to the byte', async ({
  page,
  request,
  baseURL,
}) => {
  const setup = await setupOf(request, 'Deck-plan desk rig', 'matt paper 160 g');
  const map = setup.standing!.map!;
  const folder = mkdtempSync(join(tmpdir(), 'red-plumb-daily-'));
  try {
    const made = await byPage(page, setup, 'deck.dxf', FILE);
    const answer = await byAddress(request, baseURL!, setup);
    expect(answer.status()).toBe(200);
    expect(await answer.text()).toBe(made);
    const report = JSON.parse(answer.headers()['x-red-plumb-report']!) as {
      mustShow: { name: string; value: number }[];
    };
    expect(report.mustShow.map(({ name, value }) => ({ name, value }))).toEqual(
      setup.standing!.settings.map(({ name, value }) => ({ name, value })),
    );
    expect(byScript(folder, setup)).toBe(made);
    expect(await byFolder(join(folder, 'watched'), setup)).toBe(made);
    // This rig's files lie as the sheet does: each end is at K(p).
    const ends = linesOfDxf(made).flat();
    const wanted = JOB.flatMap(([x0, y0, x1, y1]) => [...commanded(map, x0, y0), ...commanded(map, x1, y1)]);
    expect(ends).toHaveLength(wanted.length);
    ends.forEach((v, i) => expect(Math.abs(v - wanted[i]!)).toBeLessThan(0.001));
    // Found again by name.
    await page.goto('/correct?find=deck-for');
    await expect(page.getByRole('link', { name: 'deck-for-matt-paper-160-g.dxf' })).toHaveCount(4);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test('what came out is not taken in again, and an unreadable file says what would be right', async ({
  page,
  request,
  baseURL,
}) => {
  const setup = await setupOf(request, 'Deck-plan desk rig', 'matt paper 160 g');
  const made = await (await byAddress(request, baseURL!, setup)).text();
  await page.goto(`/correct?setup=${setup.id}`);
  await page.locator('main input[type=file]').setInputFiles([
    { name: 'deck.dxf', mimeType: 'image/vnd.dxf', buffer: Buffer.from(made) },
    { name: 'notes.svg', mimeType: 'image/svg+xml', buffer: Buffer.from('hello') },
  ]);
  await expect(page.getByText(/This file was corrected already/)).toBeVisible();
  await expect(page.getByText(/begins with “hello”/)).toBeVisible();
  await page.getByRole('button', { name: 'Correct it once more all the same' }).click();
  await expect(page.getByRole('heading', { name: '1 of 2 corrected, 1 not taken' })).toBeVisible();
  await expectSound(page);
  for (const [fields, status, code] of [
    [{ frame: 'page' }, 400, 'invalid-field'],
    [{ map: '{}' }, 400, 'invalid-field'],
    [{ setup: crypto.randomUUID() }, 404, 'no-such-setup'],
  ] as const) {
    const answer = await byAddress(request, baseURL!, setup, fields);
    expect(answer.status()).toBe(status);
    expect(((await answer.json()) as { error: { code: string } }).error.code).toBe(code);
  }
  // A script is no browser: it has no cookies and need not say where it comes from.
  const form = new FormData();
  form.set('file', new Blob([FILE]), 'deck.dxf');
  form.set('setup', setup.id);
  const bare = await fetch(`${baseURL}/api/correct`, { method: 'POST', body: form });
  expect([bare.status, await bare.text()]).toEqual([200, made]);
});

test('a rig that was never told how its files lie asks; once told, the file is taken', async ({
  page,
  request,
}) => {
  const errors = listenForErrors(page);
  const setup = await setupOf(request, 'Honey-label desk rig', 'gloss label sheet');
  await page.goto(`/setups/${setup.id}`);
  const give = () =>
    page.locator('main input[type=file]').setInputFiles({
      ...{ name: 'jar.svg', mimeType: 'image/svg+xml' },
      buffer: Buffer.from(asSvg(JOB)),
    });
  // Dropped on the setup's page, it is on the desk by itself.
  await give();
  await page.waitForURL(/\/correct\?setup=/);
  await expect(page.getByText(/Nothing says where this file lies/)).toBeVisible();
  await page.getByRole('link', { name: 'Tell how its files lie' }).click();
  await page.getByLabel('x runs', { exact: true }).selectOption('right');
  await expect(page.getByLabel('y runs', { exact: true })).toHaveValue('further');
  await page.getByLabel('Its zero lies at').selectOption('typed');
  await page.getByLabel('From the left edge, mm').fill('forty');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/“forty” is not a length/)).toBeVisible();
  await page.getByLabel('From the left edge, mm').fill('5');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.goto(`/correct?setup=${setup.id}`);
  await give();
  await expect(page.getByText('Direction: as set for this rig.')).toBeVisible();
  expect(errors.filter((e) => !e.includes('422'))).toEqual([]);
});

const MORE_MEDIA = [
  ...['gold foil', 'silver foil', 'matt white vinyl', 'frosted film', 'static cling', 'floor film'],
  ...['reflective film', 'wall fabric', 'thin label paper'],
];

/** Nine media more on the roll rig, so that the shop has a dozen and more. */
async function hangMore(page: Page): Promise<void> {
  await page.goto('/');
  await page.getByRole('link', { name: 'Another medium on Roll rig' }).click();
  await page.getByRole('heading', { name: /everything else is as for/ }).waitFor();
  const form = page.url();
  for (const media of MORE_MEDIA) {
    await page.goto(form);
    await page.getByLabel('Media', { exact: true }).fill(media);
    await page.getByRole('button', { name: 'Put it on Roll rig' }).click();
    await page.getByRole('heading', { level: 1, name: new RegExp(media, 'i') }).waitFor();
  }
}

async function takeMoreOff(page: Page, request: APIRequestContext): Promise<void> {
  for (const media of MORE_MEDIA) {
    await page.goto(`/setups/${(await setupOf(request, 'Roll rig', media)).id}`);
    await unfold(page, 'Put away');
    await page.getByRole('button', { name: /^Put .* away$/ }).click();
    await page.getByRole('button', { name: 'Put it back' }).waitFor();
  }
}

test('another medium today, of fourteen: ten keystrokes from the bench to a rig that is changed over', async ({
  page,
  request,
}) => {
  await hangMore(page);
  const film = await setupOf(request, 'Roll rig', 'clear film, reversed');
  const vinyl = await setupOf(request, 'Roll rig', 'gloss white vinyl');
  await page.goto(`/setups/${vinyl.id}/change-over`);
  await page.getByRole('button', { name: /^(The machine shows them all|It is loaded)$/ }).click();
  await page.waitForURL(new RegExp(`/setups/${vinyl.id}$`));
  await page.goto('/');
  let pressed = 0;
  const press = async (key: string): Promise<void> => {
    pressed += 1;
    await page.keyboard.press(key);
  };
  await expect(async () => {
    await page.keyboard.press('Escape');
    await page.keyboard.press('/');
    await expect(page.getByLabel('Find rig, medium or job')).toBeFocused({ timeout: 500 });
  }).toPass();
  pressed = 1;
  for (const key of ['c', 'l', 'e', 'Enter']) await press(key);
  await page.waitForURL(/find=cle/);
  const row = page.getByRole('region', { name: 'Roll rig, clear film, reversed' });
  await expect(row.getByRole('link', { name: 'Change over' })).toBeFocused();
  await press('Enter');
  await page.waitForURL(/change-over$/);
  await page.getByRole('heading', { level: 1, name: /now gets clear film/ }).waitFor();
  const confirm = page.getByRole('button', { name: 'The machine shows them all' });
  while (!(await confirm.evaluate((el) => el === document.activeElement)) && pressed < 10) await press('Tab');
  await expect(confirm).toBeFocused();
  await press('Enter');
  await page.waitForURL(new RegExp(`/setups/${film.id}$`));
  await expect(page.getByRole('heading', { name: 'The machine shows what it wants' })).toBeVisible();
  expect(pressed).toBeLessThanOrEqual(10);
  await takeMoreOff(page, request);
  await page.goto(`/setups/${vinyl.id}/change-over`);
  await page.getByRole('button', { name: 'The machine shows them all' }).click();
  await page.waitForURL(new RegExp(`/setups/${vinyl.id}$`));
});

test('a machine left at another medium’s figures is asked about on the spot', async ({ page, request }) => {
  const film = await setupOf(request, 'Roll rig', 'clear film, reversed');
  const vinyl = await setupOf(request, 'Roll rig', 'gloss white vinyl');
  const overTo = async (setup: Setup): Promise<void> => {
    await page.goto(`/setups/${setup.id}/change-over`);
    await page.getByRole('button', { name: /^(The machine shows them all|It is loaded)$/ }).click();
    await page.waitForURL(new RegExp(`/setups/${setup.id}$`));
  };
  await overTo(vinyl);
  // With a file:
  await page.goto(`/correct?setup=${film.id}`);
  await expect(page.getByRole('heading', { name: 'Before you cut' })).toBeVisible();
  await expect(page.getByText(/As far as the log knows it shows Offset X/)).toBeVisible();
  // With a quick check and a calibration:
  for (const words of ['Quick check', 'Calibrate']) {
    await page.goto(`/setups/${film.id}`);
    await page.getByRole('button', { name: words }).click();
    await expect(page.getByText(/The machine shows .* clear film, reversed wants/)).toBeVisible();
    await expectSound(page);
  }
  await page.getByRole('button', { name: 'It shows them now: go on' }).click();
  await page.waitForURL(/calibrate\/.*\/print/);
  await page.getByText('Started by mistake?').click();
  await page.getByRole('button', { name: 'Discard this session' }).click();
  await page.waitForURL((url) => !url.pathname.includes('/print'));
  // It is on record as typed, and the file asks no more.
  await page.goto(`/correct?setup=${film.id}`);
  await expect(page.getByRole('heading', { name: 'The machine shows it' })).toBeVisible();
  await overTo(vinyl);
});
