// npm run kills [count] [seed] [--quick]: thirty clients keep readings over HTTP while server, database or both are killed
// again and again; nothing that was acknowledged may be lost, nothing be there twice. In a database of its own, on a cluster for tests.
import { execFileSync } from 'node:child_process';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

import { ensureBuild } from './lib/build.mjs';
import { freePort, startCluster } from './lib/cluster.mjs';
import { checkNode, ensureDebian, ensureModules } from './lib/packages.mjs';
import { pause } from './lib/processes.mjs';
import { keepReadingAction, readingOf, sendReading } from './lib/readingClient.mjs';
import { run, tool } from './lib/run.mjs';
import { serve } from './lib/server.mjs';

const VICTIMS = ['server', 'database', 'both'];
/** Each keeps readings of combs of its own, one after the other. */
const CLIENTS = 30;
/** From when readings are acknowledged again to the next kill, at most, ms. */
const MOST_BETWEEN_MS = 600;
const GIVE_UP_AFTER_MS = 120_000;

process.chdir(dirname(dirname(fileURLToPath(import.meta.url))));
const quick = process.argv.includes('--quick');
const [count = 100, seed = 1] = process.argv
  .slice(2)
  .filter((word) => !word.startsWith('--'))
  .map(Number);
checkNode();
await ensureDebian(['postgresql']);
await ensureModules();
const { default: pg } = await import('pg');
const dist = process.env.RED_PLUMB_DIST ?? '.next';
// The quick one shares the test run’s cluster, which a power cut may harm, a kill not.
const cluster = quick
  ? await startCluster('postgres-test', 'red_plumb_kills', { durable: false })
  : await startCluster('postgres-kills', 'red_plumb_kills');
const port = await freePort(3400);
const base = `http://127.0.0.1:${port}`;
const env = {
  ...process.env,
  DATABASE_URL: cluster.url,
  PORT: String(port),
  RED_PLUMB_DIST: dist,
  RED_PLUMB_LOG: resolve('.local', 'kills.log'),
  NODE_ENV: 'production',
};
let server = null;
let wanted = true;

/** A generator of its own, so that a run can be had again by its seed (mulberry32, public domain). */
function dice(state) {
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

function launch() {
  server = serve(env, dist, { stdio: 'ignore' });
  server.on('exit', () => wanted && launch());
}

/** Keeps a reading as the page does: the same number goes out until an answer has come. Gives how often it went out. */
async function kept(action, reading, begun = Date.now()) {
  for (let times = 1; ; times += 1) {
    try {
      const { status, text, kept: done } = await sendReading(base, action, reading);
      if (done) return times;
      if (!/"said":"(?:away|failed)"/.test(text)) throw new Refused(`${status} ${text.slice(0, 300)}`);
    } catch (error) {
      if (error instanceof Refused) throw error;
    }
    if (Date.now() - begun > GIVE_UP_AFTER_MS) throw new Refused('no acknowledgement within two minutes');
    await pause(100);
  }
}
class Refused extends Error {}

async function kill(victim) {
  if (victim !== 'database') server.kill('SIGKILL');
  if (victim === 'server') return;
  const pid = cluster.pid();
  if (pid !== null) process.kill(pid, 'SIGKILL');
  while (cluster.lives()) await pause(50);
  await cluster.keepAlive();
}

/** What was picked of each comb, in order. */
function byComb(readings) {
  const found = new Map();
  for (const { comb, pick } of readings)
    found.set(comb, [...(found.get(comb) ?? []), `${pick.line}${pick.between ? '+' : ''}`]);
  return found;
}

/** What is wrong with the log, compared with what was sent and acknowledged. */
async function faults(sent) {
  const client = new pg.Client({ connectionString: cluster.url });
  await client.connect();
  try {
    const { rows } = await client.query(
      'select pass_id, station_id, axis, pick, replaced_at from readings order by entered_at',
    );
    const found = [];
    if (rows.length !== sent.length)
      found.push(`${sent.length} were acknowledged, ${rows.length} are in the log`);
    // Of one comb in the order in which one client kept them; clients among themselves come as they come.
    const told = byComb(rows.map((r) => ({ comb: `${r.pass_id} ${r.station_id} ${r.axis}`, pick: r.pick })));
    const said = byComb(
      sent.map(({ input: i }) => ({ comb: `${i.passId} ${i.stationId} ${i.axis}`, pick: i.pick })),
    );
    for (const [comb, picks] of said)
      if (told.get(comb)?.join(', ') !== picks.join(', '))
        found.push(`of ${comb} “${picks}” was acknowledged, the log has “${told.get(comb)}”`);
    const acts = await client.query("select request from acts where act = 'reading'");
    const known = new Set(acts.rows.map((r) => r.request));
    const missing = sent.filter((s) => !known.has(s.request)).length;
    if (missing > 0 || known.size !== sent.length)
      found.push(
        `${missing} acknowledged numbers are missing, ${known.size} acts for ${sent.length} readings`,
      );
    const current = rows.filter((r) => r.replaced_at === null).length;
    const combs = new Set(sent.map(({ input: i }) => `${i.passId} ${i.stationId} ${i.axis}`)).size;
    if (current !== combs) found.push(`${combs} combs were read, ${current} readings count`);
    return found;
  } finally {
    await client.end();
  }
}

try {
  const [node, tsx] = tool('tsx/dist/cli.mjs');
  await run(node, [tsx, 'scripts/prepareDatabase.ts', '--reset', '--no-demo'], { env });
  const combs = JSON.parse(execFileSync(node, [tsx, 'bench/killsSetup.ts'], { env, encoding: 'utf8' }));
  await ensureBuild(dist);
  const action = keepReadingAction(dist);
  launch();
  const random = dice(seed);
  const whole = (most) => Math.floor(random() * most);
  const sent = [];
  let again = 0;
  let done = 0;
  const client = async (own) => {
    while (done < count) {
      const reading = readingOf(own[whole(own.length)], whole(11) - 5, random() < 0.5);
      const times = await kept(action, reading);
      sent.push(reading);
      if (times > 1) again += 1;
    }
  };
  const clients = Array.from({ length: CLIENTS }, (_, n) =>
    client(combs.filter((_, i) => i % CLIENTS === n)),
  );
  const working = Promise.all(clients);
  for (; done < count; done += 1) {
    // Somebody was acknowledged since the last one; then in the middle of whatever goes on.
    const before = sent.length;
    while (sent.length === before) await Promise.race([pause(20), working]);
    await pause(whole(MOST_BETWEEN_MS));
    await kill(VICTIMS[done % VICTIMS.length]);
    if ((done + 1) % 20 === 0) console.log(`${done + 1} kills, ${sent.length} readings`);
  }
  await working;
  const found = await faults(sent);
  console.log(
    `${CLIENTS} clients, ${count} kills of server, database and both: ${sent.length} readings acknowledged, ${again} of them after they had gone out more than once; ${found.length === 0 ? 'none lost, none twice' : found.join('; ')}`,
  );
  process.exitCode = found.length === 0 && sent.length >= count ? 0 : 1;
} finally {
  wanted = false;
  server?.kill('SIGKILL');
  await cluster.stop();
}
