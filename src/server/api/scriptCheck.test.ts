import sharp from 'sharp';

import { POST as check } from '@/app/api/check/route';

const AREA = { x0: 5, y0: 5, x1: 205, y1: 292 };
const CONTEXT = {
  ...{ media: { widthMm: 210, heightMm: 297 }, printable: AREA, cuttable: AREA },
  marks: [
    { x: 20, y: 20, sizeMm: 8, clearMm: 4 },
    { x: 20, y: 277, sizeMm: 8, clearMm: 4 },
  ],
};

async function ask(cut: string | null, context: unknown = CONTEXT, print?: Uint8Array | string) {
  const form = new FormData();
  if (cut !== null) form.set('cut', new File([cut], 'cut'));
  form.set('context', typeof context === 'string' ? context : JSON.stringify(context));
  if (print !== undefined) form.set('print', new File([print as BlobPart], 'print'));
  const answer = await check(new Request('http://127.0.0.1/api/check', { method: 'POST', body: form }));
  const body = (await answer.json()) as {
    findings?: { code: string; severity: string; where: { x0: number } | null }[];
    error?: { code: string; field?: string };
  };
  return { status: answer.status, codes: body.findings?.map((f) => f.code), ...body };
}

const svg = (body: string, size = 'width="210mm" height="297mm" viewBox="0 0 210 297"'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${size}>${body}</svg>`;
const line = (d: string): string => `<path d="${d}" fill="none" stroke="#000"/>`;
/** y down, as SVG has it: a card from 60 to 145 mm across and 100 to 155 from the far edge. */
const CARD = line('M60 100H145V155H60Z');
const DISC = '<circle cx="160" cy="200" r="15" fill="none" stroke="#000"/>';
const marksDrawn = [20, 277].map((y) => `<rect x="16" y="${297 - y - 4}" width="8" height="8"/>`).join('');

test('a good pair has no findings: SVG with its print as SVG, PNG or PDF, with marks, bleed and page', async () => {
  const art = `${marksDrawn}<rect x="57" y="97" width="91" height="61" fill="#234"/><circle cx="160" cy="200" r="18" fill="#a32"/>`;
  const context = { ...CONTEXT, neededMm: 1.5, driverPage: CONTEXT.media };
  const asSvg = svg(art);
  const asPng = await sharp(Buffer.from(asSvg), { density: 200 }).png().toBuffer();
  const asPdf = '%PDF-1.4\n1 0 obj<</Type/Page/MediaBox [0 0 595.276 841.89]>>endobj';
  for (const print of [undefined, asSvg, asPng, asPdf])
    expect(await ask(svg(CARD + DISC), context, print)).toMatchObject({ status: 200, findings: [] });
});

test('where it is wrong is told in the sheet’s frame, whatever the file’s own', async () => {
  const svgFile = await ask(svg(line('M190 10H230V50H190Z')));
  expect(svgFile.codes).toEqual(['outside-cuttable']);
  const where = Object.entries(svgFile.findings![0]!.where!).map(([k, v]) => [k, Math.round(v)]);
  expect(Object.fromEntries(where)).toEqual({ x0: 190, y0: 247, x1: 230, y1: 287 });
  // HPGL: 40 units a millimetre, y up already.
  const plotted = await ask('IN;SP1;PU800,800;PD1200,800,1200,1200,800,1200,800,800;PU;');
  expect(plotted.codes).toEqual(['in-clear-zone']);
});

test.each<[string, string, object, string | undefined, string]>([
  ['a print of another page', svg(CARD), {}, '%PDF-1.7\n/MediaBox [ 0 0 612 792 ]', 'page-differs'],
  [
    'too little bleed',
    svg(CARD),
    { neededMm: 2 },
    svg(`${marksDrawn}<rect x="59.5" y="99.5" width="86" height="56"/>`),
    'bleed-too-small',
  ],
  [
    'marks that are not there',
    svg(CARD),
    {},
    svg('<rect x="55" y="95" width="95" height="65"/>'),
    'marks-hard-to-read',
  ],
  [
    'another print',
    svg(CARD),
    {},
    svg(`${marksDrawn}<rect x="60" y="230" width="40" height="20"/>`),
    'not-this-print',
  ],
  [
    'colours without names',
    svg(
      '<path d="M60 100H145V155H60Z" fill="none" stroke="#f00"/><path d="M70 200H100V230H70Z" fill="none" stroke="#00f"/>',
    ),
    {},
    undefined,
    'line-kind',
  ],
  ['a doubled line', svg(CARD + CARD), {}, undefined, 'doubled-line'],
])('%s is found', async (_, cut, change, print, code) => {
  const { status, codes } = await ask(cut, { ...CONTEXT, ...change }, print);
  expect([status, codes?.includes(code)]).toEqual([200, true]);
});

test('a picture inside a drawing, enlarged, is found', async () => {
  const tiny = (
    await sharp({ create: { width: 60, height: 40, channels: 3, background: '#a32' } })
      .png()
      .toBuffer()
  ).toString('base64');
  const print = svg(
    `${marksDrawn}<image x="55" y="95" width="95" height="65" href="data:image/png;base64,${tiny}"/>`,
  );
  expect((await ask(svg(CARD), CONTEXT, print)).codes).toEqual(['bitmap-enlarged']);
});

test.each<[string, string | null, unknown, string | undefined, number, string]>([
  ['no cut file', null, CONTEXT, undefined, 400, 'no-file'],
  ['a cut file that is none', 'hello', CONTEXT, undefined, 422, 'unreadable-file'],
  ['no context', svg(CARD), 'what', undefined, 400, 'invalid-field'],
  ['a context without media', svg(CARD), { ...CONTEXT, media: undefined }, undefined, 400, 'invalid-field'],
  ['a print that is none', svg(CARD), CONTEXT, 'hello', 422, 'not-an-image'],
  [
    'a print with entities',
    svg(CARD),
    CONTEXT,
    '<?xml version="1.0"?><!DOCTYPE s [<!ENTITY a SYSTEM "file:///etc/passwd">]><svg>&a;</svg>',
    422,
    'not-an-image',
  ],
])('%s: refused, never 500', async (_, cut, context, print, status, code) => {
  expect(await ask(cut, context, print)).toMatchObject({ status, error: { code } });
});
