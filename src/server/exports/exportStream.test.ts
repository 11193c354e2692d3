import { gunzipSync } from 'node:zlib';

import { sql } from 'drizzle-orm';
import pg from 'pg';

import { whileClosed } from '@/db/closed';
import { TooBusy, failureOf } from '@/server/base/failure';
import { addRig } from '@/server/rigs/writeRig';
import { compiled } from '@test/compiled';
import { freshDeps } from '@test/database';
import { logCsv, logDocument } from '@test/log';
import { ROLL_DRAFT } from '@test/setups';

/* The whole log and the whole shop, made by a process of their own: two at a time, whole or broken off, never cut short. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let made: ReturnType<typeof compiled>;
let exportStream: typeof import('./exportStream').exportStream;
beforeAll(async () => {
  deps = await freshDeps('export_stream');
  const added = await addRig(deps, 'KT', ROLL_DRAFT);
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  // Some megabytes: more than lies about between a process and whoever takes it.
  await deps.db.execute(
    sql`insert into events (rig_id, kind, note, recorded_by, happened_at)
        select id, 'other', repeat('the bench was moved ', 20), 'KT', now() from rigs, generate_series(1, 12000)`,
  );
  made = compiled();
  process.env.RED_PLUMB_EXPORTS = made.fileOf('exports.mjs');
  process.env.RED_PLUMB_STALLED_SECONDS = '1';
  ({ exportStream } = await import('./exportStream'));
});
afterAll(async () => {
  delete process.env.RED_PLUMB_EXPORTS;
  made.remove();
  await deps.close();
});

const whole = async (body: ReadableStream<Uint8Array>): Promise<Buffer> =>
  Buffer.from(await new Response(body).arrayBuffer());
const running = (): number => made.children('exports.mjs').length;
async function until(so: () => boolean): Promise<void> {
  while (!so()) await new Promise((later) => setTimeout(later, 50));
}

test('what the process writes is the log and the shop as they are', async () => {
  const document = JSON.parse((await whole(await exportStream('json'))).toString()) as { events: unknown[] };
  expect(document).toEqual(await logDocument(deps));
  expect(document.events.length).toBeGreaterThanOrEqual(12_000);
  expect((await whole(await exportStream('csv'))).toString()).toBe(await logCsv(deps));
  const lines = gunzipSync(await whole(await exportStream('shop')))
    .toString()
    .trimEnd()
    .split('\n');
  expect(lines.at(-1)).toMatch(/^\{"end":true,"rows":\d+/);
  await until(() => running() === 0);
});

test('two at a time: a third is told when to come again, and comes in when one has gone', async () => {
  const [first, second] = [await exportStream('json'), await exportStream('json')];
  const third = exportStream('json');
  await expect(third).rejects.toThrow(TooBusy);
  const told = failureOf(await third.catch((error: unknown) => error), '1');
  expect(told).toMatchObject({ status: 503, afterS: 30 });
  expect(told.message).toMatch(/Come again in 30 seconds/);
  // Whoever goes ends what was made for them.
  await first.cancel();
  await until(() => running() <= 1);
  expect((await whole(await exportStream('json'))).length).toBeGreaterThan(4e6);
  // It may have been let go meanwhile.
  await second.cancel().catch(() => undefined);
});

test('whoever takes nothing makes way for the next', async () => {
  const slow = (await exportStream('json')).getReader();
  await slow.read();
  await until(() => running() === 0);
  const rest = async (): Promise<void> => {
    while (!(await slow.read()).done);
  };
  await expect(rest()).rejects.toThrow(/nobody takes/);
});

test('one that breaks off ends as a failure, not as a shorter log', async () => {
  const body = (await exportStream('json')).getReader();
  await body.read();
  for (const pid of made.children('exports.mjs')) process.kill(pid, 'SIGKILL');
  const rest = async (): Promise<void> => {
    while (!(await body.read()).done);
  };
  await expect(rest()).rejects.toThrow(/broke off/);
});

test('a restore waits for nobody who fetches the log: that is broken off', async () => {
  const body = (await exportStream('json')).getReader();
  await body.read();
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL });
  await client.connect();
  await whileClosed(client, async () => {
    await client.query("begin; set local lock_timeout = '700ms'");
    // What replaces a table takes it for itself alone.
    await client.query('lock table events in access exclusive mode');
    await client.query('rollback');
  });
  await client.end();
  const rest = async (): Promise<void> => {
    while (!(await body.read()).done);
  };
  await expect(rest()).rejects.toThrow(/went away/);
});

test('a database that does not answer is told before anything begins', async () => {
  const given = process.env.DATABASE_URL;
  process.env.DATABASE_URL = 'postgresql://nobody@127.0.0.1:9/nothing';
  const gone = await exportStream('csv').catch((error: unknown) => error);
  process.env.DATABASE_URL = given;
  expect(failureOf(gone, '1')).toMatchObject({ kind: 'away', status: 503 });
  expect((await whole(await exportStream('csv'))).length).toBeGreaterThan(0);
});
