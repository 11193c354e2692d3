import { seededRandom } from '@/core/random/random';
import { makeFault } from '@test/faults';

import { diagnoseForScript, diagnoseRequestSchema } from './scriptDiagnose';

/** What a script would send of a made fault; bars of 100 mm. */
function bodyOf(kind: Parameters<typeof makeFault>[0], seed: number) {
  const { rig, sheets } = makeFault(kind, 2, true, seededRandom(seed));
  return {
    marks: rig.marks,
    sheets: sheets.map((s) => ({
      ...{ load: s.load, job: s.job, fresh: s.fresh },
      stations: s.stations.map(({ x, y, dx, dy, ux }, i) => ({ id: i, x, y, dx, dy, u: ux })),
      bars: { acrossMm: 100 * (1 + s.bars!.across), alongMm: 100 * (1 + s.bars!.along), u: 0.15 },
    })),
  };
}

test.each(['calibration', 'misread', 'print-scaled', 'art-moved'] as const)(
  '%s, as a script sends it',
  (kind) => {
    const { kinds } = diagnoseForScript(diagnoseRequestSchema.parse(bodyOf(kind, 3)));
    expect(kinds.map((k) => k.kind).sort()).toEqual([
      'art-moved',
      'calibration',
      'load-scatter',
      'misread',
      'none',
      'print-scaled',
      'skewed-load',
      'slip',
    ]);
    expect(kinds[0]).toMatchObject({ kind, evidence: expect.stringMatching(/explains \d+ %/) as string });
    expect(kinds[0]!.nextCheck).toMatch(/\.$/);
    expect(JSON.stringify(kinds)).not.toMatch(/NaN|null/);
  },
);

test('true bars of four inches, or of two, are no scaled print', () => {
  const body = bodyOf('none', 5);
  for (const bar of [101.6, 50.8, 50]) {
    const sheets = body.sheets.map((s) => ({ ...s, bars: { acrossMm: bar, alongMm: bar, u: 0.1 } }));
    const { kinds } = diagnoseForScript(diagnoseRequestSchema.parse({ ...body, sheets }));
    expect([bar, kinds[0]!.kind]).toEqual([bar, 'none']);
  }
});

const [sheet] = bodyOf('none', 1).sheets;
test.each([
  ['five marks', { marks: 5, sheets: [sheet] }, /At most 4/],
  ['no sheets', { marks: 2, sheets: [] }, /empty/],
  [
    'a station without its uncertainty',
    { marks: 2, sheets: [{ load: 'a', stations: [{ id: 'a', x: 0, y: 0, dx: 0, dy: 0 }] }] },
    /no uncertainty/,
  ],
  [
    'a bar of nothing',
    { marks: 2, sheets: [{ ...sheet, bars: { acrossMm: 0, alongMm: 100, u: 0.1 } }] },
    /At least 1 mm/,
  ],
  ['sheets without end', { marks: 2, sheets: Array.from({ length: 21 }, () => sheet) }, /At most 20 sheets/],
])('%s is refused with a sentence', (_, body, message) => {
  const parsed = diagnoseRequestSchema.safeParse(body);
  expect(parsed.success ? '' : parsed.error.issues[0]!.message).toMatch(message);
});
