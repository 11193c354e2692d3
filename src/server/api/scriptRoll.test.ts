import fc from 'fast-check';

import {
  driftForScript,
  driftRequestSchema,
  nextForScript,
  nextRequestSchema,
  planForScript,
} from './scriptRoll';
import { planRequestSchema } from '@/core/layout/planShape';

const plan = (body: unknown) => {
  const planned = planForScript(planRequestSchema.parse(body));
  return planned.ok ? (planned.value as Record<string, never>) : planned.refusal;
};

const TAGS = { item: { widthMm: 300, heightMm: 183.4 }, copies: 46, gapMm: 3.5, printableWidthMm: 1315 };

test('the worked example of the trade (common practice, no source)', () => {
  expect(plan({ ...TAGS, rowsPerSection: 5 })).toMatchObject({
    columns: 4,
    rows: 12,
    rowsPerSection: 5,
    sectionHeightMm: expect.closeTo(931, 9) as number,
    sections: [
      { index: 1, rows: 5, copies: 20 },
      { index: 2, rows: 5, copies: 20 },
      { index: 3, rows: 2, copies: 6 },
    ],
    totalLengthMm: expect.closeTo(12 * 183.4 + 11 * 3.5, 6) as number,
  });
});

test('a drift that is given decides the rows; without wander and creep one piece will do', () => {
  const still = plan({ ...TAGS, drift: { along: {} } });
  expect(still).toMatchObject({ recommended: 'one-piece', rowsPerSection: 12 });
  const creeping = plan({
    ...TAGS,
    drift: { along: { creepMmPerM: 0.6, registrationSdMm: 0.03 } },
    marks: { bothEnds: false },
  });
  // 0.5 mm allowed and 0.6 mm per m: the last row may end some 0.75 m from its mark.
  expect(creeping).toMatchObject({ recommended: 'sections', rowsPerSection: 4 });
});

test('refusals are values', () => {
  expect(plan({ ...TAGS, item: { widthMm: 1400, heightMm: 1500 } })).toMatchObject({ code: 'too-wide' });
});

test('drift of exact readings is exact, and the next section follows it', () => {
  const runs = ['a', 'b', 'c', 'd', 'e'].map((id, r) => ({
    id,
    readings: Array.from({ length: 12 }, (_, k) => ({
      y: 0.75 * (k + 1),
      dx: 0.1,
      dy: 0.05 * r + 0.4 * 0.75 * (k + 1),
      u: 0.03,
    })),
  }));
  const { along, across } = driftForScript(driftRequestSchema.parse({ runs }));
  expect(along!.creepMmPerM.value).toBeCloseTo(0.4, 2);
  expect(across!.creepMmPerM.value).toBeCloseTo(0, 2);
  expect(along!.steps).toEqual([]);
  const next = nextForScript(
    nextRequestSchema.parse({
      drift: { along: { creepMmPerM: 0.4, wanderMm2PerM: 0.002, registrationSdMm: 0.03 } },
      run: { readings: runs[2]!.readings.slice(0, 4) },
      next: { startM: 3, endM: 3.75 },
    }),
  );
  expect(next.along.atEndMm).toBeCloseTo(0.1 + 0.4 * 3.75, 1);
  expect(next.map.a22 - 1).toBeCloseTo(0.4e-3, 5);
  expect(next.map.ty).toBeCloseTo(next.along.atStartMm, 12);
  expect(next.go).toBe(true);
});

test('a slip stops the run', () => {
  const readings = [0, 0.02, -0.01, 0.01, 0.6, 0.62].map((dy, k) => ({ y: 0.75 * (k + 1), dx: 0, dy }));
  const next = nextForScript(
    nextRequestSchema.parse({
      drift: { along: { wanderMm2PerM: 0.002, registrationSdMm: 0.03 } },
      run: { readings },
      next: { startM: 4.5, endM: 5.25 },
    }),
  );
  expect(next.along.slip).toMatchObject({ afterM: 3, beforeM: 3.75 });
  expect(next.go).toBe(false);
});

test.each([
  ['no run', { runs: [] }, /“runs” is empty/],
  ['a reading without an offset', { runs: [{ id: 'a', readings: [{ y: 1 }] }] }, /needs “dx”, “dy” or both/],
  ['a reading before the run', { runs: [{ id: 'a', readings: [{ y: -1, dx: 0 }] }] }, /cannot be negative/],
  [
    'a run without a registration',
    { runs: [{ id: 'a', registeredAt: [], readings: [] }] },
    /registered at least once/,
  ],
  [
    'more registrations than can be worked through',
    {
      runs: Array.from({ length: 3 }, (_, i) => ({
        id: i,
        registeredAt: Array.from({ length: 900 }, (__, y) => y),
        readings: [{ y: 950, dx: 0 }],
      })),
    },
    /At most 2000 registrations/,
  ],
  [
    'more readings than can be worked through',
    { runs: [0, 1].map((id) => ({ id, readings: Array.from({ length: 600 }, () => ({ y: 1, dx: 0 })) })) },
    /At most 1000 readings/,
  ],
  [
    'an unknown media',
    { runs: [{ id: 1, readings: [] }], mediaClass: 'foil' },
    /one of film, paper, transfer/,
  ],
])('a drift request with %s is refused with what would be right', (_, body, sentence) => {
  const parsed = driftRequestSchema.safeParse(body);
  expect(parsed.success ? '' : parsed.error.issues.map((i) => i.message).join(' ')).toMatch(sentence);
});

test('backwards: what is left on the roll, with and without it', () => {
  const drift = { along: { creepMmPerM: 0.1 } };
  expect(plan({ ...TAGS, rowsPerSection: 5, drift })).not.toHaveProperty('fromRoll');
  expect(plan({ ...TAGS, rowsPerSection: 5, drift, rollLeftMm: 931 })).toMatchObject({
    fromRoll: { copies: 20, promised: 19, sections: 1 },
  });
});

