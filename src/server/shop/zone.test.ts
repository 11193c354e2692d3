import { dateIn } from '@/clock/dates';
import { addRig } from '@/server/rigs/writeRig';
import { getSheetByNumber } from '@/server/sessions/sheets';
import { startSession } from '@/server/sessions/startSession';
import { freshDeps } from '@test/database';

import { setZone, shopZone } from './zone';

let deps: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => (deps = await freshDeps('zone')));
afterAll(() => deps.close());

test.each([
  // Summer time of the European Union ends on the last Sunday of October at 01:00 UTC: Directive 2000/84/EC.
  ['2026-10-25T00:59:00Z', 'Europe/Paris', '25 Oct 2026, 02:59'],
  ['2026-10-25T01:01:00Z', 'Europe/Paris', '25 Oct 2026, 02:01'],
  // Zones of the IANA time zone database.
  ['2026-12-31T11:30:00Z', 'Pacific/Kiritimati', '1 Jan 2027, 01:30'],
  ['2026-03-01T00:10:00Z', 'America/St_Johns', '28 Feb 2026, 20:40'],
  ['2026-03-01T00:10:00Z', 'UTC', '1 Mar 2026, 00:10'],
])('%s in %s is %s', (at, zone, words) => {
  expect(dateIn(new Date(at), 'd MMM yyyy, HH:mm', zone)).toBe(words);
});

test('a zone is chosen and given back; what is no zone is refused and changes nothing', async () => {
  expect((await shopZone(deps)).said).toBe(false);
  expect(await setZone(deps, 'KT', { zone: 'Pacific/Auckland' })).toMatchObject({ ok: true });
  expect(await shopZone(deps)).toEqual({ zone: 'Pacific/Auckland', said: true });
  for (const zone of ['Pacific/Nowhere', '', '../etc', 12, undefined])
    expect(await setZone(deps, 'KT', { zone })).toMatchObject({ refusal: { code: 'invalid-input' } });
  expect((await shopZone(deps)).zone).toBe('Pacific/Auckland');
  await setZone(deps, 'KT', { zone: null });
  expect((await shopZone(deps)).said).toBe(false);
});

test('a sheet keeps the date that was printed on it, whatever the shop says later', async () => {
  const late = { ...deps, now: () => new Date('2026-06-30T20:00:00Z') };
  const added = await addRig(late, 'KT', {
    ...{ name: 'Rig', printer: 'printer', cutter: 'cutter', media: 'gloss film' },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 190, areaHeightMm: 270, toleranceMm: 0.4, settings: [] },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  await setZone(late, 'KT', { zone: 'Pacific/Auckland' });
  const started = await startSession(late, 'KT', { setupId: added.value.setupId, kind: 'quick-check' });
  if (!started.ok) throw new Error(JSON.stringify(started.refusal));
  const madeOn = async () => (await getSheetByNumber(deps, 1))?.madeOn;
  expect(await madeOn()).toBe('1 July 2026');
  await setZone(late, 'KT', { zone: 'America/St_Johns' });
  expect(await madeOn()).toBe('1 July 2026');
});
