import { planRoll, type StrategyName } from '@/core/layout';
import { jobOf, planRequestSchema } from '@/core/layout/planShape';
import { filmNode } from '@test/rolls';

import { planFigures } from './PlanFigures';
import {
  betterIfPossible,
  duration,
  expectedItems,
  inWords,
  leftoverWords,
  overAtFirstWords,
  planAnswer,
  planReason,
  planFit,
  spoiledWords,
  yieldWords,
} from '@/ui/words/planWords';

const QUIET = { wanderMm2PerM: 0.002, creepVarMm2PerM2: 0.001, creepVar: 0.0004 };
const KNOWN = { along: [filmNode(QUIET)], across: [filmNode({ ...QUIET, creepMmPerM: 0 })] };
const EXPECTED = { untilCheckedMm: 0.41, thenMm: 0.07 };
const NO_FAR_MARKS = { registers: true, bothEnds: false, longestMm: null, everyMm: null };

/** The worked example of the trade: 46 copies, 183.4 mm tall, 3.5 mm between, four across. */
function example(more: object = {}, name: StrategyName = 'sections', onRecord = 96, setup = NO_FAR_MARKS) {
  const request = planRequestSchema.parse({
    item: { widthMm: 300, heightMm: 183.4 },
    copies: 46,
    gapMm: 3.5,
    printableWidthMm: 1315,
    rowsPerSection: 5,
    ...more,
  });
  const planned = planRoll(jobOf(request), KNOWN, onRecord, setup);
  if (!planned.ok) throw new Error(planned.refusal.code);
  return {
    plan: planned.value,
    chosen: planned.value.strategies.find((s) => s.name === name)!,
  };
}

test('the sentence: how many, in what, how far off; over at first it says so, and what to do', () => {
  const { plan, chosen } = example();
  expect(inWords(chosen)).toBe('3 sections of 5 rows');
  expect(planAnswer(plan, chosen, EXPECTED, 0.5, ' hull numbers ', 'mm')).toMatch(
    /^Cut 46 hull numbers in 3 sections of 5 rows\. Expect at most 0\.41 mm until section 1 is checked, then 0\.07 mm\.$/,
  );
  expect(planAnswer(plan, chosen, EXPECTED, 0.4, 'signs', 'mm')).toBe(
    'Cut 46 signs in 3 sections of 5 rows. Expect at most 0.41 mm until section 1 is checked, then 0.07 mm. 0.40 mm is allowed: check its last rows before they are used.',
  );
  expect(overAtFirstWords(EXPECTED, 0.4, 'mm')).toContain('keeps all within 0.40 mm');
  expect(overAtFirstWords(EXPECTED, 0.41, 'mm')).toBeNull();
  const one = example({}, 'one-piece');
  const alone = { untilCheckedMm: 0.254, thenMm: null };
  expect(planAnswer(one.plan, { ...one.chosen, keepsPromise: true }, alone, 0.5, '', 'in')).toBe(
    'Cut 46 copies in one piece of 12 rows. Expect at most 0.010 in.',
  );
});

test('a plan that spoils a good part says so first of all', () => {
  const { plan, chosen } = example({ toleranceMm: 0.05 });
  expect(planAnswer(plan, chosen, EXPECTED, 0.05, 'hull numbers', 'mm')).toMatch(
    /^In 3 sections of 5 rows, \d\d\.\d of 46 would be spoiled\.$/,
  );
  expect(spoiledWords({ ...chosen, spoiled: 0.31, spoiledShare: 0.007 }, 46)).toBe('0.3 of 46');
});

test.each([
  [{ toleranceMm: 1 }, 96, 'keeps', /< 0\.1 of 46 expected spoiled/],
  [{}, 96, 'over-at-first', /expected spoiled, 0\.5 allowed\.$/],
  [{}, 24, 'over-at-first', /With 24 sections on record it plans for 0\.3, to be on the safe side\.$/],
  [{ toleranceMm: 0.1 }, 96, 'breaks', /more than the 0\.5 you allow\. Make the sections shorter/],
  [{ rollLeftMm: 1000 }, 96, 'over-at-first', /longer than what is left on the roll/],
])('the reason and the fit of %j with %s sections on record', (job, onRecord, state, reason) => {
  const { plan, chosen } = example(job, 'sections', onRecord);
  expect(planReason(plan, chosen, 0.01, onRecord)).toMatch(reason);
  expect(
    planFit(
      chosen,
      { untilCheckedMm: 0.6, thenMm: (job as { toleranceMm?: number }).toleranceMm === 1 ? 0.2 : 0.45 },
      planRequestSchema.shape.toleranceMm.parse((job as { toleranceMm?: number }).toleranceMm),
    ),
  ).toBe(state);
});

test('what would do better if the rig could, and what would fill the last row', () => {
  const { plan, chosen } = example({ markRoomMm: 30, betweenMm: 20 });
  expect(betterIfPossible(plan, chosen, 'mm')).toMatch(/^.* would take \d+ mm less media\. But this rig/);
  expect(leftoverWords(plan)).toBe('2 more copies would fill the last row.');
  expect(leftoverWords(example({ copies: 47 }).plan)).toBe('One more copy would fill the last row.');
  expect(leftoverWords(example({ copies: 48 }).plan)).toBeNull();
});

test('the figures of the worked example (common practice, no source)', () => {
  const { plan, chosen } = example({ leadMm: 300, tailMm: 250 });
  expect(Object.fromEntries(planFigures(plan, chosen, EXPECTED, 'mm'))).toMatchObject({
    layout: '4 across × 12 rows',
    sections: '3 of 5 rows',
    'a section’s rows take': '931.00 mm',
    'last section': '6 copies, 2 rows',
    'printed length': '2.24 m',
    'media used': '2.79 m',
    // 46 · 300 · 183.4 of 2789.3 · 1315 mm² is item.
    waste: '31 %',
    'section 1 until it is checked, 95 of 100': '0.41 mm',
    'then, 95 of 100': '0.07 mm',
  });
});

test.each([
  [
    { copies: 20, promised: 19, sections: 1 },
    'mm',
    'The 1.50 m left on the roll hold 20 copies this way, in one piece: promise 19 of them.',
  ],
  [
    { copies: 40, promised: 39, sections: 3 },
    'in',
    'The 4.9 ft left on the roll hold 40 copies this way, in 3 sections: promise 39 of them.',
  ],
  [
    { copies: 0, promised: 0, sections: 0 },
    'mm',
    'The 1.50 m left on the roll hold no copy this way that keeps what you allow.',
  ],
] as const)('backwards: %j in %s', (y, unit, words) => {
  expect(yieldWords(y, 1500, unit)).toBe(words);
});

test.each([
  [20, '1 min'],
  [149, '2 min'],
  [3599, '1 h 00 min'],
  [5100, '1 h 25 min'],
  [90_061, '25 h 01 min'],
])('%s s is said as %s', (seconds, words) => {
  expect(duration(seconds)).toBe(words);
});

test.each([
  [0, '< 0.1'],
  [0.049, '< 0.1'],
  [0.05, '0.1'],
  [12.34, '12.3'],
])('%s expected items are said as %s', (n, words) => {
  expect(expectedItems(n)).toBe(words);
});
