import { and, asc, desc, eq, isNull, sql } from 'drizzle-orm';

import { assessPass, passReading, type Assessment, type PassReading } from '@/core/calibration';
import { FIT_VERSION } from '@/core/fit';
import { IDENTITY, compose, type Affine } from '@/core/geometry';
import { accept, refuse, type Outcome } from '@/core/outcome';
import type { Station, StationSet } from '@/core/proof';
import type { LinePick } from '@/core/readings';
import type { OffsetAxis } from '@/core/units';
import type { PlumbState } from '@/core/verdict';
import {
  corrections,
  fits,
  passes,
  proofSheets,
  readings,
  rigs,
  rigSettings,
  sessions,
  settingChanges,
} from '@/db/schema';

import { fieldMessages, type Actor, type Deps, type UseCaseRefusal } from './deps';
import { getRig, type Rig } from './rigs';
import {
  affineSchema,
  pickSchema,
  readingInputSchema,
  settingChangesSchema,
  settingsAtCutSchema,
  type SheetOptions,
} from './schemas';
import { changeSheet, defaultOptions, getSheet, makeSheet, type StoredSheet } from './sheets';

export type Stage = 'print' | 'read' | 'correct' | 'prove' | 'closed';
export type SessionKind = 'calibration' | 'quick-check';

export interface StoredReading {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly pick: LinePick;
  readonly coarseMm: number | null;
  readonly offsetMm: number;
  readonly uMm: number;
  readonly by: string;
  readonly at: Date;
}

/** What carries the correction: the machine's settings, the cut file, or both in turn. */
export type CorrectionWay = 'settings' | 'file' | 'both';

/** What the cut file has to undo, by way; null when it stays as drawn. */
export function fileTransformOf(correction: StoredCorrection, way: CorrectionWay): Affine | null {
  if (way === 'settings') return null;
  return way === 'file' ? correction.wholeTransform : correction.restTransform;
}

export interface StoredCorrection {
  readonly id: string;
  readonly decision: 'correct' | 'leave';
  readonly changes: readonly {
    settingId: string;
    from: number;
    to: number;
    movesXMm: number;
    movesYMm: number;
    clamped: boolean;
  }[];
  /** T that a file is to undo when the settings are typed too, and when the file does it all. */
  readonly restTransform: Affine;
  readonly wholeTransform: Affine;
  readonly done: CorrectionWay | 'leave' | null;
  readonly doneBy: string | null;
  readonly doneAt: Date | null;
}

export interface Pass {
  readonly id: string;
  readonly position: number;
  readonly purpose: 'measure' | 'prove';
  readonly set: StationSet;
  readonly load: number;
  readonly settingsAtCut: Readonly<Record<string, number>>;
  /** T that the cut file of this set undoes by itself; null for the file as drawn. */
  readonly fileTransform: Affine | null;
  readonly sheet: StoredSheet;
  readonly stations: readonly Station[];
  readonly readings: readonly StoredReading[];
  readonly correction: StoredCorrection | null;
  readonly createdAt: Date;
}

export interface Session {
  readonly id: string;
  readonly number: number;
  readonly kind: SessionKind;
  readonly stage: Stage;
  readonly rig: Rig;
  readonly passes: readonly Pass[];
  readonly startedBy: string;
  readonly startedAt: Date;
  readonly closedBy: string | null;
  readonly closedAt: Date | null;
  readonly outcome: PlumbState | null;
  readonly outcomeR95Mm: number | null;
}

/** The pass that is being worked on: the newest. */
export const currentPass = (session: Session): Pass => session.passes.at(-1)!;

/** The newest measuring or proving pass before the current one. */
export const previousPass = (session: Session): Pass | null => session.passes.at(-2) ?? null;

export function passReadings(pass: Pass): PassReading[] {
  return pass.readings.flatMap((r) => {
    const station = pass.stations.find((s) => s.id === r.stationId);
    return station ? [passReading(station, r.axis, r.pick)] : [];
  });
}

/** Settings as they stood when the pass was cut. */
const settingsAtCut = (rig: Rig, pass: Pass): Rig['settings'] =>
  rig.settings.map((s) => ({ ...s, value: pass.settingsAtCut[s.id] ?? s.value }));

export const assess = (session: Session, pass: Pass): Assessment | null =>
  assessPass(
    passReadings(pass),
    settingsAtCut(session.rig, pass),
    pass.sheet.geometry.spec.workArea,
    session.rig.toleranceMm,
  );

