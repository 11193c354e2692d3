import fc from 'fast-check';

import { Predictor } from '../drift';
import { filmNode, followed } from '@test/rolls';

import {
  copyAtMm,
  forecast,
  impose,
  planRefusalText,
  planRoll,
  planWithCurves,
  placeOn,
  rollerRoom,
  rollYield,
  roundUp,
  sectionsOf,
  typeThese,
  type RollJob,
  type RollRig,
  type StrategyName,
} from '.';
import { timelineOf } from './timeline';

const NODE = filmNode({ bowMmPerM2: 0.01 });
const KNOWN = { along: [NODE], across: [{ ...NODE, creepMmPerM: 0, bowMmPerM2: 0 }] };
const ALL_MARKS: RollRig = { registers: true, bothEnds: true, longestMm: null, everyMm: 500 };

const JOB: RollJob = {
  itemWidthMm: 300,
  itemHeightMm: 183.4,
  copies: 46,
  gapMm: 3.5,
  printableWidthMm: 1315,
  mayTurn: false,
  lanes: 1,
  laneGapMm: 0,
  centreLastRow: false,
  outline: 'rectangle',
  toleranceMm: 0.5,
  promise: 0.01,
  rowsPerSection: 5,
  markRoomMm: 0,
  betweenMm: 3.5,
  leadMm: 0,
  tailMm: 0,
  rollLeftMm: null,
  cutLengthMm: null,
  speeds: { printMmPerHour: 10_000, cutMmPerS: 200, registerS: 60, waitS: 0 },
  oneMachine: false,
  correctCreep: false,
};

function planned(job: Partial<RollJob>, onRecord = 96, rig = ALL_MARKS) {
  const plan = planRoll({ ...JOB, ...job }, KNOWN, onRecord, rig);
  if (!plan.ok) throw new Error(planRefusalText(plan.refusal));
  return plan.value;
}
const named = (plan: ReturnType<typeof planned>, name: string) =>
  plan.strategies.find((s) => s.name === name)!;

test('46 copies, 183.4 mm tall, 3.5 mm gap, 4 across, 5 rows a section (common practice, no source)', () => {
  const plan = planned({});
  expect(plan.imposition).toMatchObject({ columns: 4, rows: 12, copiesInLastRow: 2, leftoverCopies: 2 });
  const { sections } = named(plan, 'sections');
  expect(sections.map((s) => [s.rows, s.copies])).toEqual([
    [5, 20],
    [5, 20],
    [2, 6],
  ]);
  expect(sections[0]!.heightMm).toBeCloseTo(931, 9);
  const typed = typeThese({ pageHeightMm: sections[0]!.heightMm, copies: 20 }, 1315, null, 'mm', 1);
  expect(typed.map((f) => [f.name, f.value])).toEqual([
    ['page height', 931],
    ['copies', 20],
    ['page width', 1315],
  ]);
});

test('a width that the items fill exactly loses no column, whatever the decimals', () => {
  const tenths = (least: number, most: number) => fc.integer({ min: least, max: most }).map((v) => v / 10);
  fc.assert(
    fc.property(tenths(10, 3000), tenths(0, 200), fc.integer({ min: 1, max: 40 }), (w, g, columns) => {
      const printableWidthMm = columns * w + (columns - 1) * g;
      const exact = impose({ ...JOB, itemWidthMm: w, gapMm: g, printableWidthMm });
      expect(exact.ok && exact.value.columns).toBe(columns);
      const less = impose({ ...JOB, itemWidthMm: w, gapMm: g, printableWidthMm: printableWidthMm - 0.01 });
      expect(less.ok ? less.value.columns : 0).toBe(columns - 1);
    }),
  );
});

test.each([
  ['wider than the roll', { itemWidthMm: 1400, itemHeightMm: 2000 }, /1400\.0 mm wide .* swapped/],
  ['wider, but not when turned', { itemWidthMm: 1400 }, /Turned by 90° it would fit/],
  ['wider than its lane', { itemWidthMm: 700, itemHeightMm: 800, lanes: 2, laneGapMm: 20 }, /647\.5 mm/],
  ['a million copies', { copies: 1_000_000 }, /at most 20000/],
])('refuses an item %s', (_, job, sentence) => {
  const plan = planRoll({ ...JOB, ...job }, KNOWN, 96, ALL_MARKS);
  expect(plan.ok ? '' : planRefusalText(plan.refusal)).toMatch(sentence);
});

