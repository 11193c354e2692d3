// npm run disk: the shop on a disk of 200 MB that is filled up under it. Nothing that was acknowledged may be lost, every
// answer says what is so, and half a minute after room was made everything goes on by itself. Needs root: the disk is a tmpfs
// that only this script and what it starts can see.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { closeSync, mkdirSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

import { ensureBuild } from './lib/build.mjs';
import { freePort } from './lib/cluster.mjs';
import { checkNode, ensureDebian, ensureModules } from './lib/packages.mjs';
import { pause } from './lib/processes.mjs';
import { keepReadingAction, readingOf, sendReading } from './lib/readingClient.mjs';
import { isRoot, tool } from './lib/run.mjs';
import { giveUp, say } from './lib/say.mjs';

const SIZE = '200m';
const BACK_WITHIN_MS = 30_000;

process.chdir(dirname(dirname(fileURLToPath(import.meta.url))));
if (!isRoot) giveUp('This mounts a small disk of its own: run it as root.');
if (!process.argv.includes('--inside')) {
  checkNode();
  await ensureDebian(['postgresql']);
  await ensureModules();
  await ensureBuild('.next');
  mkdirSync('.local', { recursive: true });
  const inside = spawnSync('unshare', ['-m', process.execPath, 'scripts/fullDisk.mjs', '--inside'], {
    stdio: 'inherit',
  });
  process.exit(inside.status ?? 1);
}

execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${SIZE},mode=755`, 'tmpfs', '.local']);
const port = await freePort(3500);
const base = `http://127.0.0.1:${port}`;
const env = { ...process.env, PORT: String(port) };
delete env.DATABASE_URL;
const said = openSync(join('.local', 'said.log'), 'w');
// What it says goes into a file on the same disk.
const starter = spawn(process.execPath, ['scripts/start.mjs', '--no-demo'], {
  env,
  stdio: ['ignore', said, said],
});
const faults = [];
const found = (so, words) => {
  console.log(`${so ? '  ' : '! '}${words}`);
  if (!so) faults.push(words);
};
const get = (path) =>
  fetch(base + path, { signal: AbortSignal.timeout(10_000) })
    .then(async (r) => ({ status: r.status, text: await r.text() }))
    .catch((error) => ({ status: 0, text: String(error.cause ?? error) }));
async function until(so, most, what) {
  const begun = Date.now();
  while (!(await so())) {
    if (Date.now() - begun > most)
      return giveUp(
        `${what}: not within ${most / 1000} s.\n${readFileSync(join('.local', 'said.log'), 'utf8')}`,
      );
    await pause(250);
  }
  return Date.now() - begun;
}

const FILLER = join('.local', 'filler');
/** Writes until nothing more goes. */
function fill() {
  const file = openSync(FILLER, 'a');
  for (let size = 1024 * 1024; size >= 512; size /= 2)
    try {
      for (;;) writeSync(file, Buffer.alloc(size));
    } catch (error) {
      if (error.code !== 'ENOSPC') throw error;
    }
  closeSync(file);
}
const databaseUrl = () => {
  const folder = resolve('.local', 'postgres');
  const at = readFileSync(join(folder, 'data', 'postmaster.pid'), 'utf8').split('\n')[3];
  return `postgresql://red_plumb:${readFileSync(join(folder, 'password'), 'utf8')}@127.0.0.1:${at}/red_plumb`;
};