export async function getSession(deps: Deps, sessionId: string): Promise<Session | null> {
  const [row] = await deps.db.select().from(sessions).where(eq(sessions.id, sessionId));
  if (!row) return null;
  const rig = await getRig(deps, row.rigId);
  const passRows = await deps.db
    .select()
    .from(passes)
    .where(eq(passes.sessionId, sessionId))
    .orderBy(asc(passes.position));
  const list = await Promise.all(passRows.map((p) => loadPass(deps, p)));
  return {
    id: row.id,
    number: row.number,
    kind: row.kind as SessionKind,
    stage: row.stage as Stage,
    rig: rig!,
    passes: list,
    startedBy: row.startedBy,
    startedAt: row.startedAt,
    closedBy: row.closedBy,
    closedAt: row.closedAt,
    outcome: row.outcome as PlumbState | null,
    outcomeR95Mm: row.outcomeR95Mm,
  };
}

async function loadPass(deps: Deps, row: typeof passes.$inferSelect): Promise<Pass> {
  const sheet = (await getSheet(deps, row.sheetId))!;
  const rows = await deps.db
    .select()
    .from(readings)
    .where(and(eq(readings.passId, row.id), isNull(readings.replacedAt)))
    .orderBy(asc(readings.enteredAt));
  const [correction] = await deps.db
    .select({ correction: corrections })
    .from(corrections)
    .innerJoin(fits, eq(fits.id, corrections.fitId))
    .where(eq(fits.passId, row.id))
    .orderBy(desc(corrections.createdAt))
    .limit(1);
  return {
    id: row.id,
    position: row.position,
    purpose: row.purpose as Pass['purpose'],
    set: row.stationSet as StationSet,
    load: row.load,
    settingsAtCut: settingsAtCutSchema.parse(row.settingsAtCut),
    fileTransform: row.fileTransform === null ? null : affineSchema.parse(row.fileTransform),
    sheet,
    stations: sheet.geometry.stations.filter((s) => s.set === row.stationSet),
    readings: rows.map((r) => ({
      stationId: r.stationId,
      axis: r.axis as OffsetAxis,
      pick: pickSchema.parse(r.pick),
      coarseMm: r.coarseMm,
      offsetMm: r.offsetMm,
      uMm: r.uMm,
      by: r.enteredBy,
      at: r.enteredAt,
    })),
    correction: correction ? toCorrection(correction.correction) : null,
    createdAt: row.createdAt,
  };
}

const toCorrection = (row: typeof corrections.$inferSelect): StoredCorrection => ({
  id: row.id,
  decision: row.decision as StoredCorrection['decision'],
  changes: settingChangesSchema.parse(row.changes),
  restTransform: affineSchema.parse(row.restTransform),
  wholeTransform: affineSchema.parse(row.wholeTransform),
  done: row.done as StoredCorrection['done'],
  doneBy: row.doneBy,
  doneAt: row.doneAt,
});

/** Opens a session with a new sheet, or returns the one that is open for this rig already. */
export async function startSession(
  deps: Deps,
  actor: Actor,
  rigId: string,
  kind: SessionKind,
  unit: 'mm' | 'in' = 'mm',
): Promise<Outcome<{ sessionId: string; resumed: boolean }, UseCaseRefusal>> {
  const rig = await getRig(deps, rigId);
  if (!rig) return refuse({ code: 'not-found', what: 'rig' });
  const open = await openSession(deps, rigId, kind);
  if (open) return accept({ sessionId: open, resumed: true });
  const full = defaultOptions(rig, unit);
  const options = kind === 'calibration' ? full : { ...full, columns: 1, rows: 1, secondSet: false };
  try {
    return await deps.db.transaction(async (tx) => {
      const inner = { ...deps, db: tx as unknown as Deps['db'] };
      const sheet = await makeSheet(inner, rig, options);
      if (!sheet.ok) return sheet;
      const [row] = await tx
        .insert(sessions)
        .values({ rigId, kind, stage: 'print', startedBy: actor, startedAt: deps.now() })
        .returning({ id: sessions.id });
      await addPass(inner, row!.id, 1, rig, sheet.value, 1, kind === 'calibration' ? 'measure' : 'prove', 1);
      return accept({ sessionId: row!.id, resumed: false });
    });
  } catch (error) {
    // Two tablets pressed the button at once: the second joins the first.
    const joined = await openSession(deps, rigId, kind);
    if (joined) return accept({ sessionId: joined, resumed: true });
    throw error;
  }
}

async function openSession(deps: Deps, rigId: string, kind: SessionKind): Promise<string | null> {
  const [row] = await deps.db
    .select({ id: sessions.id })
    .from(sessions)
    .where(and(eq(sessions.rigId, rigId), eq(sessions.kind, kind), isNull(sessions.closedAt)));
  return row?.id ?? null;
}