test('items are turned when it saves media, and only when allowed', () => {
  const tall = { itemWidthMm: 700, itemHeightMm: 320, copies: 12 };
  expect(planned(tall).imposition).toMatchObject({ turned: false, columns: 1, rows: 12 });
  expect(planned({ ...tall, mayTurn: true }).imposition).toMatchObject({ turned: true, columns: 4, rows: 3 });
  expect(planned({ ...tall, copies: 1, mayTurn: true }).imposition.turned).toBe(false);
});

test('lanes side by side keep their strip of waste free', () => {
  const { imposition } = planned({ itemWidthMm: 100, gapMm: 5, lanes: 2, laneGapMm: 40 });
  expect(imposition.columnsPerLane).toBe(6);
  expect(imposition.columnsAtMm[6]! - imposition.columnsAtMm[5]!).toBeCloseTo(637.5 + 40 - 5 * 105, 9);
});

test('a last row that is not full can stand in the middle', () => {
  const { imposition } = planned({ centreLastRow: true });
  // 2 of 4 columns of 303.5 mm: moved by one of them.
  expect(copyAtMm(imposition, 11, 0)).toBeCloseTo(303.5, 9);
  expect(copyAtMm(imposition, 10, 0)).toBe(0);
  expect(copyAtMm(planned({}).imposition, 11, 0)).toBe(0);
});

test('every copy is in exactly one section, sections follow each other, longer ones never do better', () => {
  const job = fc.record({
    copies: fc.integer({ min: 1, max: 900 }),
    rowsPerSection: fc.integer({ min: 1, max: 60 }),
    markRoomMm: fc.integer({ min: 0, max: 60 }),
    itemHeightMm: fc.integer({ min: 20, max: 400 }),
  });
  fc.assert(
    fc.property(job, (some) => {
      const plan = planned(some);
      const { sections, printedMm } = named(plan, 'sections');
      expect(sections.reduce((sum, s) => sum + s.copies, 0)).toBe(some.copies);
      expect(sections.reduce((sum, s) => sum + s.rows, 0)).toBe(plan.imposition.rows);
      sections.slice(1).forEach((s, i) => expect(s.startMm - sections[i]!.endMm).toBeCloseTo(3.5, 6));
      expect(printedMm).toBeCloseTo(sections.at(-1)!.endMm, 9);
      const shorter = named(
        planned({ ...some, rowsPerSection: Math.ceil(some.rowsPerSection / 2) }),
        'sections',
      );
      expect(shorter.spoiled).toBeLessThanOrEqual(named(plan, 'sections').spoiled + 1e-6);
    }),
    { numRuns: 40 },
  );
});

test('the rows that are planned keep the promise, one more would not; a short log is planned more carefully', () => {
  const job = { rowsPerSection: null, copies: 400, toleranceMm: 0.45 };
  const chosen = named(planned(job), 'sections');
  expect(chosen.spoiledShare).toBeLessThanOrEqual(0.01);
  const more = named(planned({ ...job, rowsPerSection: chosen.rowsPerSection + 1 }), 'sections');
  expect(more.spoiledShare).toBeGreaterThan(0.01);
  expect(planned(job, 24).plannedShare).toBeCloseTo(0.007, 12);
  expect(named(planned(job, 24), 'sections').rowsPerSection).toBeLessThanOrEqual(chosen.rowsPerSection);
});

