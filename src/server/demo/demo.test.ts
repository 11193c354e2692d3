import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

import { asc, isNotNull, sql } from 'drizzle-orm';

import { DRIFT_PRIORS, estimateWithSlips, type DriftRun } from '@/core/drift';
import { fitLadder, type LadderFit, type Observation } from '@/core/fit';
import { rectCentre, type Rect } from '@/core/geometry';
import { seededRandom } from '@/core/random/random';
import { watched } from '@/core/control';
import {
  driftEstimates,
  events,
  fits,
  foundTerms,
  proofSheets,
  readings,
  runFiles,
  runs,
  setups,
} from '@/db/schema';
import { type DriftResult } from '@/db/stored/drift';
import { freshDeps } from '@test/database';
import { logCsv, logDocument } from '@test/log';

import { contentOf } from '@/server/files/keepFiles';
import type { Deps } from '@/server/base/deps';

import { loadDemo } from './demo';
import {
  listSessions as pageOfSessions,
  sessionOfSheet,
  sessionTrace,
  type LogFilter,
} from '@/server/logbook/logbook';
import { loadBench } from '@/server/setups/bench';
import { listSetups } from '@/server/setups/repository';
import { lastPlanOn, listRuns } from '@/server/runs/listRuns';
import { getRun } from '@/server/runs/repository';
import { foundOf } from '@/server/watch/foundTerms';
import { sectionFile } from '@/server/runs/sectionFile';

