import { cutLineDrawing, cutLineOf, densityOf, type CutLine, type Picture } from '@/core/artwork';
import { readCutFile, writeDrawing } from '@/core/drawing/file';

import {
  firstForm,
  formOf,
  largestSize,
  outlineAnswer,
  pathOf,
  readOutlineForm,
  sizeSaid,
  type OutlineForm,
} from './outline.view';

const OPENED = { name: 'badge.png', width: 600, height: 400, dpi: 300 };
const form = (change: Partial<OutlineForm> = {}): OutlineForm => ({ ...firstForm(OPENED, 'mm'), ...change });

/** A plate with two holes: ink from 100 to 500 and 50 to 350, holes of 60 and 12 pixels. */
function plate(): Picture {
  const rgba = new Uint8Array(4 * 600 * 400).fill(255);
  for (let y = 50; y < 350; y += 1)
    for (let x = 100; x < 500; x += 1) {
      const hole = Math.hypot(x - 200, y - 200) < 60 || Math.hypot(x - 400, y - 200) < 12;
      if (!hole) rgba.fill(30, 4 * (y * 600 + x), 4 * (y * 600 + x) + 3);
    }
  return { width: 600, height: 400, rgba };
}

function cut(change: Partial<OutlineForm> = {}): CutLine {
  const read = readOutlineForm(form(change), 'mm');
  if (!read.ok) throw new Error(JSON.stringify(read.errors));
  const done = cutLineOf(plate(), read.recipe);
  if (!done.ok) throw new Error(done.refusal.code);
  return done.value;
}

test('a picture that says its density comes at its own size; one that does not waits for a size', () => {
  expect(form().size).toBe('50.8');
  expect(readOutlineForm(form(), 'mm')).toMatchObject({
    ok: true,
    recipe: { size: { widthMm: 50.8 }, borderMm: 2 },
  });
  const none = readOutlineForm(firstForm({ ...OPENED, dpi: null }, 'mm'), 'mm');
  expect(none).toMatchObject({
    ok: false,
    errors: { size: 'How wide is it to be? The other side follows.' },
  });
});

test.each<[Partial<OutlineForm>, string, RegExp]>([
  [{ size: 'large' }, 'size', /large/],
  [{ size: '0.2' }, 'size', /Between/],
  [{ border: '900' }, 'border', /minus cuts inside the ink/],
  [{ close: '-1' }, 'close', /Between 0 and/],
  [{ leastArea: 'few' }, 'leastArea', /square millimetres/],
])('%j is told at its field', (change, field, words) => {
  const read = readOutlineForm(form(change), 'mm');
  expect(read.ok).toBe(false);
  if (!read.ok) expect(read.errors[field as keyof typeof read.errors]).toMatch(words);
});

test('both sides and the density are said, and an enlarged bitmap is questioned', () => {
  const said = (size: string) => {
    const read = readOutlineForm(form({ by: 'height', size }), 'mm');
    if (!read.ok) throw new Error('form');
    return sizeSaid(OPENED, read.recipe, 'mm');
  };
  expect(said('40')).toEqual({ words: '60.00 mm wide, 40.00 mm high, 254 pixels an inch', coarse: null });
  expect(said('400').coarse).toMatch(/print coarsely/);
});

test('the border goes outward, holes shrink by it, and the traced line itself is not cut', () => {
  const line = cut({ size: '60' });
  // 40 × 30 mm of ink with 2 mm all round: 44 × 34.
  expect(outlineAnswer(line, 'mm')).toMatch(
    /^One line and one hole, 4[34]\.\d\d mm wide and 3[34]\.\d\d mm high\.$/,
  );
  expect(line.lines.map((l) => l.hole).sort()).toEqual([false, true]);
  // The hole of 6 mm radius is 4 now; that of 1.2 mm, 4.4 mm² in the picture, is closed by its border.
  const hole = line.lines.find((l) => l.hole)!;
  expect(hole.areaMm2 / (16 * Math.PI)).toBeCloseTo(1, 1);
  expect(line.inner.map((i) => Math.round(i.areaMm2))).toEqual([113, 4]);
});

test('white that only looks like a hole is ignored, and told again when the recipe changes', () => {
  const before = cut({ size: '60', border: '0' });
  const ignore = [before.inner[0]!.at];
  const after = cut({ size: '60', border: '0', ignore, join: 'mitre', close: '0.8' });
  expect(after.inner.map((i) => i.ignored)).toEqual([true, false]);
  expect(after.lines.filter((l) => l.hole)).toHaveLength(1);
});

