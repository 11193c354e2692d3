import type { SectionOutlook } from '@/core/drift';
import { IDENTITY } from '@/core/geometry';
import { planRoll } from '@/core/layout';
import { type Applied } from '@/db/stored/runs';
import { frozen } from '@/server/runs/frozenPlan';
import { checkYMm, type Run, type RunCheck, copiesLeft, restIsWorthPlanning } from '@/server/runs/run';
import { openSlip, type NextSection } from '@/server/runs/outlook';
import { jobOf, planRequestSchema } from '@/core/layout/planShape';
import { plainSetup } from '@test/setups';
import { filmNode } from '@test/rolls';

import {
  chartSections,
  correctionWords,
  lastCut,
  newestUndoable,
  nextIndex,
  readAgainWords,
  rowsToCheck,
  runAnswer,
  unchecked,
} from './runView';

const REQUEST = planRequestSchema.parse({
  item: { widthMm: 185, heightMm: 110 },
  copies: 96,
  gapMm: 4,
  printableWidthMm: 1310,
  rowsPerSection: 4,
  markRoomMm: 20,
  betweenMm: 10,
});
const STANDING = { id: crypto.randomUUID(), map: null };
function plan() {
  const setup = { registers: true, bothEnds: true, longestMm: null, everyMm: null };
  const planned = planRoll(jobOf(REQUEST), { along: [filmNode()], across: [filmNode()] }, 96, setup);
  if (!planned.ok) throw new Error(planned.refusal.code);
  return frozen(
    REQUEST,
    planned.value,
    planned.value.strategies.find((s) => s.name === 'sections')!,
    'drift',
    { untilCheckedMm: 0.41, thenMm: 0.07 },
    null,
    STANDING,
  );
}
const PLAN = plan();

/** Four sections, so many of them cut; those in `asDrawn` without a file. */
function run(cut: number, more: Partial<Run> = {}, asDrawn: readonly number[] = []): Run {
  const applied: Applied = { version: 'f', map: IDENTITY, stretch: 1, r95Mm: 0.1, standing: null };
  return {
    id: 'run',
    number: 7,
    label: 'R007',
    setup: plainSetup(),
    name: 'luggage tags',
    stage: 'running',
    version: 1,
    plan: PLAN,
    itemFile: null,
    standing: STANDING,
    newStanding: null,
    witnessXMm: null,
    startedBy: 'KT',
    startedAt: new Date(0),
    closedAt: null,
    outcome: null,
    sections: PLAN.sections.map(({ index }) => ({
      index,
      state: index <= cut ? 'cut' : 'waiting',
      applied: index <= cut && !asDrawn.includes(index) ? applied : null,
      fileId: null,
      cutBy: null,
      cutAt: null,
      spoiled: null,
    })),
    checks: [],
    events: [],
    files: [],
    ...more,
  };
}

const check = (section: number, place: RunCheck['place'], dyMm: number | null): RunCheck => ({
  id: `${section} ${place}`,
  section,
  place,
  yMm: checkYMm(PLAN, section, place),
  dxMm: 0.02,
  dyMm,
  uMm: 0.035,
  way: 'comb',
  by: 'KT',
  at: new Date(0),
});

function next(index: number, more: Partial<SectionOutlook> = {}, stretch = 1): NextSection {
  const axis = (atEndMm: number) => ({
    atStart: { offsetMm: 0.1, varianceMm2: 0.0025 },
    atEnd: { offsetMm: atEndMm, varianceMm2: 0.01 },
    slip: null,
    unsure: null,
  });
  const outlook: SectionOutlook = {
    along: axis(0.25),
    across: axis(-0.05),
    r95Mm: 0.21,
    r95AsDrawnMm: 0.4,
    map: { ...IDENTITY, a22: 1.0003, tx: 0.05, ty: -0.12 },
    ...more,
  };
  return {
    index,
    outlook,
    stretch,
    applied: { version: 'f', map: outlook.map, stretch, r95Mm: outlook.r95Mm, standing: null },
    start: [],
  };
}

test('what is next, what was last, what nobody checked', () => {
  expect([nextIndex(run(0)), lastCut(run(0))]).toEqual([1, null]);
  expect([nextIndex(run(2)), lastCut(run(2))]).toEqual([3, 2]);
  expect([nextIndex(run(4)), lastCut(run(4))]).toEqual([null, 4]);
  expect(unchecked(run(3, { checks: [check(2, 'last row', 0.1)] }))).toEqual([1, 3]);
});