/* The demo’s months of log, read back as people and programs would: every figure has to be found again. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => {
  deps = await freshDeps('demo');
  await loadDemo(deps.db, new Date(Date.UTC(2026, 10, 2, 9)));
  // Months of log: on a busy machine they take their time.
}, 900_000);
afterAll(() => deps.close());

const listSessions = async (d: Deps, filter: LogFilter) => {
  const { rows, total } = await pageOfSessions(d, filter);
  expect(rows).toHaveLength(total);
  return rows;
};

const all: LogFilter = { sort: 'when', descending: true };

test('every stored fit is what its stored readings give', async () => {
  const stored = await deps.db.select().from(fits);
  expect(stored.length).toBeGreaterThan(5);
  for (const { inputs, result } of stored) {
    const { observations, workArea } = inputs as { observations: Observation[]; workArea: Rect };
    const again = JSON.parse(JSON.stringify(fitLadder(observations, rectCentre(workArea)))) as LadderFit;
    expect((result as LadderFit).models).toEqual(again.models);
  }
});

test('every stored estimate of drift is what its stored runs give', async () => {
  const stored = await deps.db.select().from(driftEstimates);
  expect(stored.length).toBeGreaterThan(2);
  const { inputs, result } = stored.at(-1)!;
  const { mediaClass, along } = inputs as { mediaClass: 'film'; along: DriftRun[] };
  const { estimate, slips } = estimateWithSlips(along, DRIFT_PRIORS[mediaClass], seededRandom(1));
  const kept = (result as { along: DriftResult['along'] }).along;
  for (const name of ['value', 'low', 'high'] as const) {
    expect(kept.creep[name]).toBeCloseTo(estimate.creep[name], 12);
    expect(kept.wander![name]).toBeCloseTo(estimate.wander![name], 12);
  }
  expect(kept.slips).toHaveLength(slips.length);
  expect(kept.nodes.reduce((sum, n) => sum + n.weight, 0)).toBeCloseTo(1, 5);
});

test('every file that a run made is made again, letter by letter', async () => {
  const made = await deps.db.select().from(runFiles);
  expect(made.length).toBeGreaterThan(20);
  for (const file of made.filter((_, i) => i % 7 === 0)) {
    const run = (await getRun(deps, file.runId))!;
    const { applied } = run.files.find((f) => f.fileName === file.fileName)!;
    const made = sectionFile(run, file.section, 'dxf', applied);
    expect(made.ok && made.value.content).toBe(await contentOf(deps, file.sha256));
  }
});

test('the log by rig, kind and outcome: each session once, in the order asked for', async () => {
  const whole = await listSessions(deps, all);
  const setupRows = await deps.db.select({ id: setups.id }).from(setups);
  const parts = [
    await Promise.all(setupRows.map(({ id }) => listSessions(deps, { ...all, setupId: id }))),
    await Promise.all(
      (['calibration', 'quick-check', 'roll-proof'] as const).map((kind) =>
        listSessions(deps, { ...all, kind }),
      ),
    ),
  ];
  for (const part of parts) {
    const numbers = part.flat().map((s) => s.number);
    expect(numbers.sort((a, b) => b - a)).toEqual(whole.map((s) => s.number).sort((a, b) => b - a));
    for (const list of part) expect(list.length).toBeGreaterThan(0);
  }
  const told = await Promise.all(
    (['plumb', 'leaning', 'out-of-plumb'] as const).map((outcome) => listSessions(deps, { ...all, outcome })),
  );
  // A session that goes on, and a strip, have no outcome.
  expect(told.flat()).toHaveLength(whole.filter((s) => s.outcome !== null).length);
  for (const descending of [true, false]) {
    const sorted = await listSessions(deps, { sort: 'r95', descending });
    const figures = sorted.map((s) => s.r95Mm);
    const known = figures.filter((v) => v !== null);
    expect(known).toEqual([...known].sort((a, b) => (descending ? b - a : a - b)));
    // Those without a figure stand last either way.
    expect(figures.slice(known.length).every((v) => v === null)).toBe(true);
  }
});

test('the sheet’s number leads to its session, and the session’s trace holds its readings', async () => {
  const sheets = await deps.db.select().from(proofSheets);
  const traced = new Set<string>();
  for (const { number } of sheets) {
    const id = await sessionOfSheet(deps, number);
    if (id) traced.add(id);
  }
  expect(traced.size).toBe((await listSessions(deps, all)).length);
  const entered = await Promise.all(
    [...traced].map(async (id) => (await sessionTrace(deps, id)).entered.length),
  );
  expect(entered.reduce((a, b) => a + b, 0)).toBe((await deps.db.select().from(readings)).length);
  expect(await sessionOfSheet(deps, 999_999)).toBeNull();
});

test('the export as CSV, read by another program, and as JSON: every reading, no NaN', async () => {
  const document = await logDocument(deps);
  const rows = document.readings;
  expect(rows).toHaveLength((await deps.db.select().from(readings)).length);
  // Python’s own csv module.
  const program = 'import csv,json,sys; print(json.dumps(list(csv.DictReader(sys.stdin, strict=True))))';
  const read = JSON.parse(
    execFileSync('/usr/bin/python3', ['-c', program], { input: await logCsv(deps), encoding: 'utf8' }),
  ) as Record<string, string>[];
  expect(read.map((r) => [r.setup, r.station, Number(r.offsetMm), r.enteredAt])).toEqual(
    rows.map((r) => [r.setup, r.station, r.offsetMm, r.enteredAt]),
  );
  expect(document).toMatchObject({ format: 'red-plumb-log-1', units: 'mm, rad' });
  expect(JSON.stringify(document)).not.toMatch(/NaN|Infinity/);
  expect(document.runs.map((r) => r.checks.length)).toEqual(
    (await Promise.all(document.runs.map((r) => getRun(deps, r.id)))).map((r) => r!.checks.length),
  );
});

test('the story: one move, one firmware, a creep that someone should have seen, a slip', async () => {
  const happened = await deps.db.select({ kind: events.kind }).from(events);
  expect(happened.filter((e) => e.kind === 'moved')).toHaveLength(1);
  expect(happened.filter((e) => e.kind === 'firmware')).toHaveLength(1);
  const roll = (await listSetups(deps)).find((s) => s.name === 'Roll rig');
  const checks = (
    await listSessions(deps, { ...all, setupId: roll!.id, kind: 'quick-check', descending: false })
  )
    .slice(0, 7)
    .map((s) => s.r95Mm!);
  expect(checks.at(-1)! - checks[0]!).toBeGreaterThan(0.2);
  const { rows: runRows } = await listRuns(deps);
  expect(runRows.map((r) => r.stage)).toContain('running');
  expect(runRows.reduce((sum, r) => sum + (r.spoiled ?? 0), 0)).toBe(9);
  expect(await lastPlanOn(deps, roll!.id)).toMatchObject({ label: runRows[0]!.label });
  // Everything on the bench reads back.
  expect((await loadBench(deps)).length).toBeGreaterThan(2);
});

test('the roll’s slow creep was signalled by its log before the first job with spoiled items', async () => {
  const jobs = await deps.db.select().from(runs).where(isNotNull(runs.outcome)).orderBy(asc(runs.startedAt));
  const spoiled = jobs.find((j) => (j.outcome as { spoiled: number | null }).spoiled)!;
  const bench = (await loadBench(deps)).find((b) => b.setup.id === spoiled.setupId)!;
  const sets = (await foundOf(deps)).get(spoiled.setupId)!;
  // What the bench would have said on each evening, from the log of then.
  const signals = sets.map((_, i) => watched(sets.slice(0, i + 1), bench.events, bench.setup.toleranceMm));
  const first = signals.findIndex((axes) => axes.some((a) => a.watch?.since));
  const told = signals[first]!.find((a) => a.watch?.since)!;
  expect(sets[first]!.at < spoiled.startedAt).toBe(true);
  expect(told).toMatchObject({ axis: 'along', watch: { byMm: expect.closeTo(0.15, 1) } });
  // The desk rig, which was moved, said so and calibrated, gives none.
  const desk = (await loadBench(deps)).find((b) => b.events.some((e) => e.kind === 'moved'))!;
  expect(desk.watch.map((a) => a.watch?.since ?? null)).toEqual([null, null]);
});

test('an older shop’s found terms are filled in as they would have been kept', async () => {
  const rows = () => deps.db.select().from(foundTerms).orderBy(asc(foundTerms.passId));
  const kept = await rows();
  expect(kept.length).toBeGreaterThan(15);
  const migration = readFileSync('src/db/migrations/0011_found_terms.sql', 'utf8');
  await deps.db.delete(foundTerms);
  await deps.db.execute(sql.raw(migration.slice(migration.indexOf('INSERT INTO "found_terms"'))));
  const filled = await rows();
  expect(filled.map((f) => ({ ...f, fileXMm: f.fileXMm.toFixed(9), fileYMm: f.fileYMm.toFixed(9) }))).toEqual(
    kept.map((f) => ({ ...f, fileXMm: f.fileXMm.toFixed(9), fileYMm: f.fileYMm.toFixed(9) })),
  );
});
