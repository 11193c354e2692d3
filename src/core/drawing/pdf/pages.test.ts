import { inflateSync } from 'node:zlib';
import sharp from 'sharp';

import { onPage } from '..';
import { applyAffine, type Affine } from '../../geometry';

import { pagesToPdf, type PlacedPicture } from './pages';

/* Print files as the format itself says them (ISO 32000-1): page boxes, matrices, images. */

const POINT_MM = 25.4 / 72;
const blank = (widthMm: number, heightMm: number) => onPage({ widthMm, heightMm }, 'pair', []);

/** What the content streams of a PDF say, one text a page. */
function contents(pdf: Buffer): string[] {
  const text = pdf.toString('latin1');
  return [...text.matchAll(/\/Filter \/FlateDecode\s*>>\s*stream\n/g)].flatMap((m) => {
    const from = m.index + m[0].length;
    const to = text.indexOf('endstream', from);
    const body = inflateSync(pdf.subarray(from, to)).toString('latin1');
    return / cm\b/.test(body) ? [body] : [];
  });
}

type Six = [number, number, number, number, number, number];
/** The matrix under which a page paints its picture: all that were set since the graphics state was saved last. */
function paintedUnder(content: string): Six[] {
  const stack: Six[] = [[1, 0, 0, 1, 0, 0]];
  const found: Six[] = [];
  for (const line of content.split('\n')) {
    const top = stack.at(-1)!;
    if (/^q\b/.test(line)) stack.push([...top]);
    else if (/^Q\b/.test(line)) stack.pop();
    else if (/ cm$/.test(line.trim())) {
      const [a, b, c, d, e, f] = line.trim().split(/\s+/).map(Number) as Six;
      const [A, B, C, D, E, F] = top;
      stack[stack.length - 1] = [
        ...[a * A + b * C, a * B + b * D, c * A + d * C, c * B + d * D],
        ...[e * A + f * C + E, e * B + f * D + F],
      ] as Six;
    } else if (/ Do$/.test(line.trim())) found.push([...top]);
  }
  return found;
}

async function picture(more: Partial<PlacedPicture> = {}): Promise<PlacedPicture> {
  const bytes = await sharp({ create: { width: 80, height: 60, channels: 3, background: '#d9902f' } })
    .png()
    .toBuffer();
  const map = { a11: 1, a12: 0, a21: 0, a22: 1, tx: 20, ty: 30 };
  return { bytes, widthMm: 40, heightMm: 30, map, clip: { x0: 0, y0: 0, x1: 210, y1: 297 }, ...more };
}

test.each<[string, Affine]>([
  ['upright', { a11: 1, a12: 0, a21: 0, a22: 1, tx: 20, ty: 30 }],
  ['turned about', { a11: 0, a12: -1, a21: 1, a22: 0, tx: 100, ty: 30.5 }],
])(
  'a picture that lies %s is painted where the cut lines have it, to a thousandth of a millimetre',
  async (_, map) => {
    const pdf = await pagesToPdf([{ drawing: blank(210, 297), pictures: [await picture({ map })] }]);
    const [content] = contents(pdf);
    const [m] = paintedUnder(content!);
    // An image fills the unit square, its lower-left corner at the origin (ISO 32000-1, 8.9.5.1).
    for (const [u, v] of [
      [0, 0],
      [1, 0],
      [0, 1],
      [1, 1],
    ] as const) {
      const on = applyAffine(map, { x: 40 * u, y: 30 * v });
      expect((m![0] * u + m![2] * v + m![4]) * POINT_MM).toBeCloseTo(on.x, 3);
      expect((m![1] * u + m![3] * v + m![5]) * POINT_MM).toBeCloseTo(on.y, 3);
    }
  },
);

test('a picture on many pages and places is embedded once, pixel for pixel; every page has its true size', async () => {
  const one = await picture();
  const page = { drawing: blank(100, 150), pictures: [one, { ...one, map: { ...one.map, tx: 60 } }] };
  const pdf = await pagesToPdf([page, page, page]);
  const text = pdf.toString('latin1');
  expect(text.match(/\/Subtype \/Image/g)).toHaveLength(1);
  expect(text).toMatch(/\/Width 80\b/);
  expect(text).toMatch(/\/Height 60\b/);
  const boxes = [...text.matchAll(/\/MediaBox \[0 0 ([\d.]{1,12}) ([\d.]{1,12})\]/g)];
  expect(boxes).toHaveLength(3);
  for (const [, w, h] of boxes) {
    expect(Number(w) * POINT_MM).toBeCloseTo(100, 2);
    expect(Number(h) * POINT_MM).toBeCloseTo(150, 2);
  }
  expect(contents(pdf).map((c) => paintedUnder(c).length)).toEqual([2, 2, 2]);
  expect(text).toContain('/PrintScaling /None');
});
