import { readFileSync } from 'node:fs';

import { expect, test, type Page } from '@playwright/test';

import { affineMap, invertAffine, applyAffine, type Point } from '../src/core/geometry';
import { termsAbout } from '../src/core/rigsim';
import { Notes } from '../src/core/drawing/notes';
import { correctSvg } from '../src/core/drawing/svg';
import { AWKWARD_SVG } from '../test/awkward.svg';
import { allSaved, readByKeys, unfold } from './operator';
import { expectSound } from './sound';

/** About 20 MB of cut data. */
const LONG_HPGL = Buffer.from(
  `IN;SP1;${Array.from({ length: 1800 }, (_, i) => `PU${i},0;PD${Array.from({ length: 1000 }, (__, j) => `${(i * 37 + j * 101) % 40_000},${(i * 53 + j * 97) % 40_000}`).join(',')};`).join('')}`,
);

/** Every drawn outline of an SVG as Chromium itself sees it: points in page mm, y up. A reader that is not ours. */
async function outlines(page: Page, svg: string, perPath: number, heightMm: number): Promise<Point[][]> {
  await page.setContent(`<body style="margin:0">${svg.slice(svg.indexOf('<svg'))}</body>`);
  return page.evaluate(
    ([count, height]) => {
      const shapes = [...document.querySelectorAll('svg *')].filter(
        (el): el is SVGGeometryElement =>
          el instanceof SVGGeometryElement && el.closest('defs, symbol') === null,
      );
      const mm = 25.4 / 96;
      return shapes.map((shape) => {
        const matrix = shape.getScreenCTM()!;
        const total = shape.getTotalLength();
        return Array.from({ length: count + 1 }, (_, i) => {
          const p = shape.getPointAtLength((total * i) / count).matrixTransform(matrix);
          return { x: p.x * mm, y: height - p.y * mm };
        });
      });
    },
    [perPath, heightMm] as const,
  );
}

/** Distance from a point to a polyline. */
function distance(p: Point, line: readonly Point[]): number {
  let best = Infinity;
  for (let i = 1; i < line.length; i += 1) {
    const a = line[i - 1]!;
    const b = line[i]!;
    const length2 = (b.x - a.x) ** 2 + (b.y - a.y) ** 2;
    const t =
      length2 === 0
        ? 0
        : Math.min(1, Math.max(0, ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / length2));
    best = Math.min(best, Math.hypot(p.x - a.x - t * (b.x - a.x), p.y - a.y - t * (b.y - a.y)));
  }
  return best;
}

// Without `use` and inner frames, whose shapes Chromium keeps in shadow trees.
const PLAIN_SVG = AWKWARD_SVG.replace(/<use[^>]*\/>/g, '').replace(/<svg x=[\s\S]*?<\/svg>/, '');

for (const [name, svg, heightMm, leastPaths] of [
  ['drawn for the tests', PLAIN_SVG, 180, 7],
  ['of gnuplot', readFileSync('test/files/gnuplot.svg', 'utf8'), 127, 10],
  ['of potrace', readFileSync('test/files/potrace.svg', 'utf8'), (400 * 25.4) / 72, 2],
] as const)
  test(`a corrected SVG ${name}, re-read by the browser’s own geometry, is the exact map`, async ({
    page,
  }) => {
    const setup = termsAbout(
      {
        shiftXMm: 0.8,
        shiftYMm: -1.3,
        turnRad: 0.004,
        scaleAcross: 1.003,
        scaleAlong: 0.996,
        leanRad: 0.005,
      },
      { x: 100, y: 90 },
    );
    const corrected = correctSvg(svg, affineMap(setup), new Notes());
    if (!corrected.ok) throw new Error(corrected.refusal.code);
    const before = await outlines(page, svg, 60, heightMm);
    const after = await outlines(page, corrected.value.svg, 6000, heightMm);
    expect(after).toHaveLength(before.length);
    expect(before.length).toBeGreaterThanOrEqual(leastPaths);
    const inverse = invertAffine(setup);
    before.forEach((outline, i) => {
      const worst = Math.max(...outline.map((p) => distance(applyAffine(inverse, p), after[i]!)));
      // Chromium draws arcs as cubics, which leave the true arc by up to 0.03 % of the radius.
      const within = /[Aa] ?[\d.]|<(circle|ellipse)|rx=/.test(svg) ? 0.006 : 0.005;
      expect([i, worst < within ? 'on it' : worst]).toEqual([i, 'on it']);
    });
  });