test('the rows to be read before the next section: of the section cut last, first and last, or its only one', () => {
  expect(rowsToCheck(run(0))).toEqual([]);
  expect(rowsToCheck(run(2))).toEqual(['first row', 'last row']);
  // Another section's checks do not count; what was read of this one does.
  expect(rowsToCheck(run(2, { checks: [check(1, 'first row', 0), check(2, 'first row', 0)] }))).toEqual([
    'last row',
  ]);
  expect(rowsToCheck(run(2, { checks: [check(2, 'first row', 0), check(2, 'last row', 0)] }))).toEqual([]);
  const single = { ...PLAN, sections: PLAN.sections.map((s) => ({ ...s, rows: 1 })) };
  expect(rowsToCheck(run(1, { plan: single }))).toEqual(['first row']);
});

test.each<[string, Run, NextSection | null, RegExp, string]>([
  [
    'check first',
    run(1),
    next(2),
    /^Section 1, first row: move the dashed cut until it looks like your piece\.$/,
    'go',
  ],
  [
    'go',
    run(1, { checks: [check(1, 'first row', 0)] }),
    next(2),
    /^Load section 2 of 4, rows 5 to 8, .*at most 0\.21 mm; 0\.50 mm is allowed\.$/,
    'go',
  ],
  [
    'stop',
    run(1),
    next(2, { r95Mm: 0.61 }),
    /^Stop: section 2 may miss by 0\.61 mm and 0\.50 mm is allowed/,
    'stop',
  ],
  ['rest', run(1, { stage: 'paused' }), next(2), /^R007 rests\. Section 2 of 4 is next/, 'rest'],
  ['rest at the end', run(4, { stage: 'paused' }), null, /^R007 rests\. All sections are cut/, 'rest'],
  [
    'another correction stands meanwhile',
    run(1, { newStanding: { ...STANDING, by: 'MO', since: new Date(0) } }),
    next(2),
    /^Gloss white vinyl was corrected anew .* Say which correction the file of section 2 carries\.$/,
    'stop',
  ],
  ['done', run(4), null, /^All 4 sections are cut/, 'done'],
])('the sentence at the machine: %s', (_, state, ahead, words, go) => {
  const answer = runAnswer(state, ahead, null, 'mm');
  expect(answer.words).toMatch(words);
  expect(answer.go).toBe(go);
});

test.each([
  [
    [check(1, 'last row', 0), check(2, 'first row', 0.6)],
    /moved about 0\.58 mm further along between section 1 and 2/,
  ],
  [
    [check(2, 'first row', 0), check(2, 'last row', 0.6)],
    /moved about 0\.58 mm further along inside section 2/,
  ],
] as const)('a slip is told by the checks it lies between, and stops the run', (checks, words) => {
  const state = run(2, { checks });
  const ahead = next(3);
  const slip = {
    beforeReading: 1,
    fromM: checks[0].yMm / 1000,
    toM: checks[1].yMm / 1000,
    sizeMm: 0.58,
    uMm: 0.05,
    statistic: 11,
    limit: 3.4,
  };
  const found = openSlip(state, {
    ...ahead,
    outlook: { ...ahead.outlook, along: { ...ahead.outlook.along, slip } },
  });
  expect(found).toMatchObject({
    axis: 'along',
    before: { section: checks[0].section },
    after: { section: 2 },
  });
  const answer = runAnswer(state, ahead, found, 'mm');
  expect(answer.words).toMatch(words);
  expect(answer.words).toContain('Register anew before section 3');
  expect(answer.go).toBe('stop');
  expect(openSlip(state, ahead)).toBeNull();
});

test('the rest is worth planning anew once two sections have told; what is left counts what was spoiled', () => {
  const checks = [check(1, 'last row', 0.05), check(2, 'last row', 0.3)];
  expect(restIsWorthPlanning(run(2, { checks }))).toBe(true);
  expect(restIsWorthPlanning(run(2, { checks: checks.slice(1) }))).toBe(false);
  expect(restIsWorthPlanning(run(3, { checks }))).toBe(false);
  const state = run(2);
  expect(copiesLeft(state)).toBe(PLAN.sections[2]!.copies + PLAN.sections[3]!.copies);
  const spoiled = state.sections.map((s) => (s.index === 1 ? { ...s, spoiled: 3 } : s));
  expect(copiesLeft({ ...state, sections: spoiled })).toBe(copiesLeft(state) + 3);
  expect(copiesLeft(run(4))).toBe(1);
});

