import { and, eq, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';

import type { Assessment } from '@/core/calibration';
import { FIT_VERSION, transformToField } from '@/core/fit';
import { IDENTITY, compose, type Affine } from '@/core/geometry';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { layoutAreaOf, stationsThatFit, type StationSet } from '@/core/proof';
import {
  corrections,
  fits,
  passes,
  proofSheets,
  rigs,
  rigSettings,
  sessions,
  settingChanges,
} from '@/db/schema';

import type { Actor, Deps, UseCaseRefusal } from './deps';
import { getSession, NOT_FOUND, openOr, openSession } from './loadSession';
import { setReadingAside } from './readings';
import { getRig, getSimulation, type Rig } from './rigs';
import type { SheetOptions } from './schemas';
import {
  assess,
  currentPass,
  fileTransformOf,
  passReadings,
  settingsAtCut,
  waysOf,
  type CorrectionWay,
  type Pass,
  type Session,
  type SessionKind,
  type Stage,
  type StoredCorrection,
  type StoredReading,
} from './session';
import { changeSheet, defaultOptions, makeSheet, type StoredSheet } from './sheets';

/* The walk of a session, step by step: start, print, read, correct, prove, close. */

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

const proofLength = z
  .number()
  .min(1000, 'A strip is at least 1 m long: over less nothing drifts that can be read.')
  .max(30_000, 'At most 30 m of strip.');
const proofSpacing = z
  .number()
  .min(150, 'Rows of stations stand at least 150 mm apart.')
  .max(3000, 'Rows of stations stand at most 3 m apart.');

/** Opens a session with a long strip: stations along both edges and the middle. */
export async function startRollProof(
  deps: Deps,
  actor: Actor,
  rigId: string,
  lengthMm: number,
  spacingMm: number,
): Promise<Outcome<{ sessionId: string }, UseCaseRefusal>> {
  const rig = await getRig(deps, rigId);
  if (!rig) return refuse({ code: 'not-found', what: 'rig' });
  const length = proofLength.safeParse(lengthMm);
  const spacing = proofSpacing.safeParse(spacingMm);
  if (!length.success || !spacing.success)
    return refuse({
      code: 'invalid-input',
      fields: {
        ...(length.success ? {} : { length: length.error.issues[0]!.message }),
        ...(spacing.success ? {} : { spacing: spacing.error.issues[0]!.message }),
      },
    });
  const open = await openSession(deps, rigId, 'roll-proof');
  if (open) return accept({ sessionId: open });
  const strip: Rig = {
    ...rig,
    sheetHeightMm: length.data,
    workArea: { ...rig.workArea, y1: length.data - rig.workArea.y0 },
    // The strip is read where it lies: its own stations are its marks.
    marks: null,
  };
  const options = { ...defaultOptions(strip, 'mm'), secondSet: false };
  const fits = stationsThatFit(layoutAreaOf(strip), options.stepMm, false);
  const rows = Math.floor((strip.workArea.y1 - strip.workArea.y0) / spacing.data) + 1;
  return deps.db.transaction(async (tx) => {
    const inner = { ...deps, db: tx as unknown as Deps['db'] };
    const sheet = await makeSheet(inner, strip, {
      ...options,
      columns: Math.min(3, fits.columns),
      rows: Math.max(2, Math.min(rows, fits.rows)),
    });
    if (!sheet.ok) return sheet;
    const [row] = await tx
      .insert(sessions)
      .values({ rigId, kind: 'roll-proof', stage: 'print', startedBy: actor, startedAt: deps.now() })
      .returning({ id: sessions.id });
    await addPass(inner, row!.id, 1, rig, sheet.value, 1, 'measure', 1);
    return accept({ sessionId: row!.id });
  });
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
      .set({ settingsAtCut: valuesOf(session.rig), recipe: session.rig.recipe })
      .where(eq(passes.id, pass.id));
    await setStage(inner, sessionId, 'read');
  });
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
): Promise<Outcome<{ stage: Stage; rigId: string }, UseCaseRefusal>> {
  const found = await openOr(deps, sessionId);
  if (!found.ok) return found;
  const session = found.value;
  const pass = currentPass(session);
  const assessment = assess(session, pass);
  if (!assessment) return refuse(TOO_FEW);
  const strip = session.kind === 'roll-proof';
  const stage: Stage = strip ? 'closed' : pass.purpose === 'measure' ? 'correct' : 'prove';
  await deps.db.transaction(async (tx) => {
    const inner = { ...deps, db: tx as unknown as Deps['db'] };
    await storeFit(inner, session, pass, assessment);
    // A strip tells about drift; it is no verdict on the rig, and there is nothing to prove.
    if (strip)
      await tx
        .update(sessions)
        .set({ stage, closedAt: deps.now(), closedBy: session.startedBy })
        .where(eq(sessions.id, sessionId));
    else await setStage(inner, sessionId, stage);
  });
  return accept({ stage, rigId: session.rig.id });
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
        setAside: pass.readings.filter((r) => r.setAsideBy !== null),
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
  if (!waysOf(session.rig, { settings: { changes: correction.changes }, restWorthwhile: true }).includes(how))
    return refuse({
      code: 'refused',
      message: 'This rig cannot be corrected that way. See what can be changed on its page.',
    });
  const types = how === 'settings' || how === 'both';
  if (types && moved)
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
    if (types) await typeSettings(inner, actor, session.rig.id, correction);
    if (how === 'machine-page') await simulateOwnPage(inner, session, correction);
    const rig = (await getRig(inner, session.rig.id))!;
    return accept(await openProof(inner, session, pass, rig, fileTransformOf(correction, how)));
  });
}

