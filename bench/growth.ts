import { readFileSync } from 'node:fs';

import { asc, count, desc, eq } from 'drizzle-orm';

import { closeDatabase, database } from '../src/db/client';
import { foundTerms, passes, readings, runs, sessions, setups, sheetJobs } from '../src/db/schema';
import { listSetups } from '../src/server/setups/repository';
import { getSession } from '../src/server/sessions/loadSession';
import { saveReading } from '../src/server/sessions/readings';
import { currentPass } from '../src/server/sessions/session';
import { markPrinted } from '../src/server/sessions/printSheet';
import { startSession } from '../src/server/sessions/startSession';

/*
 * A large log (seedGrowth.ts): how long pages take, what an export needs, and saving a reading beside a bare INSERT in the
 * same database. Started by scripts/growth.mjs, which serves it.
 */

const base = process.env.RED_PLUMB_TEST_URL!;
const LOOKS = 15;
/** Times that every page is looked at before any is timed: a shop's server runs all day. */
const WARM = 5;
const SAVES = 600;

const quantile = (list: readonly number[], share: number): number =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(share * list.length))]!;

async function timed(work: () => Promise<unknown>): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

async function setupNamed(name: string) {
  const list = await listSetups({ db: database(), now: () => new Date(), origin: base });
  return list.find((s) => s.name === name);
}

/** Addresses of the main pages over this log. */
async function addressesOf(): Promise<string[]> {
  const db = database();
  const setup = await setupNamed('Roll rig');
  const [run] = await db
    .select({ id: runs.id })
    .from(runs)
    .where(eq(runs.stage, 'closed'))
    .orderBy(asc(runs.number))
    .limit(1);
  const [open] = await db.select({ id: runs.id }).from(runs).where(eq(runs.stage, 'running')).limit(1);
  const [session] = await db
    .select({ id: sessions.id })
    .from(sessions)
    .where(eq(sessions.stage, 'closed'))
    .limit(1);
  // The setup whose session was copied: twenty thousand loads.
  const [long] = await db
    .select({ id: setups.id, rigId: setups.rigId })
    .from(foundTerms)
    .innerJoin(setups, eq(setups.id, foundTerms.setupId))
    .groupBy(setups.id)
    .orderBy(desc(count()))
    .limit(1);
  const [job] = await db
    .select({ id: sheetJobs.id })
    .from(sheetJobs)
    .where(eq(sheetJobs.stage, 'frozen'))
    .limit(1);
  return [
    ...[
      '/',
      '/by-hand',
      '/calibrate',
      '/correct',
      '/jobs',
      '/jobs?sort=spoiled',
      '/jobs?page=6',
      '/logbook',
      '/logbook?sort=r95&page=40',
    ],
    ...[
      `/logbook/${session!.id}`,
      `/setups/${setup!.id}`,
      `/setups/${setup!.id}/roll`,
      `/jobs/new?setup=${setup!.id}`,
    ],
    ...[`/rigs/${setup!.rigId}`, `/rigs/${long!.rigId}`, `/setups/${long!.id}`, `/jobs/sheets/${job!.id}`],
    ...['loads', 'averages', 'sums', 'all-terms'].map(
      (chart) => `/rigs/${long!.rigId}/charts?medium=${long!.id}&chart=${chart}`,
    ),
    ...[`/jobs/${run!.id}/summary`, `/jobs/${open!.id}/run`],
  ];
}

interface Times {
  readonly median: number;
  readonly worst: number;
}

async function looksAt(address: string): Promise<Times> {
  const times: number[] = [];
  await timed(() => fetch(base + address).then((r) => r.text()));
  for (let i = 0; i < LOOKS; i += 1)
    times.push(await timed(() => fetch(base + address).then((r) => r.text())));
  return { median: quantile(times, 0.5), worst: Math.max(...times) };
}

/** Fetches the whole log again and again, as three people would; counts how often they were told to come again. */
function threeExports(): { readonly end: () => Promise<string> } {
  let ended = false;
  const stop = new AbortController();
  let [through, told] = [0, 0];
  const person = async (format: string): Promise<void> => {
    while (!ended) {
      const answer = await fetch(`${base}/api/logbook/${format}`, { signal: stop.signal });
      if (answer.status === 503) {
        told += 1;
        await answer.text();
        await new Promise((later) => setTimeout(later, 1000));
        continue;
      }
      const body = answer.body!.getReader();
      while (!(await body.read()).done);
      through += 1;
    }
  };
  const people = ['csv', 'json', 'csv'].map((format) => person(format).catch(() => undefined));
  return {
    end: async () => {
      ended = true;
      stop.abort();
      await Promise.all(people);
      return `${through} exports went through, ${told} times somebody was told to come again`;
    },
  };
}