test('with the creep taken out, or with marks along the sides, a piece can be longer', () => {
  const job = { rowsPerSection: null, copies: 400 };
  const [raw, stretched] = [planned(job), planned({ ...job, correctCreep: true })];
  expect(named(stretched, 'sections').rowsPerSection).toBeGreaterThan(named(raw, 'sections').rowsPerSection);
  expect(named(raw, 'one-piece-intermediate').worstR95Mm).toBeLessThan(named(raw, 'one-piece').worstR95Mm);
  expect(raw.recommended).toBe('one-piece-intermediate');
  const startOnly = planned(job, 96, { ...ALL_MARKS, bothEnds: false, everyMm: null });
  expect(startOnly.recommended).toBe('sections');
  expect(named(startOnly, 'sections-both-ends').missing).toMatch(/far end/);
  const near = planned(job, 96, { ...ALL_MARKS, longestMm: 1000 });
  expect(named(near, 'sections-both-ends').rowsPerSection).toBe(5);
  expect(named(near, 'one-piece-both-ends').missing).toMatch(/up to 1000 mm/);
});

test('expected spoiled items of a long plan agree with every row worked out by itself', () => {
  const job = { ...JOB, itemHeightMm: 40, itemWidthMm: 60, copies: 2000, rowsPerSection: 40, markRoomMm: 15 };
  const imposed = impose(job);
  if (!imposed.ok) throw new Error('does not fit');
  const way = { way: 'start' as const, everyMm: null };
  const predictor = new Predictor(KNOWN, { way: 'start', takenOut: false });
  const sections = sectionsOf(imposed.value, 40, job);
  const judged = { imposition: imposed.value, room: job, toleranceMm: 0.5, outline: 'rectangle' as const };
  const quick = forecast(predictor, way, sections, judged);
  const slow = sections.map((section) => {
    let spoiled = 0;
    for (let copy = 0; copy < section.copies; copy += 1) {
      const row = Math.floor(copy / imposed.value.columns);
      spoiled += predictor.spoiledChance(placeOn(way, section, 15 + row * 43.5 + 40), 0.5, 'rectangle');
    }
    return spoiled;
  });
  const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);
  expect(sum(quick.map((f) => f.spoiled)) / sum(slow)).toBeCloseTo(1, 1);
  expect(sum(quick.map((f) => f.spoiled))).toBeGreaterThan(0.97 * sum(slow));
});

const yields = (rollLeftMm: number, job: Partial<RollJob> = {}, name: StrategyName = 'sections') =>
  rollYield(
    { ...JOB, leadMm: 300, tailMm: 250, promise: 0.1, toleranceMm: 1, ...job },
    KNOWN,
    96,
    ALL_MARKS,
    name,
    false,
    rollLeftMm,
  );

test.each([
  // 550 mm of lead and tail; 5 rows are 931 mm, further sections 934.5 mm.
  ['one section', 550 + 931, {}, { copies: 20, promised: 18, sections: 1 }],
  ['a tenth of a mm less', 550 + 930.9, {}, { copies: 16, promised: 14, sections: 1 }],
  ['two sections', 550 + 931 + 934.5, {}, { copies: 40, promised: 36, sections: 2 }],
  ['not one row', 600, {}, { copies: 0, promised: 0, sections: 0 }],
  ['a tolerance that nothing keeps', 5000, { toleranceMm: 0.02 }, { copies: 0, promised: 0, sections: 0 }],
])('backwards from the roll: %s', (_, rollLeftMm, job, expected) => {
  expect(yields(rollLeftMm, job)).toEqual(expected);
});

test('what the roll yields can be planned, one more row cannot, and more roll never yields less', () => {
  const cases = fc.record({
    rollLeftMm: fc.integer({ min: 700, max: 15_000 }),
    toleranceMm: fc.constantFrom(0.15, 0.3, 0.8),
    name: fc.constantFrom<StrategyName>('one-piece', 'sections', 'sections-both-ends'),
  });
  fc.assert(
    fc.property(cases, ({ rollLeftMm, toleranceMm, name }) => {
      const job = { toleranceMm, promise: 0.02, rowsPerSection: null };
      const y = yields(rollLeftMm, job, name);
      const holds = (copies: number): boolean => {
        const plan = planned({ ...job, copies, leadMm: 300, tailMm: 250, rollLeftMm });
        const way = named(plan, name);
        return way.fitsRoll && way.keepsPromise && way.missing === null;
      };
      if (y.copies > 0) expect(holds(y.copies)).toBe(true);
      expect(holds(y.copies + 4)).toBe(false);
      expect(yields(rollLeftMm + 500, job, name).copies).toBeGreaterThanOrEqual(y.copies);
    }),
    { numRuns: 25 },
  );
});