const valuesOf = (rig: Rig): Record<string, number> =>
  Object.fromEntries(rig.settings.map((s) => [s.id, s.value]));

async function addPass(
  deps: Deps,
  sessionId: string,
  position: number,
  rig: Rig,
  sheet: StoredSheet,
  stationSet: StationSet,
  purpose: Pass['purpose'],
  load: number,
  fileTransform: Affine | null = null,
): Promise<void> {
  await deps.db.insert(passes).values({
    sessionId,
    position,
    sheetId: sheet.id,
    stationSet,
    purpose,
    settingsAtCut: valuesOf(rig),
    load,
    fileTransform,
    createdAt: deps.now(),
  });
}

async function setStage(deps: Deps, sessionId: string, stage: Stage): Promise<void> {
  await deps.db.update(sessions).set({ stage }).where(eq(sessions.id, sessionId));
}

const NOT_FOUND = { code: 'not-found', what: 'session' } as const;
const CLOSED = {
  code: 'refused',
  message: 'This session is closed. Start a new one from the bench.',
} as const;

async function openOr(deps: Deps, sessionId: string): Promise<Outcome<Session, UseCaseRefusal>> {
  const session = await getSession(deps, sessionId);
  if (!session) return refuse(NOT_FOUND);
  return session.stage === 'closed' ? refuse(CLOSED) : accept(session);
}

/** Lays out the unprinted sheet of a session anew. */
export async function changeSessionSheet(
  deps: Deps,
  sessionId: string,
  options: SheetOptions,
): Promise<Outcome<null, UseCaseRefusal>> {
  const found = await openOr(deps, sessionId);
  if (!found.ok) return found;
  const changed = await changeSheet(deps, found.value.rig, options, currentPass(found.value).sheet.id);
  return changed.ok ? accept(null) : changed;
}

/** “Printed and cut”: the sheet is frozen, and the settings of this moment belong to the pass. */
export async function markPrinted(
  deps: Deps,
  actor: Actor,
  sessionId: string,
): Promise<Outcome<null, UseCaseRefusal>> {
  const found = await openOr(deps, sessionId);
  if (!found.ok) return found;
  const session = found.value;
  const pass = currentPass(session);
  await deps.db.transaction(async (tx) => {
    const inner = { ...deps, db: tx as unknown as Deps['db'] };
    await tx
      .update(proofSheets)
      .set({ printedAt: deps.now(), printedBy: actor })
      .where(and(eq(proofSheets.id, pass.sheet.id), isNull(proofSheets.printedAt)));
    await tx
      .update(passes)
      .set({ settingsAtCut: valuesOf(session.rig) })
      .where(eq(passes.id, pass.id));
    await setStage(inner, sessionId, 'read');
  });
  return accept(null);
}

/** Keeps one reading as it was entered; an earlier one of the same comb is kept too, marked as replaced. */
export async function saveReading(
  deps: Deps,
  actor: Actor,
  input: unknown,
): Promise<Outcome<null, UseCaseRefusal>> {
  const parsed = readingInputSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { passId, stationId, axis, pick, coarseMm } = parsed.data;
  const [row] = await deps.db.select().from(passes).where(eq(passes.id, passId));
  if (!row) return refuse({ code: 'not-found', what: 'pass' });
  const [open] = await deps.db
    .select({ id: sessions.id })
    .from(sessions)
    .where(and(eq(sessions.id, row.sessionId), isNull(sessions.closedAt)));
  if (!open) return refuse(CLOSED);
  const pass = await loadPass(deps, row);
  const station = pass.stations.find((s) => s.id === stationId);
  if (!station) return refuse({ code: 'not-found', what: `station ${stationId} on this sheet` });
  const { observation } = passReading(station, axis, pick);
  await deps.db.transaction(async (tx) => {
    // One writer at a time for a pass: two tablets may read the same comb.
    await tx.select({ id: passes.id }).from(passes).where(eq(passes.id, passId)).for('update');
    await tx
      .update(readings)
      .set({ replacedAt: deps.now() })
      .where(currentReading(passId, stationId, axis));
    await tx.insert(readings).values({
      passId,
      stationId,
      axis,
      pick,
      coarseMm,
      xMm: observation.xMm,
      yMm: observation.yMm,
      offsetMm: observation.offsetMm,
      uMm: observation.uMm,
      enteredBy: actor,
      enteredAt: deps.now(),
    });
  });
  return accept(null);
}

const currentReading = (passId: string, stationId: string, axis: OffsetAxis) =>
  and(
    eq(readings.passId, passId),
    eq(readings.stationId, stationId),
    eq(readings.axis, axis),
    isNull(readings.replacedAt),
  );