const from = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true });
const sometimes = <T>(of: fc.Arbitrary<T>): fc.Arbitrary<T | undefined> => fc.option(of, { nil: undefined });
const anyAxis = fc.record({
  creepMmPerM: from(-5, 5),
  bowMmPerM2: from(-0.1, 0.1),
  creepSe: from(0, 1),
  creepSpreadMmPerM: from(0, 1),
  wanderMm2PerM: from(0, 1),
  registrationSdMm: from(0, 1),
});
const anyPlan = fc.record({
  item: fc.record({ widthMm: from(3, 2000), heightMm: from(3, 2000) }),
  copies: fc.integer({ min: 1, max: 6000 }),
  gapMm: from(0, 50),
  printableWidthMm: from(100, 1600),
  toleranceMm: from(0.01, 5),
  promise: from(0.0001, 0.5),
  outline: fc.constantFrom('rectangle' as const, 'round' as const),
  mayTurn: fc.boolean(),
  lanes: fc.integer({ min: 1, max: 4 }),
  centreLastRow: fc.boolean(),
  markRoomMm: from(0, 60),
  rollLeftMm: sometimes(from(1, 60_000)),
  rowsPerSection: sometimes(fc.integer({ min: 1, max: 400 })),
  correctCreep: fc.boolean(),
  oneMachine: fc.boolean(),
  mediaClass: fc.constantFrom('film' as const, 'paper' as const, 'transfer' as const),
  drift: sometimes(fc.record({ along: anyAxis, sectionsOnRecord: fc.integer({ min: 0, max: 200 }) })),
});

interface AnyAnswer {
  readonly rows: number;
  readonly columns: number;
  readonly usedWidthMm: number;
  readonly totalLengthMm: number;
  readonly sections: readonly Record<'rows' | 'copies' | 'startMm' | 'endMm' | 'expectedSpoiled', number>[];
  readonly strategies: readonly Record<'expectedSpoiledShare' | 'worstR95Mm' | 'seconds', number>[];
}

test('whatever is asked within the limits: every copy has its place, no section overlaps, every figure is one', () => {
  let refused = 0;
  fc.assert(
    fc.property(anyPlan, (body) => {
      const said = plan(JSON.parse(JSON.stringify(body))) as unknown as AnyAnswer & { code?: string };
      if (said.code !== undefined) {
        refused += 1;
        // Only what does not fit is refused.
        expect(['too-wide', 'too-many-rows']).toContain(said.code);
        return;
      }
      // JSON has no NaN and no infinity: they would have become null.
      expect(JSON.stringify(said)).not.toMatch(/NaN|Infinity|:null,"(worst|expected|seconds)/);
      const total = (of: 'rows' | 'copies'): number => said.sections.reduce((sum, s) => sum + s[of], 0);
      expect(total('copies')).toBe(body.copies);
      expect(total('rows')).toBe(said.rows);
      expect(said.usedWidthMm).toBeLessThanOrEqual(body.printableWidthMm + 1e-6);
      said.sections.forEach((s, i) => {
        expect(s.startMm).toBeGreaterThanOrEqual(said.sections[i - 1]?.endMm ?? 0);
        expect(s.expectedSpoiled).toBeGreaterThanOrEqual(0);
        expect(s.expectedSpoiled).toBeLessThanOrEqual(s.copies * (1 + 1e-9));
      });
      expect(said.sections.at(-1)!.endMm).toBeCloseTo(said.totalLengthMm, 6);
      for (const { expectedSpoiledShare, worstR95Mm, seconds } of said.strategies) {
        expect(expectedSpoiledShare).toBeGreaterThanOrEqual(0);
        expect(expectedSpoiledShare).toBeLessThanOrEqual(1 + 1e-9);
        expect(worstR95Mm).toBeGreaterThanOrEqual(0);
        expect(seconds).toBeGreaterThan(0);
      }
    }),
    { numRuns: 50 },
  );
  expect(refused).toBeLessThan(45);
});

test('more wander and a longer way never spoil less, nor does a known creep that is left in, nor a round item', () => {
  const share = (body: object): number => {
    const said = plan({
      ...TAGS,
      rowsPerSection: 6,
      marks: { bothEnds: false },
      correctCreep: true,
      ...body,
    });
    return (said as unknown as AnyAnswer).sections.reduce((sum, s) => sum + s.expectedSpoiled, 0);
  };
  fc.assert(
    fc.property(from(0, 0.05), from(0, 0.05), from(0, 0.8), (a, b, creep) => {
      const along = { registrationSdMm: 0.05, creepMmPerM: creep };
      const of = (wanderMm2PerM: number, more: object = {}): number =>
        share({ drift: { along: { ...along, wanderMm2PerM } }, ...more });
      const much = of(Math.max(a, b));
      // A thousandth of an item: what the integral over a disc is worth.
      const noLessThan = (least: number): number => least - 1e-3;
      expect(much).toBeGreaterThanOrEqual(noLessThan(of(Math.min(a, b))));
      expect(much).toBeGreaterThanOrEqual(noLessThan(of(Math.max(a, b), { rowsPerSection: 3 })));
      // With the mean off, a wider scatter may well bring some back: only the centred one is the best.
      expect(of(Math.max(a, b), { correctCreep: false })).toBeGreaterThanOrEqual(noLessThan(much));
      // The disc lies inside the square.
      expect(of(Math.max(a, b), { outline: 'round' })).toBeGreaterThanOrEqual(noLessThan(much));
    }),
    { numRuns: 15 },
  );
});