test('a cut file dropped on Correct comes back corrected, with a report, and is kept in the log', async ({
  page,
}) => {
  await page.goto('/calibrate');
  await page
    .getByRole('row', { name: /Deck-plan desk rig/ })
    .getByRole('button', { name: /Go on|Calibrate/ })
    .click();
  await page.waitForURL(/read$/);
  await readByKeys(page);
  await allSaved(page);
  await page.getByRole('button', { name: 'See what it says' }).click();
  await page.waitForURL(/correct$/);
  await unfold(page, 'Another way');
  await page.getByRole('radio', { name: /^All of it in the file/ }).check();
  await unfold(page, 'Give me cut files');
  const input = page.getByLabel(/Drop a cut file/);

  await input.setInputFiles({
    name: 'broken.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from('<svg><path'),
  });
  await expect(page.getByText(/broken.svg: This is not a readable SVG file/)).toBeVisible();
  await input.setInputFiles({
    name: 'tags.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(AWKWARD_SVG),
  });
  await expect(page.getByRole('row', { name: /^paths/ })).toBeVisible();
  await expect(page.getByText(/text moved, but it is not a cut line/)).toBeVisible();
  await expect(page.getByText('Kept in the log.')).toBeVisible();
  await expectSound(page);
  await page.getByLabel('Give it back as').selectOption('hpgl');
  await input.setInputFiles('test/files/ezdxf-r2010-inch.dxf');
  await expect(page.getByRole('link', { name: /^Save ezdxf-r2010-inch-corrected.*hpgl/ })).toBeVisible();
  await expect(page.getByText(/SPLINE read as lines within/)).toBeVisible();
  await page.getByLabel('Give it back as').selectOption('same');
  await input.setInputFiles({ name: 'long.hpgl', mimeType: 'text/plain', buffer: LONG_HPGL });
  // Made by the server: the page says so meanwhile, and it can be stopped.
  await expect(page.getByRole('progressbar', { name: 'Correcting long.hpgl' })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Correcting long.hpgl')).toHaveCount(0);
  await input.setInputFiles({
    name: 'tags.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(AWKWARD_SVG),
  });
  await expect(page.getByRole('link', { name: /^Save tags-corrected/ })).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: /^Save tags-corrected/ }).click();
  const saved = readFileSync(await (await download).path(), 'utf8');
  expect(saved).toContain('<g id="cut"');
  expect(saved).not.toContain('<rect');
});

test('proof sheets come as PDF, SVG, DXF and HPGL; bad requests get a clear 4xx, never a 500', async ({
  request,
}) => {
  const pdf = await request.get('/api/proof-sheets/0001.pdf?layer=print');
  expect(pdf.headers()['content-type']).toBe('application/pdf');
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  const cut = await request.get('/api/proof-sheets/0001.svg?layer=cut&set=2');
  expect(await cut.text()).toContain('cut lines B');
  const dxf = await (await request.get('/api/proof-sheets/0001.dxf?layer=cut')).text();
  expect(dxf.match(/\nLINE\n/g)!.length).toBeGreaterThan(100);
  const hpgl = await (await request.get('/api/proof-sheets/0001.hpgl?layer=cut&set=2')).text();
  expect(hpgl.startsWith('IN;SP1;PU')).toBe(true);
  const correction = '11111111-1111-4111-8111-111111111111';
  const file = { name: 'a.svg', mimeType: 'image/svg+xml', buffer: Buffer.from('<svg/>') };
  // What would keep something says where it comes from.
  const headers = { origin: new URL(process.env.RED_PLUMB_TEST_URL!).origin };
  const refused: [number, string, () => ReturnType<typeof request.get>][] = [
    [404, 'no-such-sheet', () => request.get('/api/proof-sheets/99999.pdf')],
    [404, 'no-such-file', () => request.get('/api/proof-sheets/0001.exe')],
    [400, 'invalid-query', () => request.get('/api/proof-sheets/0001.svg?layer=both')],
    [400, 'no-print-layer', () => request.get('/api/proof-sheets/0001.dxf?layer=print')],
    [400, 'no-pdf-to-cut', () => request.get('/api/proof-sheets/0001.pdf?layer=cut')],
    [400, 'not-multipart', () => request.post('/api/correct', { data: 'text' })],
    [400, 'no-file', () => request.post('/api/correct', { multipart: { correction } })],
    [400, 'invalid-field', () => request.post('/api/correct', { multipart: { file, correction: 'NaN' } })],
    [403, 'no-origin', () => request.post('/api/correct', { multipart: { file, correction } })],
    [
      404,
      'no-such-correction',
      () => request.post('/api/correct', { headers, multipart: { file, correction } }),
    ],
    [404, 'no-such-format', () => request.get('/api/logbook/xml')],
    [404, 'no-such-file', () => request.get('/api/corrected-files/1')],
  ];
  for (const [status, code, ask] of refused) {
    const response = await ask();
    expect([response.status(), ((await response.json()) as { error: { code: string } }).error.code]).toEqual([
      status,
      code,
    ]);
  }
  expect((await request.get('/api/logbook/csv')).headers()['content-type']).toContain('text/csv');
  expect(((await (await request.get('/api/logbook/json')).json()) as { format: string }).format).toBe(
    'red-plumb-log-1',
  );
});