/** Takes a reading back; it stays in the log as replaced. */
export async function clearReading(
  deps: Deps,
  passId: string,
  stationId: string,
  axis: OffsetAxis,
): Promise<Outcome<null, UseCaseRefusal>> {
  await deps.db
    .update(readings)
    .set({ replacedAt: deps.now() })
    .where(currentReading(passId, stationId, axis));
  return accept(null);
}

const TOO_FEW: UseCaseRefusal = {
  code: 'refused',
  message: 'Read both combs of at least one station first.',
};

/** Fits the current pass for the record and proposes what to change. Readings may still be added later. */
export async function finishReading(
  deps: Deps,
  sessionId: string,
): Promise<Outcome<{ stage: Stage }, UseCaseRefusal>> {
  const found = await openOr(deps, sessionId);
  if (!found.ok) return found;
  const session = found.value;
  const pass = currentPass(session);
  const assessment = assess(session, pass);
  if (!assessment) return refuse(TOO_FEW);
  const stage: Stage = pass.purpose === 'measure' ? 'correct' : 'prove';
  await deps.db.transaction(async (tx) => {
    const inner = { ...deps, db: tx as unknown as Deps['db'] };
    await storeFit(inner, session, pass, assessment);
    await setStage(inner, sessionId, stage);
  });
  return accept({ stage });
}

async function storeFit(deps: Deps, session: Session, pass: Pass, a: Assessment): Promise<void> {
  const [fit] = await deps.db
    .insert(fits)
    .values({
      passId: pass.id,
      version: FIT_VERSION,
      recommended: a.ladder.recommended!,
      widest: a.ladder.widest!,
      inputs: {
        observations: passReadings(pass).map((r) => r.observation),
        workArea: pass.sheet.geometry.spec.workArea,
        settings: settingsAtCut(session.rig, pass).map(({ id, name, value, step, unit }) => ({
          id,
          name,
          value,
          step,
          unit,
        })),
        toleranceMm: session.rig.toleranceMm,
      },
      result: a.ladder,
      createdAt: deps.now(),
    })
    .returning({ id: fits.id });
  await deps.db.insert(corrections).values({
    fitId: fit!.id,
    version: a.plan.version,
    decision: a.plan.decision,
    changes: a.plan.settings.changes,
    // What was read is what the file as cut left over: a new file has to undo both.
    restTransform: compose(a.plan.restTransform, pass.fileTransform ?? IDENTITY),
    wholeTransform: compose(a.plan.wholeTransform, pass.fileTransform ?? IDENTITY),
    plan: a.plan,
    createdAt: deps.now(),
  });
}

/** “I have typed them” (or: the file does it all): the settings change, and the proof is next. */
export async function applyCorrection(
  deps: Deps,
  actor: Actor,
  sessionId: string,
  how: CorrectionWay,
): Promise<Outcome<{ needsNewSheet: boolean }, UseCaseRefusal>> {
  const found = await openOr(deps, sessionId);
  if (!found.ok) return found;
  const session = found.value;
  const pass = currentPass(session);
  const correction = pass.correction;
  if (!correction)
    return refuse({ code: 'refused', message: 'There is nothing to type yet: read the sheet first.' });
  const moved = session.rig.settings.find((s) =>
    correction.changes.some((c) => c.settingId === s.id && Math.abs(c.from - s.value) > 1e-9),
  );
  if (how !== 'file' && moved)
    return refuse({
      code: 'stale',
      message: `${moved.name} has been changed to ${moved.value} since this sheet was cut, so these figures no longer hold. Print and read a new sheet.`,
    });
  return deps.db.transaction(async (tx) => {
    const inner = { ...deps, db: tx as unknown as Deps['db'] };
    await tx
      .update(corrections)
      .set({ done: how, doneBy: actor, doneAt: deps.now() })
      .where(eq(corrections.id, correction.id));
    if (how !== 'file') await typeSettings(inner, actor, session.rig.id, correction);
    const rig = (await getRig(inner, session.rig.id))!;
    return accept(await openProof(inner, session, pass, rig, fileTransformOf(correction, how)));
  });
}

