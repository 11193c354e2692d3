import { otherPassReading } from '@/core/readings/registry';
import { otherRows } from '@/features/calibrate/read/otherWays.view';
import { openApiDocument } from '@/server/api/openApi';
import { readBy } from '@/server/api/scriptReadings';
import { documentOfLog } from '@/server/logbook/exportLog';
import { addRig } from '@/server/rigs/writeRig';
import { freshDeps } from '@test/database';
import { ROLL_DRAFT } from '@test/setups';

import { getSession } from './loadSession';
import { saveOther } from './otherReadings';
import { markPrinted } from './printSheet';
import { currentPass, isOther } from './session';
import { startSession } from './startSession';

/* A new way of reading is a file of its own and a line in the list: everything else takes it from there. */

jest.mock('@/core/readings/ways', () => ({
  WAYS: [
    ...jest.requireActual<{ WAYS: unknown[] }>('@/core/readings/ways').WAYS,
    jest.requireActual<{ thumbWay: unknown }>('@test/toyWay').thumbWay,
  ],
}));

let deps: Awaited<ReturnType<typeof freshDeps>>;
let sessionId: string;
const pass = async () => currentPass((await getSession(deps, sessionId))!);
beforeAll(async () => {
  deps = await freshDeps('new_way');
  const added = await addRig(deps, 'KT', ROLL_DRAFT);
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const { setupId } = added.value;
  const started = await startSession(deps, 'KT', { setupId, kind: 'calibration' });
  if (!started.ok) throw new Error(JSON.stringify(started.refusal));
  ({ sessionId } = started.value);
  await markPrinted(deps, 'KT', sessionId);
});
afterAll(() => deps.close());

test('it is kept, read back from the log, counted and shown like any other', async () => {
  const sent = { way: 'thumb', passId: (await pass()).id, x: 30, y: 40, thumbs: 0.1 };
  expect(await saveOther(deps, 'KT', sent)).toMatchObject({ ok: true, value: { kept: 1 } });
  expect(await saveOther(deps, 'KT', { ...sent, thumbs: 'many' })).toMatchObject({
    refusal: { code: 'invalid-input', fields: { thumbs: 'How many thumbs?' } },
  });
  const [read] = (await pass()).readings.filter(isOther);
  expect(read).toMatchObject({ stationId: 'D1', offsetMm: 2, pick: { school: 'thumb', thumbs: 0.1 } });
  expect(otherPassReading(read!)).toMatchObject({ interval: { loMm: -3, hiMm: 7, acuityMm: 1 } });
  expect(otherRows([read!], 'mm')).toMatchObject([{ id: 'D1', how: 'by the thumb', says: '2.00 mm right' }]);
  let log = '';
  for await (const piece of documentOfLog(deps)) log += piece;
  expect(log).toContain('"station":"D1","axis":"across"');
});

test('scripts ask by its name, and its description is in the document of all addresses', async () => {
  const ask = async (name: string, body: object) => {
    const url = `http://127.0.0.1/api/readings/${name}`;
    const answer = await readBy(name, new Request(url, { method: 'POST', body: JSON.stringify(body) }));
    return [answer.status, await answer.json()];
  };
  expect(await ask('thumb', { thumbs: 2 })).toEqual([200, { offsetMm: 40 }]);
  expect(await ask('thumb', {})).toMatchObject([400, { error: { message: '“thumbs” is a number.' } }]);
  expect(await ask('nose', {})).toMatchObject([404, { error: { code: 'no-such-way' } }]);
  expect(openApiDocument().paths).toHaveProperty('/api/readings/thumb.post.summary', 'A thumb');
});