test.each(['svg', 'dxf', 'hpgl'] as const)(
  'the %s is read back as it was drawn, on the picture’s own page',
  (format) => {
    const line = cut({ size: '60' });
    const read = readCutFile(writeDrawing(cutLineDrawing(line), format));
    if (!read.ok) throw new Error(read.refusal.code);
    const { bounds, drawing } = read.value;
    expect(drawing.paths).toHaveLength(2);
    for (const [is, was] of [
      [bounds.x0, 8],
      [bounds.x1, 52],
      [bounds.y0, 3],
      [bounds.y1, 37],
    ] as const)
      expect(Math.abs(is - was)).toBeLessThan(0.1);
    if (format === 'svg') expect(drawing.page!.widthMm).toBeCloseTo(60, 9);
    expect(
      pathOf(
        [
          { x: 1, y: 2 },
          { x: 3, y: 4 },
        ],
        10,
      ),
    ).toBe('M1.000 8.000L3.000 6.000Z');
  },
);

test('nothing left to cut is said', () => {
  expect(outlineAnswer(cut({ size: '20', border: '-8' }), 'mm')).toMatch(/^Nothing is left to cut/);
});

/* Heads of files as their specifications have them. */
const PNG_HEAD = [
  0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52, 0, 0, 0, 1, 0, 0, 0, 1, 8, 6,
  0, 0, 0, 0, 0, 0, 0,
];
const PHYS = (perMetre: number, unit: number) => [
  0,
  0,
  0,
  9,
  0x70,
  0x48,
  0x59,
  0x73,
  0,
  0,
  perMetre >> 8,
  perMetre & 255,
  0,
  0,
  perMetre >> 8,
  perMetre & 255,
  unit,
  0,
  0,
  0,
  0,
];
const JFIF = (unit: number, x: number) => [
  0xff,
  0xd8,
  0xff,
  0xe0,
  0,
  16,
  0x4a,
  0x46,
  0x49,
  0x46,
  0,
  1,
  1,
  unit,
  x >> 8,
  x & 255,
  x >> 8,
  x & 255,
];

test.each<[string, number[], number | null]>([
  ['PNG at 11 811 a metre', [...PNG_HEAD, ...PHYS(11811, 1)], 300],
  ['PNG with an aspect only', [...PNG_HEAD, ...PHYS(11811, 0)], null],
  ['PNG that says nothing', PNG_HEAD, null],
  ['JPEG at 240 an inch', JFIF(1, 240), 240],
  ['JPEG at 100 a centimetre', JFIF(2, 100), 254],
  ['JPEG at 72, which is no answer', JFIF(1, 72), null],
  ['a head that is cut off', [0x89, 0x50], null],
  ['nothing', [], null],
])('%s', (_, head, dpi) => {
  const told = densityOf(Uint8Array.from(head));
  if (dpi === null) expect(told).toBeNull();
  else expect(told).toBeCloseTo(dpi, 1);
});

test.each<[Partial<OutlineForm>]>([
  [{}],
  [{ by: 'height', size: '30', border: '-1', join: 'mitre', apart: true, close: '0', leastArea: '12' }],
  [{ background: 'colour', threshold: '0.4', ignore: [{ x: 3, y: 4 }] }],
])('a recipe comes back as the form that it was typed in: %j', (change) => {
  const read = readOutlineForm(form(change), 'mm');
  if (!read.ok) throw new Error('form');
  expect(readOutlineForm(formOf(read.recipe, OPENED, 'mm'), 'mm')).toEqual(read);
});

test('as large as the sheet takes: never rounded up, by what the line reaches, and unknown without a sheet', () => {
  const rooms = [{ widthMm: 200, heightMm: 100 }];
  // Ink of 400 × 300 pixels in a picture of 600: 96 mm high at most with 2 mm of border, so 192 mm wide.
  const line = cut();
  const size = Number(largestSize(OPENED, form(), line, rooms, 'mm'));
  expect(size).toBeLessThanOrEqual(192.01);
  expect(size).toBeGreaterThan(191);
  // Without a line the whole picture counts: 96 mm high is 144 wide.
  expect(largestSize(OPENED, form(), null, rooms, 'mm')).toBe('144');
  expect(largestSize(OPENED, form({ by: 'height' }), null, rooms, 'mm')).toBe('96');
  expect(largestSize(OPENED, form(), line, [], 'mm')).toBeNull();
});