const kept = [];
let combs, action;
/** Keeps readings one after the other for a while; counts what was acknowledged, and every answer that says what it should not. */
async function keepFor(ms, most = Infinity) {
  const answers = { kept: 0, full: 0, away: 0, other: [] };
  for (const end = Date.now() + ms; Date.now() < end && answers.kept < most;) {
    const reading = readingOf(combs[kept.length % combs.length], (kept.length % 11) - 5, false);
    const answer = await sendReading(base, action, reading).catch((error) => ({
      text: String(error),
      status: 0,
    }));
    if (answer.kept) {
      kept.push(reading);
      answers.kept += 1;
    } else if (/the disk[^"]* is full/.test(answer.text)) answers.full += 1;
    else if (/"said":"away"|not known whether/.test(answer.text)) answers.away += 1;
    else answers.other.push(`${answer.status} ${answer.text.slice(0, 200)}`);
    if (!answer.kept) await pause(50);
  }
  return answers;
}

try {
  await until(async () => (await get('/api/ready')).status === 200, 120_000, 'the start');
  const [node, tsx] = tool('tsx/dist/cli.mjs');
  const url = databaseUrl();
  combs = JSON.parse(
    execFileSync(node, [tsx, 'bench/killsSetup.ts'], {
      env: { ...env, DATABASE_URL: url },
      encoding: 'utf8',
    }),
  );
  action = keepReadingAction('.next');
  const before = await keepFor(60_000, 200);
  found(before.kept === 200, `${before.kept} readings kept while there is room`);

  fill();
  const health = JSON.parse((await get('/api/health')).text);
  found(
    health.ok === true && health.disk?.full === true,
    `health on the full disk: ${JSON.stringify(health)}`,
  );
  const ready = await get('/api/ready');
  found(
    ready.status === 503 && /disk is full: 40 MB are needed/.test(ready.text),
    `ready: ${ready.status} ${ready.text}`,
  );
  const bench = await get('/');
  found(
    bench.status === 200 && /disk is full: 40 MB are needed/.test(bench.text),
    `the Bench: ${bench.status}, says that the disk is full`,
  );
  const script = await get('/api/setups');
  found(script.status === 200, `an address that reads: ${script.status}`);
  const elsewhere = join(tmpdir(), `red-plumb-disk-${process.pid}.ndjson.gz`);
  const backup = spawnSync(process.execPath, ['scripts/shop.mjs', 'backup', elsewhere], {
    env,
    encoding: 'utf8',
  });
  found(backup.status === 0, `backup to another disk: ${(backup.stdout + backup.stderr).trim()}`);
  rmSync(elsewhere, { force: true });
  const here = spawnSync(process.execPath, ['scripts/shop.mjs', 'backup', join('.local', 'b.gz')], {
    env,
    encoding: 'utf8',
  });
  found(
    here.status === 1 && /disk of the backup is full/.test(here.stderr) && !here.stderr.includes('    at '),
    `backup onto the full disk: ${here.stderr.trim()}`,
  );

  // Its log of changes runs full in the end.
  const { default: pg } = await import('pg');
  const saw = { kept: 0, full: 0, away: 0, other: [] };
  const lives = () => get('/api/setups').then((r) => r.status === 200);
  for (let round = 0; round < 40 && (await lives()); round += 1) {
    const client = new pg.Client({ connectionString: url });
    client.on('error', () => undefined);
    await client
      .connect()
      .then(
        () => client.query('select pg_switch_wal(); checkpoint'),
        () => undefined,
      )
      .catch(() => undefined);
    await client.end().catch(() => undefined);
    const answers = await keepFor(500);
    for (const key of ['kept', 'full', 'away']) saw[key] += answers[key];
    saw.other.push(...answers.other);
    fill();
  }
  const down = !(await lives());
  found(down, `the database ${down ? 'cannot write and is down' : 'still runs'}`);
  found(
    saw.other.length === 0,
    `meanwhile ${saw.kept} readings more were acknowledged, ${saw.full} refused as the disk is full, ${saw.away} as the database is away, ${saw.other.length} otherwise ${saw.other[0] ?? ''}`,
  );
  await pause(25_000);
  const shown = await get('/');
  const why = await get('/api/ready');
  found(
    shown.status !== 0 && /disk is full/.test(why.text),
    `the web server is up (${shown.status}) and says: ${why.text}`,
  );
  const refused = await sendReading(base, action, readingOf(combs[0], 0, false));
  found(
    !refused.kept && /disk is full/.test(refused.text),
    `a reading: ${/"message":"([^"]*)"/.exec(refused.text)?.[1] ?? refused.text.slice(0, 200)}`,
  );

  rmSync(FILLER);
  const took = await until(async () => (await keepFor(2000, 1)).kept === 1, 120_000, 'back');
  found(took <= BACK_WITHIN_MS, `a reading is kept ${(took / 1000).toFixed(1)} s after room was made`);
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const { rows } = await client.query("select request from acts where act = 'reading'");
  await client.end();
  const known = new Set(rows.map((r) => r.request));
  const lost = kept.filter((r) => !known.has(r.request)).length;
  found(lost === 0, `${kept.length} readings were acknowledged, ${lost} of them are lost`);
  found(starter.exitCode === null, 'the starter still runs');
  say(faults.length === 0 ? 'all as it should be' : `${faults.length} not as they should be`);
} finally {
  if (faults.length > 0) console.log(readFileSync(join('.local', 'said.log'), 'utf8'));
  starter.kill('SIGTERM');
  await Promise.race([new Promise((gone) => starter.once('exit', gone)), pause(15_000)]);
  process.exitCode = faults.length === 0 ? 0 : 1;
}
