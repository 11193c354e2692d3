import sharp from 'sharp';

import { seededRandom } from '../../random/random';

import { correctFile, fileRefusalText, readCutFile } from '../file';
import { affineMap, IDENTITY, type PlaneMap } from '../../geometry';

/* What an SVG file shows is what is cut of it; librsvg, which is not ours, draws the same files beside. */

const CELLS = 12;
/** Pixels of a cell’s side. */
const CELL = 10;

const page = (css: string, body: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${CELLS * CELL}px" height="${CELLS * CELL}px"><style>${css}</style>${body}</svg>`;

const CSS =
  '.gone{display:none}.out{visibility:hidden}.in{visibility:visible}.thin{opacity:0}.bare{fill:none}g.set .far{display:none}#one > rect{stroke:red}.hard{visibility:hidden !important}[data-x="y"]{fill-opacity:0}';

const SWITCHES = [
  ...[
    '',
    '',
    '',
    'display="none"',
    'visibility="hidden"',
    'visibility="collapse"',
    'visibility="visible"',
    'opacity="0"',
  ],
  ...[
    'style="display:none"',
    'style="visibility:visible"',
    'style="visibility : HIDDEN"',
    'style="opacity:0%"',
  ],
  ...[
    'class="gone"',
    'class="out"',
    'class="in"',
    'class="thin"',
    'class="set"',
    'class="far"',
    'class="hard" style="visibility:visible"',
  ],
  ...[
    'fill="none"',
    'fill-opacity="0"',
    'class="bare" stroke="none"',
    'style="fill:none;fill:blue"',
    'fill="rgba(1,2,3,0)"',
    'data-x="y"',
  ],
  ...[
    'stroke="#00f" fill="none"',
    'stroke-opacity="0" stroke="red" fill="none"',
    'fill="#12345600"',
    'style="fill:none !important;fill:blue"',
  ],
];

/** Nested groups, copies and symbols, with a switch each; every shape has a cell of its own. */
function anyDrawing(seed: number): string {
  const random = seededRandom(seed);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  let cell = 0;
  const shape = (): string => {
    const at = cell;
    cell += 1;
    return `<rect x="${(at % CELLS) * CELL + 2}" y="${Math.floor(at / CELLS) * CELL + 2}" width="6" height="6" ${pick(SWITCHES)}/>`;
  };
  const anything = (depth: number): string => {
    if (depth === 0 || random() < 0.4) return shape();
    const inside = Array.from({ length: 2 }, () => anything(depth - 1)).join('');
    const id = `i${seed}-${cell}-${depth}`;
    const kind = random();
    if (kind < 0.6) return `<g ${pick(SWITCHES)}>${inside}</g>`;
    if (kind < 0.8)
      return `<defs ${pick(SWITCHES)}><g id="${id}" ${pick(SWITCHES)}>${inside}</g></defs><use ${pick(SWITCHES)} xlink:href="#${id}"/>`;
    return `<symbol id="${id}" overflow="visible">${inside}</symbol><use ${pick(SWITCHES)} href="#${id}"/>`;
  };
  const body = Array.from({ length: 6 }, () => anything(3)).join('');
  return page(
    CSS,
    `${body}<rect x="${(CELLS - 1) * CELL + 2}" y="${(CELLS - 1) * CELL + 2}" width="6" height="6"/>`,
  );
}

const KEPT = CELLS * CELLS - 1;

async function seenByLibrsvg(svg: string): Promise<number[]> {
  const { data, info } = await sharp(Buffer.from(svg))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([CELLS * CELL, CELLS * CELL]);
  const seen: number[] = [];
  for (let cell = 0; cell < CELLS * CELLS; cell += 1) {
    let ink = 0;
    for (let i = 0; i < CELL * CELL; i += 1) {
      const x = (cell % CELLS) * CELL + (i % CELL);
      const y = Math.floor(cell / CELLS) * CELL + Math.floor(i / CELL);
      ink += data[4 * (y * info.width + x) + 3]!;
    }
    if (ink > 0) seen.push(cell);
  }
  return seen;
}

/** Cells with a cut line in them. */
function cellsCut(text: string): number[] {
  const read = readCutFile(text);
  if (!read.ok) throw new Error(fileRefusalText(read.refusal));
  const mm = 25.4 / 96;
  const cells = read.value.drawing.paths.map(({ start }) => {
    const [x, y] = [start.x / mm, CELLS * CELL - start.y / mm];
    return Math.floor(y / CELL) * CELLS + Math.floor(x / CELL);
  });
  return [...new Set(cells)].sort((a, b) => a - b);
}

test('of 300 drawings with groups, copies and switches of every kind, what librsvg draws is what is cut', async () => {
  let hidden = 0;
  for (let seed = 1; seed <= 300; seed += 1) {
    const svg = anyDrawing(seed);
    const seen = await seenByLibrsvg(svg);
    expect({ seed, cells: cellsCut(svg) }).toEqual({ seed, cells: seen });
    expect(seen).toContain(KEPT);
    const done = correctFile(svg, affineMap(IDENTITY), 'svg');
    if (!done.ok) throw new Error(done.refusal.code);
    hidden += done.value.report.leftUncut.reduce((sum, l) => sum + l.lines, 0);
    // What comes back shows the same: to librsvg, and to us.
    expect({ seed, cells: await seenByLibrsvg(done.value.content) }).toEqual({ seed, cells: seen });
    expect(cellsCut(done.value.content)).toEqual(seen);
  }
  expect(hidden).toBeGreaterThan(1000);
});

const LAYERED = page(
  '',
  '<g id="guides" style="display:none"><rect x="90" y="90" width="20" height="20"/></g><g id="faint" opacity="0"><path d="M1 1L5 1"/></g><path d="M40 40L50 40 50 60Z" fill="none" stroke="#000"/><path id="bare" d="M0 0L1 9" fill="none"/>',
);

test.each(['svg', 'dxf', 'hpgl'] as const)(
  'as %s nothing of it is a line, in the bounds, or unsaid',
  (to) => {
    const away: PlaneMap = { kind: 'affine', a11: 1, a12: 0, a21: 0, a22: 1, tx: -3, ty: -2 };
    const done = correctFile(LAYERED, away, to);
    if (!done.ok) throw new Error(done.refusal.code);
    const { report, content } = done.value;
    const mm = 25.4 / 96;
    expect(report.paths).toBe(1);
    expect(report.boundsBefore.x0).toBeCloseTo(40 * mm, 9);
    expect(report.boundsBefore.x1).toBeCloseTo(50 * mm, 9);
    expect(report.leftUncut).toEqual([
      { layer: 'guides', why: 'hidden', lines: 1 },
      { layer: 'faint', why: 'see-through', lines: 1 },
      { layer: 'cut', why: 'unpainted', lines: 1 },
    ]);
    expect(readCutFile(content)).toMatchObject({ ok: true, value: { drawing: { paths: [{}] } } });
    expect(content.includes('guides')).toBe(to === 'svg');
  },
);

test('a drawing that is hidden whole is refused in words that say so', () => {
  const done = correctFile(page('*{visibility:hidden}', '<path d="M0 0L9 9"/>'), affineMap(IDENTITY));
  expect(done.ok ? '' : fileRefusalText(done.refusal)).toContain('its only line is hidden');
});

test('copies written out have no ids of their own: an id names one thing', () => {
  const svg = page(
    '',
    '<g id="tag"><path id="edge" d="M1 1L9 1 9 9Z"/></g><use href="#tag" x="20"/><use href="#edge" y="30"/>',
  );
  const done = correctFile(svg, affineMap(IDENTITY), 'svg');
  if (!done.ok) throw new Error(done.refusal.code);
  expect(done.value.content.match(/<path /g)).toHaveLength(3);
  expect([...done.value.content.matchAll(/ id="([^"]+)"/g)].map((m) => m[1])).toEqual(['tag', 'edge']);
});
