import { addRig } from '@/server/rigs/writeRig';
import { freshDeps } from '@test/database';

import { closeSession, discardSession } from './closeSession';
import { getSession } from './loadSession';
import { changeSessionSheet, markPrinted } from './printSheet';
import { currentPass } from './session';
import { sheetOptionsSchema } from './shapes';
import { startSession } from './startSession';

/* How a sheet is read is chosen at Print, and remembered by its setup. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let setupId: string;
beforeAll(async () => {
  deps = await freshDeps('read_by');
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Rig', printer: 'printer', cutter: 'cutter', media: 'film', settings: [], toleranceMm: 0.4 },
    ...{ sheetWidthMm: 400, sheetHeightMm: 600, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 380, areaHeightMm: 570 },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  ({ setupId } = added.value);
});
afterAll(() => deps.close());

const LAYOUT = { columns: 2, rows: 2, secondSet: false, unit: 'mm', step: 0.1 } as const;
async function started() {
  const answer = await startSession(deps, 'KT', { setupId, kind: 'calibration' });
  if (!answer.ok) throw new Error(JSON.stringify(answer.refusal));
  const { sessionId } = answer.value;
  const { spec } = currentPass((await getSession(deps, sessionId))!).sheet.geometry;
  return { sessionId, readBy: spec.readBy ?? 'comb', rings: spec.rings?.stepMm ?? null };
}
const layOut = (sessionId: string, more: object) =>
  changeSessionSheet(deps, 'KT', { sessionId, options: sheetOptionsSchema.parse({ ...LAYOUT, ...more }) });

test.each([
  [{ readBy: 'gaps' }, { readBy: 'gaps', rings: null }],
  [
    { readBy: 'rings', ringStep: 0.2 },
    { readBy: 'rings', rings: 0.2 },
  ],
  [
    { readBy: 'table', ringStep: 0.2 },
    { readBy: 'table', rings: 0.2 },
  ],
  [{}, { readBy: 'comb', rings: null }],
])('printed with %j the next sheet begins with %j', async (chosen, next) => {
  const { sessionId } = await started();
  expect((await layOut(sessionId, chosen)).ok).toBe(true);
  await markPrinted(deps, 'KT', sessionId);
  expect((await closeSession(deps, 'KT', sessionId)).ok).toBe(true);
  const then = await started();
  expect(then).toMatchObject(next);
  expect((await discardSession(deps, 'KT', then.sessionId)).ok).toBe(true);
});

test('what was laid out and never printed is not remembered', async () => {
  const { sessionId, readBy } = await started();
  expect(readBy).toBe('comb');
  expect((await layOut(sessionId, { readBy: 'lengths' })).ok).toBe(true);
  expect((await discardSession(deps, 'KT', sessionId)).ok).toBe(true);
  expect((await started()).readBy).toBe('comb');
});

test.each([
  [{ readBy: 'rings' }, 'ringStep'],
  [{ readBy: 'tea leaves' }, 'readBy'],
])('%j is refused at its field', (chosen, field) => {
  const parsed = sheetOptionsSchema.safeParse({ ...LAYOUT, ...chosen });
  expect(parsed.error?.issues.map((i) => i.path.join('.'))).toEqual([field]);
});
