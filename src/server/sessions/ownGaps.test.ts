import { addRig } from '@/server/rigs/writeRig';
import { freshDeps } from '@test/database';

import { getSession } from './loadSession';
import { saveOther } from './otherReadings';
import { changeSessionSheet, markPrinted } from './printSheet';
import { currentPass } from './session';
import { assess } from './assess';
import { sheetOptionsSchema } from './shapes';
import { startSession } from './startSession';

/* A whole sheet read by the gaps round its own shapes: what its borders should be the sheet knows. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let sessionId: string;
beforeAll(async () => {
  deps = await freshDeps('own_gaps');
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Rig', printer: 'printer', cutter: 'cutter', media: 'film', settings: [], toleranceMm: 0.6 },
    ...{ sheetWidthMm: 400, sheetHeightMm: 600, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 380, areaHeightMm: 570 },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const started = await startSession(deps, 'KT', { setupId: added.value.setupId, kind: 'calibration' });
  if (!started.ok) throw new Error(JSON.stringify(started.refusal));
  ({ sessionId } = started.value);
  const layout = { columns: 3, rows: 3, secondSet: false, unit: 'mm', step: 0.1, readBy: 'gaps' };
  await changeSessionSheet(deps, 'KT', { sessionId, options: sheetOptionsSchema.parse(layout) });
  await markPrinted(deps, 'KT', sessionId);
});
afterAll(() => deps.close());

const pass = async () => currentPass((await getSession(deps, sessionId))!);
const HALF = 0.5;
const rounded = (mm: number): number => HALF * Math.round(mm / HALF);
async function measure(stationId: string, dx: number, dy: number, more: object = {}) {
  const { id, stations } = await pass();
  const b = stations.find((s) => s.id === stationId)?.gapShape?.borders;
  const gaps = b && {
    ...{ left: rounded(b.left - dx), right: rounded(b.right + dx) },
    ...{ near: rounded(b.near - dy), far: rounded(b.far + dy) },
  };
  const none = { left: 3, right: 3, near: null, far: null };
  return saveOther(deps, 'KT', {
    way: 'gaps',
    passId: id,
    stationId,
    gaps: gaps ?? none,
    resolutionMm: HALF,
    ...more,
  });
}

test('nine shapes by a rule of half millimetres tell a shift to about a tenth; measured again one counts once', async () => {
  for (const { id } of (await pass()).stations) expect((await measure(id, 0.4, -0.3)).ok).toBe(true);
  expect((await measure('A1', 0.4, -0.3)).ok).toBe(true);
  const session = (await getSession(deps, sessionId))!;
  const { readings } = currentPass(session);
  expect(readings).toHaveLength(18);
  expect(new Set(readings.map((r) => r.stationId)).size).toBe(9);
  const a = assess(session, currentPass(session))!;
  expect(Math.abs(a.fit.terms.shiftXMm - 0.4)).toBeLessThan(0.1);
  expect(Math.abs(a.fit.terms.shiftYMm + 0.3)).toBeLessThan(0.1);
  expect(a.fit.noise.factor).toBeLessThan(2);
});

test.each([
  ['a station without a shape', 'Z9', {}, 'not-found'],
  ['no gap at all', 'A2', { gaps: { left: null, right: null, near: null, far: null } }, 'invalid-input'],
  ['a gap beyond any cut', 'A2', { gaps: { left: 80, right: 1, near: null, far: null } }, 'invalid-input'],
  ['no rule', 'A2', { resolutionMm: 0 }, 'invalid-input'],
])('%s is refused', async (_, station, more, code) => {
  expect(await measure(station, 0, 0, more)).toMatchObject({ ok: false, refusal: { code } });
});