test('a step that may be a slip asks for one more reading of that row, once, and only of the section cut last', () => {
  const checks = [check(1, 'last row', 0.05), check(2, 'last row', 0.3)];
  const ahead = next(3);
  const unsure = {
    ...{ beforeReading: 1, fromM: checks[0]!.yMm / 1000, toM: checks[1]!.yMm / 1000 },
    ...{ sizeMm: 0.21, statistic: 2.63, chance: 0.2 },
  };
  const doubted = { ...ahead, outlook: { ...ahead.outlook, along: { ...ahead.outlook.along, unsure } } };
  expect(readAgainWords(run(2, { checks }), doubted, 'mm')).toBe(
    'Its last row moved 0.21 mm further along, 2.6 times what this media usually wanders: a small slip, or misread. Read it once more before section 3; both count.',
  );
  const twice = [...checks, { ...check(2, 'last row', 0.28), id: 'again' }];
  expect(readAgainWords(run(2, { checks: twice }), doubted, 'mm')).toBeNull();
  expect(readAgainWords(run(3, { checks }), doubted, 'mm')).toBeNull();
  expect(readAgainWords(run(2, { checks }), ahead, 'mm')).toBeNull();
});

test.each([
  [
    next(2),
    'The file moves the cut 0.12 mm further along and 0.05 mm left and makes it 0.30 mm per m shorter.',
  ],
  [
    next(2, {}, 1.0015),
    'The file moves the cut 0.12 mm further along and 0.05 mm left and makes it 1.20 mm per m longer.',
  ],
  [next(2, { map: IDENTITY }), 'The file leaves the cut where it is.'],
  [next(2, { map: { ...IDENTITY, tx: -0.2 } }), 'The file moves the cut 0.20 mm right.'],
])('what a file does, in words: the opposite of what the rig does', (ahead, words) => {
  expect(correctionWords(ahead, 'mm')).toBe(words);
});

test('the chart: corrected sections about zero, as drawn about what was expected, laminate included', () => {
  const checks = [check(1, 'first row', 0.3), check(1, 'last row', null), check(2, 'first row', 0.01)];
  const state = run(2, { checks }, [1]);
  const [first, second, third] = chartSections(state, [next(1), next(2), next(3)], 'along');
  expect(first).toMatchObject({ state: 'cut', expectedMm: 0.25, checks: [{ offsetMm: 0.3 }] });
  expect(first!.halfWidthMm).toBeCloseTo(0.196, 9);
  expect(second).toMatchObject({ state: 'cut', expectedMm: 0, checks: [{ offsetMm: 0.01 }] });
  expect(third).toMatchObject({ state: 'next', checks: [] });
  const lengthMm = PLAN.sections[0]!.endMm - PLAN.sections[0]!.startMm;
  const laminated = (axis: 'along' | 'across') => chartSections(state, [next(1, {}, 1.001)], axis)[0]!;
  expect(laminated('along').expectedMm).toBeCloseTo(0.25 - 0.001 * lengthMm, 9);
  expect(laminated('across').expectedMm).toBeCloseTo(-0.05, 9);
});

test('undoing takes the newest step back that is in force, then the one before', () => {
  const step = (
    id: string,
    kind: 'registered' | 'laminated' | 'standing',
    minute: number,
    undone = false,
  ) => ({
    ...{ id, kind, undone, section: 2, detail: {}, by: 'KT' },
    at: new Date(60_000 * minute),
  });
  const events = [step('a', 'laminated', 1), step('b', 'registered', 3), step('c', 'standing', 2)];
  expect(newestUndoable(run(1, { events }))?.id).toBe('b');
  const less = [events[0]!, step('b', 'registered', 3, true), events[2]!];
  expect(newestUndoable(run(1, { events: less }))?.id).toBe('c');
  expect(newestUndoable(run(1))).toBeUndefined();
});