async function typeSettings(
  deps: Deps,
  actor: Actor,
  rigId: string,
  correction: StoredCorrection,
): Promise<void> {
  // Somebody who is editing the rig just now must see the new figures before saving over them.
  await deps.db
    .update(rigs)
    .set({ version: sql`${rigs.version} + 1` })
    .where(eq(rigs.id, rigId));
  for (const change of correction.changes) {
    if (change.from === change.to) continue;
    await deps.db.update(rigSettings).set({ value: change.to }).where(eq(rigSettings.id, change.settingId));
    await deps.db.insert(settingChanges).values({
      settingId: change.settingId,
      fromValue: change.from,
      toValue: change.to,
      reason: 'typed from a calibration',
      correctionId: correction.id,
      changedBy: actor,
      changedAt: deps.now(),
    });
  }
}

/** The second set of the same sheet while it is loaded; else a new sheet. */
async function openProof(
  deps: Deps,
  session: Session,
  pass: Pass,
  rig: Rig,
  fileTransform: Affine | null,
): Promise<{ needsNewSheet: boolean }> {
  const position = pass.position + 1;
  const unused = pass.set === 1 && pass.sheet.geometry.spec.secondSet;
  if (unused) {
    await addPass(deps, session.id, position, rig, pass.sheet, 2, 'prove', pass.load, fileTransform);
    await setStage(deps, session.id, 'prove');
    return { needsNewSheet: false };
  }
  const { spec } = pass.sheet.geometry;
  const full = defaultOptions(rig, spec.unit);
  // A few stations are enough to prove; the layout can be changed on Print.
  const options = { ...full, columns: Math.min(2, full.columns), rows: Math.min(2, full.rows) };
  const sheet = await makeSheet(deps, rig, options);
  if (!sheet.ok) throw new Error(`openProof: ${JSON.stringify(sheet.refusal)}`);
  await addPass(deps, session.id, position, rig, sheet.value, 1, 'prove', pass.load + 1, fileTransform);
  await setStage(deps, session.id, 'print');
  return { needsNewSheet: true };
}

/** The proof was not good enough: its readings are the next measurement. */
export async function goRoundAgain(deps: Deps, sessionId: string): Promise<Outcome<null, UseCaseRefusal>> {
  const found = await openOr(deps, sessionId);
  if (!found.ok) return found;
  if (!assess(found.value, currentPass(found.value))) return refuse(TOO_FEW);
  await setStage(deps, sessionId, 'correct');
  return accept(null);
}

/** Back to the readings of the current pass, to mend one. */
export async function reopenReading(deps: Deps, sessionId: string): Promise<Outcome<null, UseCaseRefusal>> {
  const found = await openOr(deps, sessionId);
  if (!found.ok) return found;
  await setStage(deps, sessionId, 'read');
  return accept(null);
}

/** Closes a session with what its newest readings say; without readings it is given up. */
export async function closeSession(
  deps: Deps,
  actor: Actor,
  sessionId: string,
): Promise<Outcome<null, UseCaseRefusal>> {
  const found = await openOr(deps, sessionId);
  if (!found.ok) return found;
  const session = found.value;
  const pass = [...session.passes].reverse().find((p) => p.readings.length > 0);
  const assessment = pass ? assess(session, pass) : null;
  await deps.db.transaction(async (tx) => {
    if (pass?.correction && pass.correction.done === null)
      await tx
        .update(corrections)
        .set({ done: 'leave', doneBy: actor, doneAt: deps.now() })
        .where(eq(corrections.id, pass.correction.id));
    await tx
      .update(sessions)
      .set({
        stage: 'closed',
        closedAt: deps.now(),
        closedBy: actor,
        outcome: assessment?.state ?? null,
        outcomeR95Mm: assessment?.r95Mm ?? null,
      })
      .where(eq(sessions.id, sessionId));
  });
  return accept(null);
}

/** Opens a session that was closed by mistake again. */
export async function undoClose(deps: Deps, sessionId: string): Promise<Outcome<null, UseCaseRefusal>> {
  const session = await getSession(deps, sessionId);
  if (!session) return refuse(NOT_FOUND);
  if (session.stage !== 'closed') return accept(null);
  if (await openSession(deps, session.rig.id, session.kind))
    return refuse({
      code: 'refused',
      message: 'Another session of this rig has been opened since. Close that one first.',
    });
  await deps.db
    .update(sessions)
    .set({
      stage: currentPass(session).readings.length > 0 ? 'read' : 'print',
      closedAt: null,
      closedBy: null,
      outcome: null,
      outcomeR95Mm: null,
    })
    .where(eq(sessions.id, sessionId));
  return accept(null);
}

/** What the cut file of a pass undoes by itself, or null for the file as drawn. */
export async function passFileTransform(deps: Deps, passId: string): Promise<Affine | null> {
  const [row] = await deps.db.select({ t: passes.fileTransform }).from(passes).where(eq(passes.id, passId));
  return row?.t ? affineSchema.parse(row.t) : null;
}
