import {
  driftForScript,
  driftRequestSchema,
  nextForScript,
  nextRequestSchema,
  planForScript,
  planRequestSchema,
} from './scriptRoll';

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