test('a plan with its curves: the wanted way when it can be done, small curves for all, all of them within the run', () => {
  const made = (wanted: StrategyName | null, rig = ALL_MARKS, rollLeftMm: number | null = null) => {
    const result = planWithCurves({ ...JOB, rollLeftMm }, KNOWN, followed(KNOWN), 96, rig, wanted);
    if (!result.ok) throw new Error(planRefusalText(result.refusal));
    return result.value;
  };
  const none = { ...ALL_MARKS, bothEnds: false, everyMm: null };
  expect(made('sections').chosen).toBe('sections');
  expect(made('sections-both-ends', none).chosen).toBe(made(null, none).plan.recommended);
  expect(made('one-piece').onePiece).toEqual([]);
  const { plan, ways, profile, fromRoll } = made('sections', ALL_MARKS, 5000);
  expect(fromRoll!.copies).toBeGreaterThan(40);
  expect(ways).toHaveLength(plan.strategies.length);
  ways.forEach((way, i) => {
    const s = plan.strategies[i]!;
    expect(way.filter((p) => p.starts)).toHaveLength(s.sections.length);
    expect(Math.max(...way.map((p) => p.yMm))).toBeCloseTo(s.printedMm, 6);
    // With marks at the start alone the worst of it is at the far end, which the forecast is for.
    if (s.way === 'start') expect(Math.max(...way.map((p) => p.r95Mm))).toBeCloseTo(s.worstR95Mm, 2);
  });
  expect(profile.length).toBeGreaterThan(ways[3]!.length);
});

test('rollers run on the media and outside the marks, or there is no room for them', () => {
  const marks = { sizeMm: 10, clearMm: 8, insetLeftMm: 45, insetRightMm: 30 };
  expect(rollerRoom(marks, { rollerMm: 20, rollerEdgeMm: 3 })).toEqual([
    { side: 'left', fromMm: 3, toMm: 32, fits: true },
    { side: 'right', fromMm: 3, toMm: 17, fits: false },
  ]);
  expect(rollerRoom({ ...marks, insetLeftMm: 5 }, { rollerMm: 1, rollerEdgeMm: 0 })[0]).toMatchObject({
    toMm: 0,
    fits: false,
  });
});

test.each([
  [931, 1, 931],
  [931.00000004, 1, 931],
  [931.2, 1, 932],
  [36.654, 0.0625, 36.6875],
])('%s is typed in steps of %s as %s', (exact, step, typed) => {
  expect(roundUp(exact, step)).toBeCloseTo(typed, 9);
});

test('printing the next piece while the last is cut', () => {
  const speeds = { printMmPerHour: 3600, cutMmPerS: 10, registerS: 5, waitS: 100 };
  const pieces = [
    { lengthMm: 60, cutMm: 250 },
    { lengthMm: 60, cutMm: 250 },
  ];
  // Print 60 s each, cut 30 s each: 60 + 60, wait, the second cut.
  expect(timelineOf(pieces, speeds, false)).toEqual({ printS: 120, waitS: 100, cutS: 60, totalS: 250 });
  // One machine waits for the first cut before it prints the second.
  expect(timelineOf(pieces, speeds, true).totalS).toBe(60 + 100 + 30 + 60 + 100 + 30);
});

test('a kit whose leading mark stands at the far end runs no roll, and every way says why', () => {
  const made = planRoll(JOB, KNOWN, 96, { ...ALL_MARKS, farLed: true });
  if (!made.ok) throw new Error(planRefusalText(made.refusal));
  for (const s of made.value.strategies) expect(s.missing).toMatch(/leading mark stands at the far end/);
  // The screen still has one to show, with that reason.
  expect(made.value.strategies.map((s) => s.name)).toContain(made.value.recommended);
});