async function pages(): Promise<void> {
  const addresses = await addressesOf();
  for (let i = 0; i < WARM; i += 1)
    for (const address of addresses) await fetch(base + address).then((r) => r.text());
  const quiet: Times[] = [];
  for (const address of addresses) quiet.push(await looksAt(address));
  const exporting = threeExports();
  const busy: Times[] = [];
  for (const address of addresses) busy.push(await looksAt(address));
  const went = await exporting.end();
  console.log(
    '| page | median, ms | slowest of 15, ms | while three export: median | slowest |\n| --- | --- | --- | --- | --- |',
  );
  addresses.forEach((address, i) => {
    const words = address.replace(/[0-9a-f-]{36}/g, '…');
    const figures = [quiet[i]!.median, quiet[i]!.worst, busy[i]!.median, busy[i]!.worst];
    console.log(`| ${words} | ${figures.map((ms) => ms.toFixed(0)).join(' | ')} |`);
  });
  const ratio = quantile(
    busy.map((b, i) => b.median / quiet[i]!.median),
    0.5,
  );
  console.log(
    `\nwhile three export pages take ${ratio.toFixed(2)} times as long (median of the medians); ${went}`,
  );
}

/** Memory of the server that is measured, MB. */
const serverMb = (): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${process.env.RED_PLUMB_SERVER}/status`, 'utf8'))![1]) /
  1024;

async function exports(): Promise<void> {
  for (const format of ['csv', 'json']) {
    const before = serverMb();
    let most = before;
    const watch = setInterval(() => (most = Math.max(most, serverMb())), 250);
    const start = performance.now();
    const answer = await fetch(`${base}/api/logbook/${format}`);
    const reader = answer.body!.getReader();
    let [first, bytes] = [0, 0];
    for (;;) {
      const { done, value } = await reader.read();
      if (done) break;
      first ||= performance.now() - start;
      bytes += value.byteLength;
    }
    console.log(
      `\n${format}: first byte after ${first.toFixed(0)} ms, ${(bytes / 1e6).toFixed(0)} MB in ${((performance.now() - start) / 1000).toFixed(1)} s; the server’s memory ${before.toFixed(0)} MB before, ${most.toFixed(0)} MB at most`,
    );
    clearInterval(watch);
  }
}

async function saving(): Promise<void> {
  const deps = { db: database(), now: () => new Date(), origin: base };
  const setup = await setupNamed('Honey-label desk rig');
  const started = await startSession(deps, 'KT', { setupId: setup!.id, kind: 'calibration' });
  if (!started.ok) throw new Error('start');
  await markPrinted(deps, 'KT', started.value.sessionId);
  const pass = currentPass((await getSession(deps, started.value.sessionId))!);
  const combs = pass.stations.flatMap((s) =>
    (['across', 'along'] as const).map((axis) => ({ stationId: s.id, axis })),
  );
  const [own, bare]: [number[], number[]] = [[], []];
  const values = {
    xMm: 1,
    yMm: 1,
    offsetMm: 0,
    uMm: 0.03,
    enteredBy: 'KT',
    pick: {},
    replacedAt: new Date(),
  };
  const [other] = await deps.db.select({ id: passes.id }).from(passes).limit(1);
  // In turn, so that whatever else the machine does meets both.
  for (let i = 0; i < SAVES; i += 1) {
    const comb = combs[i % combs.length]!;
    own.push(
      await timed(() =>
        saveReading(deps, 'KT', {
          passId: pass.id,
          ...comb,
          pick: { line: 1, between: false, lengths: 0 },
          coarseMm: null,
        }),
      ),
    );
    bare.push(
      await timed(() =>
        deps.db.insert(readings).values({ passId: other!.id, ...comb, ...values, enteredAt: new Date() }),
      ),
    );
  }
  const [a, b] = [quantile(own, 0.99), quantile(bare, 0.99)];
  console.log(
    `\nsaving a reading: median ${quantile(own, 0.5).toFixed(2)} ms, p99 ${a.toFixed(2)} ms; bare INSERT: ${quantile(bare, 0.5).toFixed(2)}, ${b.toFixed(2)} ms; ratio of the p99 ${(a / b).toFixed(2)}, of the medians ${(quantile(own, 0.5) / quantile(bare, 0.5)).toFixed(2)}`,
  );
}

pages()
  .then(exports)
  .then(saving)
  .catch((error: unknown) => {
    console.error(error);
    process.exitCode = 1;
  })
  .finally(() => closeDatabase());
