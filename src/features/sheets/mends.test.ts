import type { Finding } from '@/core/artwork/checks';
import { layOutJob, secondLine, type JobPiece } from '@/core/sheetJob';

import type { Laid } from './DraftWork';
import { mendOf } from './mends';
import { jobFindings } from '@/core/sheetJob';

/* One press does away with what it is offered for: laid out again, the finding is gone. */

const points = [
  { x: 0, y: 0 },
  { x: 40, y: 0 },
  { x: 40, y: 30 },
  { x: 0, y: 30 },
];
const LINES = [{ points, areaMm2: 1200, hole: false }];
const AREA = { x0: 5, y0: 5, x1: 195, y1: 295 };
const LIMITS = { neededMm: 0.34, nearestMm: 1 };
const LAID: Laid = {
  ...{ name: 'tags', setupId: 'one' },
  layout: { gapMm: 3, centre: false, mayTurn: false },
  pieces: [{ id: 'A', copies: 6, bleedMm: 0, kind: 'kiss-cut', second: null }],
};
const found = (laid: Laid): Finding['code'][] => {
  const pieces = laid.pieces.map((p): JobPiece => {
    const { second, ...rest } = p;
    return {
      ...rest,
      ...{ picture: { widthMm: 40, heightMm: 30, at: { x: 0, y: 0 } }, ink: [points], lines: LINES },
      second: second ? { ...second, lines: secondLine(LINES, second.byMm) } : undefined,
    };
  });
  const job = layOutJob(pieces, laid.layout, {
    sheetWidthMm: 200,
    sheetHeightMm: 300,
    area: AREA,
    marks: null,
  });
  if (!job.ok) throw new Error(job.refusal.code);
  const context = {
    ...{ media: { widthMm: 200, heightMm: 300 }, printable: AREA, cuttable: AREA, marks: [] },
    ...{ driverPage: null, cutterPage: null, borderMm: null, bleedMm: null, smallestMm: 3 },
    ...LIMITS,
  };
  return jobFindings(job.value, context, LIMITS.neededMm).map((f) => f.code);
};
const piece = (by: Partial<Laid['pieces'][number]>): Laid => ({
  ...LAID,
  pieces: [{ ...LAID.pieces[0]!, ...by }],
});
const layout = (by: Partial<Laid['layout']>): Laid => ({ ...LAID, layout: { ...LAID.layout, ...by } });

test.each<[string, Laid, Finding['code'], string]>([
  ['bleed', piece({ bleedMm: 0.1 }), 'bleed-too-small', 'Bleed of 0.40 mm'],
  ['gap', layout({ gapMm: 0.4 }), 'too-near', 'Gap of 2.00 mm'],
  ['no gap', layout({ gapMm: 0 }), 'doubled-line', 'Gap of 2.00 mm'],
  [
    'a second line',
    piece({ second: { byMm: 0.5, kind: 'cut-through' } }),
    'too-near',
    'Second line 2.00 mm outside',
  ],
  [
    'what was moved',
    layout({ nudged: [{ sheet: 0, index: 0, dxMm: 20, dyMm: 5 }] }),
    'too-near',
    'Put what was moved back',
  ],
])('%s: mended, it is not found again', (_, laid, code, words) => {
  expect(found(laid)).toContain(code);
  const mend = mendOf(code, laid, LIMITS, 'mm')!;
  expect(mend.words).toBe(words);
  expect(found(mend.laid)).toEqual([]);
});

test('where somebody has to look there is no such press', () => {
  expect(mendOf('crosses-itself', LAID, LIMITS, 'mm')).toBeNull();
  expect(mendOf('too-near', LAID, LIMITS, 'mm')).toBeNull();
  expect(mendOf('bleed-too-small', piece({ bleedMm: 0.1 }), { ...LIMITS, neededMm: null }, 'mm')).toBeNull();
});
