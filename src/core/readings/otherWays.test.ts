import { buildProofSheet, ringChoice } from '../proof';
import { normalDeviate, seededRandom } from '../random/random';
import { scatterOfLoads, shiftScatter } from '../correction';

import { assessPass, atTheEnd } from '../calibration';
import { ringReading } from './rings';
import { otherPassReading } from './registry';
import { EVEN_WITHIN_MM, evenReadings } from './even';

const AREA = { x0: 10, y0: 15, x1: 310, y1: 435 };
const built = buildProofSheet({
  ...{ sheetWidthMm: 320, sheetHeightMm: 450, workArea: AREA, marks: null, columns: 3, rows: 3 },
  ...{ secondSet: false, unit: 'mm', stepMm: 0.1, rings: ringChoice(0.1, 'mm'), seed: 3 },
});
if (!built.ok) throw new Error(built.refusal.code);
const { stations } = built.value;

test('even all round at a glance: the whole sheet within what an eye sees, and no surer for having many discs', () => {
  const read = evenReadings(stations);
  expect(read).toHaveLength(18);
  const load = scatterOfLoads([], shiftScatter(0));
  const a = assessPass(read.map(otherPassReading), [], AREA, 0.5, { load })!;
  expect(a.scope).toBe('whole-area');
  expect(a.plan.decision).toBe('leave');
  // As sure of the middle as one look is.
  expect(a.told.termSe.shiftXMm).toBeCloseTo(EVEN_WITHIN_MM / Math.sqrt(3), 2);
  const one = assessPass(evenReadings(stations.slice(4, 5)).map(otherPassReading), [], AREA, 0.5, { load })!;
  expect(one.scope).toBe('one-place');
  expect(one.r95Mm).toBeLessThan(2 * EVEN_WITHIN_MM);
});

test('what is said of a rig that looked even holds: 95 of 100 of such rigs stay within its radius', () => {
  const random = seededRandom(4);
  const load = scatterOfLoads([], shiftScatter(0));
  const { r95Mm } = assessPass(evenReadings(stations).map(otherPassReading), [], AREA, 0.5, { load })!;
  let [all, within] = [0, 0];
  while (all < 1000) {
    // Rigs a little off in every term, of which only those that look even at every disc are asked.
    const [x, y] = [0.15 * normalDeviate(random), 0.15 * normalDeviate(random)];
    const [turn, sx, sy] = [0, 0, 0].map(() => 4e-4 * normalDeviate(random)) as [number, number, number];
    const at = (px: number, py: number) => {
      const [u, v] = [px - 160, py - 225];
      return Math.hypot(x + sx * u - turn * v, y + turn * u + sy * v);
    };
    if (stations.some((s) => at(s.centre.x, s.centre.y) > EVEN_WITHIN_MM)) continue;
    all += 1;
    const worst = Math.max(
      at(AREA.x0, AREA.y0),
      at(AREA.x1, AREA.y0),
      at(AREA.x0, AREA.y1),
      at(AREA.x1, AREA.y1),
    );
    if (worst <= r95Mm) within += 1;
  }
  expect(within / all).toBeGreaterThan(0.95);
});

test.each([
  ['a cross at its end', [{ coarseMm: 6, pick: { line: 0 } }], ['cross']],
  ['a cross within', [{ coarseMm: 5.5, pick: { line: 9 } }], []],
  ['no cross', [{ coarseMm: null, pick: { line: 10 } }], []],
] as const)('%s', (_, list, ways) => {
  const readings = list.map((r) => ({ stationId: 'A1', axis: 'across' as const, ...r }));
  expect(atTheEnd(stations, readings).map((e) => e.way)).toEqual(ways);
});

test.each([
  [4, true],
  [-4, true],
  [3.5, false],
  [0, false],
])('the even ring %d of nine is at the end: %s', (ring, end) => {
  const row = stations[0]!.rings!.find((r) => r.axis === 'along')!;
  const read = ringReading('R-A1', row, ring).read.map((r) => ({ ...r, coarseMm: null }));
  expect(atTheEnd(stations, read).length > 0).toBe(end);
});