/** How finely a stand-in's own calibration page is picked, mm. */
const OWN_PAGE_STEP_MM = 0.1;

/** A simulated rig's own calibration page takes out the shift, to its step. A real rig has done it by itself. */
async function simulateOwnPage(deps: Deps, session: Session, correction: StoredCorrection): Promise<void> {
  const simulation = await getSimulation(deps, session.rig.id);
  if (!simulation) return;
  const found = transformToField(correction.wholeTransform, simulation.centre);
  const picked = (mm: number): number => OWN_PAGE_STEP_MM * Math.round(mm / OWN_PAGE_STEP_MM);
  const truth = {
    ...simulation.truth,
    shiftXMm: simulation.truth.shiftXMm - picked(found.exMm),
    shiftYMm: simulation.truth.shiftYMm - picked(found.eyMm),
  };
  await deps.db
    .update(rigs)
    .set({ simulation: { ...simulation, truth } })
    .where(eq(rigs.id, session.rig.id));
}

/** What a check bar was measured to be; null takes it back. */
export async function saveBars(
  deps: Deps,
  sessionId: string,
  bars: { readonly acrossMm: number | null; readonly alongMm: number | null },
): Promise<Outcome<null, UseCaseRefusal>> {
  const found = await openOr(deps, sessionId);
  if (!found.ok) return found;
  await deps.db
    .update(passes)
    .set({ barAcrossMm: bars.acrossMm, barAlongMm: bars.alongMm })
    .where(eq(passes.id, currentPass(found.value).id));
  return accept(null);
}

/** Fits anew after readings were set aside or counted again, and proposes anew. */
export async function decideReadings(
  deps: Deps,
  actor: Actor,
  sessionId: string,
  which: readonly { readonly stationId: string; readonly axis: 'across' | 'along' }[],
  aside: boolean,
): Promise<Outcome<null, UseCaseRefusal>> {
  const found = await openOr(deps, sessionId);
  if (!found.ok) return found;
  const pass = currentPass(found.value);
  const named = (r: StoredReading): boolean =>
    which.some((w) => w.stationId === r.stationId && w.axis === r.axis);
  const readings = pass.readings.map((r) => (named(r) ? { ...r, setAsideBy: aside ? actor : null } : r));
  if (!assess(found.value, { ...pass, readings }))
    return refuse({
      code: 'refused',
      message: 'Too few readings would be left. Read another station first.',
    });
  for (const { stationId, axis } of which) {
    const done = await setReadingAside(deps, actor, pass.id, stationId, axis, aside);
    if (!done.ok) return done;
  }
  const again = await finishReading(deps, sessionId);
  return again.ok ? accept(null) : again;
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
  const strip = session.kind === 'roll-proof';
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
        outcome: strip ? null : (assessment?.state ?? null),
        outcomeR95Mm: strip ? null : (assessment?.r95Mm ?? null),
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
