import Papa from 'papaparse';
import { SaxesParser } from 'saxes';

import { csvLines } from '@/server/base/csv';
import { drawnByPdfium } from '@test/readers/pdf';
import { CUT_FORMATS } from '@/core/drawing/formats';

import { onPage, words, type Drawing, type PageDrawing } from '..';
import { affineMap, IDENTITY } from '../../geometry';
import { pagesToPdf } from '../pdf/pages';
import { pageSvg } from '../svg';

import { correctFile, readCutFile, writeDrawing } from '.';

/** Names that people give to runs, media and layers, or that a file from outside brings along. */
const NAMES = [
  'Stickers $1 each',
  "$& $` $' $$ $<name>",
  'Honey & tar <b>500 g</b>',
  '"quoted" \'twice\'',
  'end ]]> of data',
  '<!-- no --> <![CDATA[ x ]]>',
  '\u202etfel ot thgir\u202c \u200f',
  'a\u0000b\u0007c\u001fd\ufffe',
  'half of a pair \ud83d',
  'two\nlines\r\nthree\ttabs',
  '&#x26;amp; &unknown;',
  'Möwe 🐟 船',
  '%s {0} \\u0041',
  '=1+2',
];

/** What an XML parser that is not ours finds: every text in it, or what it says is wrong. */
function textsOf(xml: string): string[] {
  const texts: string[] = [];
  const parser = new SaxesParser();
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('text', (text) => void texts.push(text));
  parser.on('opentag', ({ attributes }) => void texts.push(...(Object.values(attributes) as string[])));
  parser.write(xml).close();
  return texts;
}

const BOUNDS = Object.fromEntries(
  Object.entries({ x0: 10, y0: 10, x1: 30, y1: 40 }).map(([k, v]) => [k, expect.closeTo(v, 9)]),
);

/** What is left of a name where a format cannot hold all of it. */
const plain = (name: string): string =>
  name
    .replace(/\p{Surrogate}/gu, '\ufffd')
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/\r\n?/g, '\n');

const drawing = (layer: string): Drawing => ({
  paths: [
    {
      ...{ start: { x: 10, y: 10 }, closed: false, layer, colour: null, pen: null },
      segments: [{ kind: 'lines', xy: [30, 40] }],
    },
  ],
  layers: [{ name: layer, colour: null }],
  page: null,
  unitMm: 1,
});

const page = (name: string): PageDrawing =>
  onPage({ widthMm: 60, heightMm: 40 }, name, [words({ x: 5, y: 5 }, name, 4)]);

test.each(NAMES)('a name goes through every writer and comes out readable: %j', async (name) => {
  for (const to of CUT_FORMATS) {
    const written = writeDrawing({ ...drawing(name), title: name }, to);
    const read = readCutFile(written);
    expect(read).toMatchObject({ ok: true, value: { bounds: BOUNDS } });
    if (to === 'svg') expect(textsOf(written).filter((t) => t === plain(name))).toHaveLength(2);
    const again = correctFile(written, affineMap(IDENTITY), to);
    expect(again).toMatchObject({ ok: true, value: { report: { paths: 1 } } });
    if (to === 'svg' && again.ok) expect(textsOf(again.value.content)).toContain(plain(name));
    // A DXF comment and an HP-GL program are plain letters.
    if (to !== 'svg') expect(written).toMatch(/^[\x20-\x7e\n]*$/);
  }
  expect(textsOf(pageSvg(page(name)))).toEqual(expect.arrayContaining([plain(name)]));
  expect(await drawnByPdfium(await pagesToPdf([{ drawing: page(name), pictures: [] }]), 20)).toMatchObject([
    { widthMm: expect.closeTo(60, 1) },
  ]);
  const row = Papa.parse<string[]>(csvLines([[name, 1]]), { newline: '\r\n', delimiter: ',' }).data[0]!;
  expect([row[0]!.replace(/^'/, ''), row[1]]).toEqual([name, '1']);
});
