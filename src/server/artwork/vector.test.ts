import PDFDocument from 'pdfkit';
import sharp from 'sharp';

import { cutLineOf } from '@/core/artwork';

import { decodePicture } from './decode';
import { asPicture } from './vector';

/* Drawings as artwork: drawn once at true size, clear where nothing prints; hostile ones are refused in words. */

const svg = (body: string, head = 'width="60mm" height="40mm" viewBox="0 0 60 40"') =>
  Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" ${head}>${body}</svg>`);
type Draw = (doc: PDFKit.PDFDocument) => void;
async function pdf(draw: Draw, more: object = {}): Promise<Buffer> {
  const doc = new PDFDocument({ size: [170, 113.4], margin: 0, ...more });
  const chunks: Buffer[] = [];
  doc.on('data', (chunk: Buffer) => chunks.push(chunk));
  draw(doc);
  doc.end();
  await new Promise((done) => doc.on('end', done));
  return Buffer.concat(chunks);
}
const opened = async (bytes: Uint8Array) => {
  const given = await asPicture(bytes);
  if (!given.ok) throw new Error(given.refusal.message);
  const read = await decodePicture(given.value);
  if (!read.ok) throw new Error(read.refusal.message);
  return read.value;
};
const MM = 72 / 25.4;

// Areas are closed forms: a disc of radius r with a stroke of width w prints π (r + w/2)².
test.each<[string, () => Promise<Uint8Array> | Uint8Array, number]>([
  [
    'a disc and its stroke',
    () => svg('<circle cx="30" cy="20" r="14" fill="#c33" stroke="#036" stroke-width="3"/>'),
    Math.PI * 15.5 ** 2,
  ],
  [
    'two rectangles that overlap, on two layers: one outline',
    () =>
      svg('<g><path d="M10 10h20v20h-20z" fill="#c33"/></g><g><path d="M25 15h20v10h-20z" fill="#063"/></g>'),
    400 + 200 - 50,
  ],
  [
    'a stroke without a filling',
    () => svg('<circle cx="30" cy="20" r="14" fill="none" stroke="#036" stroke-width="4"/>'),
    Math.PI * 16 ** 2,
  ],
  [
    'a PDF of one page',
    () =>
      pdf((doc) => {
        doc
          .circle(30 * MM, 20 * MM, 14 * MM)
          .lineWidth(3 * MM)
          .fillAndStroke('#cc3333', '#003366');
      }),
    Math.PI * 15.5 ** 2,
  ],
])('%s: one outer line round all that prints, at its true size', async (_, artwork, areaMm2) => {
  const picture = await opened(await artwork());
  expect((picture.width / picture.dpi!) * 25.4).toBeCloseTo(60, 1);
  expect((picture.height / picture.dpi!) * 25.4).toBeCloseTo(40, 1);
  const line = cutLineOf(picture, {
    ...{ size: { dpi: picture.dpi! }, background: 'auto', threshold: null, toleranceMm: 0.02, closeMm: 0 },
    ...{ minAreaMm2: 1, borderMm: 0, join: 'round', ignore: [] },
  });
  if (!line.ok) throw new Error(line.refusal.code);
  const outer = line.value.lines.filter((l) => !l.hole);
  expect(outer).toHaveLength(1);
  expect(outer[0]!.areaMm2 / areaMm2).toBeCloseTo(1, 2);
});

test('an SVG without a true size is drawn finely, and does not say how large it is', async () => {
  const picture = await opened(svg('<path d="M1 1h8v8h-8z"/>', 'viewBox="0 0 30 20"'));
  expect(picture.dpi).toBeNull();
  expect(picture.width / picture.height).toBeCloseTo(1.5, 2);
  expect(picture.width).toBeGreaterThan(4000);
});

test('pictures go through as they are', async () => {
  const png = await sharp({ create: { width: 20, height: 10, channels: 3, background: '#333' } })
    .png()
    .toBuffer();
  expect(await asPicture(png)).toEqual({ ok: true, value: png });
});

const bomb =
  '<!DOCTYPE svg [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;">]>';
test.each<[string, () => Promise<Uint8Array> | Uint8Array, RegExp]>([
  [
    'entities',
    () => Buffer.from(`${bomb}<svg xmlns="http://www.w3.org/2000/svg"><text>&c;</text></svg>`),
    /entities/,
  ],
  ['an SVG cut off', () => svg('<circle').subarray(0, 90), /broken/],
  [
    'a PDF cut off',
    async () => (await pdf((d) => d.rect(9, 9, 40, 40).fill('#000'))).subarray(0, 60),
    /broken or cut off/,
  ],
  ['a PDF of two pages', () => pdf((d) => void d.addPage()), /has 2 pages/],
  ['a locked PDF', () => pdf((d) => void d.rect(9, 9, 9, 9).fill('#000'), { userPassword: 'x' }), /password/],
  ['a text', () => Buffer.from('hello'), /no picture/],
  ['41 MB', () => Buffer.alloc(41 * 1024 * 1024), /at most 40 MB/],
])('%s: refused with what would be right', async (_, artwork, words) => {
  const given = await asPicture(await artwork());
  if (given.ok) throw new Error('opened');
  expect(given.refusal.message).toMatch(words);
});

test('what an SVG would load or run is not in the picture', async () => {
  const picture = await opened(
    svg(
      '<script>alert(1)</script><image href="file:///etc/hostname" width="60" height="40"/><path d="M9 9h9v9h-9z"/>',
    ),
  );
  const at = (xMm: number, yMm: number) =>
    picture.rgba[
      4 * (Math.round((yMm / 40) * picture.height) * picture.width + Math.round((xMm / 60) * picture.width)) +
        3
    ];
  expect([at(13, 13), at(40, 30)]).toEqual([255, 0]);
});
