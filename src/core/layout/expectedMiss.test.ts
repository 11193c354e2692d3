import { compressNodes, sectionOutlook } from '@/core/drift';
import { seededRandom } from '@/core/random/random';
import { filmNode, followed } from '@test/rolls';

import { expectedMiss, impose, rowMiddleMm, sectionsOf, type FollowedKnowledge } from '.';

const ITEMS = {
  ...{ itemWidthMm: 185, itemHeightMm: 110, copies: 96, gapMm: 4, printableWidthMm: 1310 },
  ...{ mayTurn: false, lanes: 1, laneGapMm: 0, centreLastRow: false },
};
const ROOM = { markRoomMm: 20, betweenMm: 10 };
const imposed = impose(ITEMS);
if (!imposed.ok) throw new Error(imposed.refusal.code);
const imposition = imposed.value;
const plan = (rows: number, strategy = 'sections', way: 'start' | 'both-ends' = 'start') => ({
  ...{ strategy, way, imposition, markRoomMm: ROOM.markRoomMm },
  sections: sectionsOf(imposition, rows, ROOM),
});
const KNOWN = followed({ along: [filmNode()], across: [filmNode({ creepMmPerM: 0 })] });

/** The outlook that follows a run, on a section after some checks. */
function follows(
  known: FollowedKnowledge,
  section: number,
  readings: readonly (readonly [number, number])[],
) {
  const { sections } = plan(4);
  const own = sections[section - 1]!;
  const axis = (name: 'along' | 'across', pick: 0 | 1) => ({
    ...known[name],
    nodes: compressNodes(known[name].nodes),
    run: {
      id: 'r',
      registeredAtM: sections.slice(0, section - 1 || 1).map((s) => s.startMm / 1000),
      readings: readings.map((r, i) => ({
        id: String(i),
        yM: rowMiddleMm(sections[0]!, i === 0 ? 0 : 3, plan(4)) / 1000,
        offsetMm: r[pick],
        uMm: 0.035,
      })),
    },
  });
  const ahead = {
    startM: own.startMm / 1000,
    endM: own.endMm / 1000,
    registers: 'start',
    slips: false,
  } as const;
  return sectionOutlook(axis('along', 0), axis('across', 1), ahead, seededRandom(2)).r95Mm;
}

test('what the plan says of section 1 is what the run says before its first check', () => {
  expect(expectedMiss(plan(4), KNOWN).untilCheckedMm).toBe(follows(KNOWN, 1, []));
});

test('what the plan says of later sections is what the run says after checks, whatever they read', () => {
  const { thenMm } = expectedMiss(plan(4), KNOWN);
  const readings = [
    [0, 0],
    [0.3, -0.2],
    [-0.1, 0.25],
  ] as const;
  for (const [along, across] of readings)
    expect(
      follows(KNOWN, 2, [
        [along, across],
        [along + 0.1, across],
      ]),
    ).toBeCloseTo(thenMm!, 2);
});

test('the less the start of a run is known, the more until it is checked, and hardly more after', () => {
  const little = expectedMiss(plan(4), followed({ along: [filmNode()], across: [filmNode()] }, 0.05));
  const much = expectedMiss(plan(4), followed({ along: [filmNode()], across: [filmNode()] }, 0.5));
  expect(much.untilCheckedMm).toBeGreaterThan(4 * little.untilCheckedMm);
  expect(much.thenMm!).toBeLessThan(1.25 * little.thenMm!);
});

test('one piece has no then; marks at both ends tell less of the drift', () => {
  expect(expectedMiss(plan(imposition.rows, 'one-piece'), KNOWN).thenMm).toBeNull();
  const ends = expectedMiss(plan(4, 'sections-both-ends', 'both-ends'), KNOWN);
  expect(ends.thenMm!).toBeLessThan(expectedMiss(plan(4), KNOWN).thenMm!);
});
