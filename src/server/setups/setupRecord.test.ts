import { sql } from 'drizzle-orm';

import { addRig } from '@/server/rigs/writeRig';
import { closeSession } from '@/server/sessions/closeSession';
import { finishReading } from '@/server/sessions/finishReading';
import { markPrinted } from '@/server/sessions/printSheet';
import { startSession } from '@/server/sessions/startSession';
import { freshDeps } from '@test/database';
import { readByTruth } from '@test/reading';

import { getSetup } from './repository';
import { setupRecord } from './setupRecord';

/* What a long log says of a setup: the newest of each kind, however many there are. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let setupId: string;
let at: typeof deps;
let day = 0;
beforeAll(async () => {
  deps = await freshDeps('setup_record');
  at = { ...deps, now: () => new Date(Date.UTC(2026, 0, 1 + day, 9)) };
  const added = await addRig(at, 'KT', {
    ...{ name: 'Rig', printer: 'printer', cutter: 'cutter', media: 'gloss film' },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 190, areaHeightMm: 270, toleranceMm: 0.4, settings: [] },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  ({ setupId } = added.value);
});
afterAll(() => deps.close());

async function read(kind: 'calibration' | 'quick-check', x: number): Promise<string> {
  day += 1;
  const started = await startSession(at, 'KT', { setupId, kind });
  if (!started.ok) throw new Error(JSON.stringify(started.refusal));
  const { sessionId } = started.value;
  await markPrinted(at, 'KT', sessionId);
  await readByTruth(at, sessionId, { x, y: 0 }, (await getSetup(at, setupId))!);
  expect(await finishReading(at, 'KT', sessionId)).toMatchObject({ ok: true });
  await closeSession(at, 'KT', sessionId);
  return sessionId;
}

/** The same session again and again, so many days earlier or later. */
async function again(id: string, times: number, days: 1 | -1): Promise<void> {
  const g = sql.raw(`cross join generate_series(1, ${times}) g`);
  const moved = (column: string) => sql.raw(`${column} + ${days} * g * interval '1 day'`);
  await at.db.execute(sql`
    insert into sessions (id, setup_id, kind, stage, started_by, started_at, closed_by, closed_at)
    select md5('s' || g || ${id})::uuid, setup_id, kind, 'closed', started_by, ${moved('started_at')}, closed_by, ${moved('closed_at')}
    from sessions ${g} where id = ${id}`);
  await at.db.execute(sql`
    insert into passes (id, session_id, position, sheet_id, station_set, purpose, settings_at_cut, load, created_at)
    select md5('p' || g || ${id})::uuid, md5('s' || g || ${id})::uuid, position, sheet_id, station_set, purpose, settings_at_cut, load, ${moved('created_at')}
    from passes ${g} where session_id = ${id} and position = 1`);
  await at.db.execute(sql`
    insert into fits (id, pass_id, version, recommended, widest, inputs, result, created_at)
    select md5('f' || g || ${id})::uuid, md5('p' || g || ${id})::uuid, f.version, f.recommended, f.widest, f.inputs, f.result, ${moved('f.created_at')}
    from fits f join passes p on p.id = f.pass_id ${g} where p.session_id = ${id} and p.position = 1`);
}

test('of a long log the newest forty calibrations tell; sixty checks do not crowd them out', async () => {
  day = 100;
  const old = await read('calibration', 0.2);
  await again(old, 60, -1);
  day = 110;
  await read('calibration', 0.7);
  const check = await read('quick-check', 0.7);
  await again(check, 60, 1);
  day = 300;
  const record = await setupRecord(at, (await getSetup(at, setupId))!, at.now());
  const begun = Date.UTC(2026, 0, 1) / 86_400_000;
  const days = record.told
    .filter((load) => !load.spot)
    .map((load) => Math.round(load.atDays - begun - 9 / 24));
  expect(days).toHaveLength(40);
  // The newest is among them, the oldest are not.
  expect(Math.max(...days)).toBe(111);
  expect(Math.min(...days)).toBe(101 - 38);
});
