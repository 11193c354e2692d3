import { createHash } from 'node:crypto';

import { and, eq, isNull } from 'drizzle-orm';

import type { Assessment } from '@/core/calibration';
import { FIT_VERSION } from '@/core/fit';
import { IDENTITY, compose } from '@/core/geometry';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { corrections, fits, passes, proofSheets, sessions } from '@/db/schema';

import { onSession, type Stamp } from '@/server/base/step';
import type { Actor, Deps, UseCaseRefusal } from '@/server/base/deps';
import { openSession, storedFingerprint } from './loadSession';
import { setAside } from './readings';
import type { SheetOptions } from './shapes';
import {
  assess,
  currentPass,
  OPEN_STAGES,
  passReadings,
  settingsAtCut,
  type Pass,
  type Session,
  type Stage,
  type StoredReading,
} from './session';
import { changeSheet } from './sheets';
import { valuesOf } from './startSession';

/* The walk of a session, step by step: print, read, prove, close. Each step is locked (`onSession`). */

type Done<T = null> = Promise<Outcome<T, UseCaseRefusal>>;

const setStage = (deps: Deps, sessionId: string, stage: Stage) =>
  deps.db.update(sessions).set({ stage }).where(eq(sessions.id, sessionId));

/** Lays out the unprinted sheet of a session anew. */
export function changeSessionSheet(
  deps: Deps,
  actor: Actor,
  sessionId: string,
  options: SheetOptions,
  stamp: Stamp = {},
): Done {
  const step = { ...stamp, act: 'lay out', allowed: OPEN_STAGES };
  return onSession(deps, actor, sessionId, step, async (inner, session) => {
    const changed = await changeSheet(inner, session.rig, options, currentPass(session).sheet.id);
    return changed.ok ? accept(null) : changed;
  });
}

/** “Printed and cut”: the sheet is frozen, and the settings of this moment belong to the pass. */
export function markPrinted(deps: Deps, actor: Actor, sessionId: string, stamp: Stamp = {}): Done {
  const step = { ...stamp, act: 'print', allowed: ['print', 'prove'] as const };
  return onSession(deps, actor, sessionId, step, async (inner, session) => {
    const pass = currentPass(session);
    // A set that has been read was cut before: what it was cut with is on record and stays so.
    if (pass.readings.length > 0)
      return refuse({
        code: 'stale',
        message: `Sheet ${pass.sheet.label} is on record as printed and cut already. Go on with its readings.`,
      });
    await inner.db
      .update(proofSheets)
      .set({ printedAt: deps.now(), printedBy: actor })
      .where(and(eq(proofSheets.id, pass.sheet.id), isNull(proofSheets.printedAt)));
    await inner.db
      .update(passes)
      .set({ settingsAtCut: valuesOf(session.rig), recipe: session.rig.recipe })
      .where(eq(passes.id, pass.id));
    await setStage(inner, sessionId, 'read');
    return accept(null);
  });
}

const TOO_FEW: UseCaseRefusal = {
  code: 'refused',
  message: 'Read both combs of at least one station first.',
};

export interface ReadingDone {
  readonly stage: Stage;
  readonly rigId: string;
}

/** Fits the current pass for the record and proposes what to change. Pressed by two at once it is done once. */
export function finishReading(
  deps: Deps,
  actor: Actor,
  sessionId: string,
  stamp: Stamp = {},
): Done<ReadingDone> {
  const step = { ...stamp, act: 'finish reading', allowed: ['read', 'correct', 'prove'] as const };
  return onSession(deps, actor, sessionId, step, async (inner, session) => {
    if (session.stage !== 'read' && !currentPass(session).correction) return refuse(TOO_FEW);
    return concludeReading(inner, actor, session);
  });
}

async function concludeReading(deps: Deps, actor: Actor, session: Session): Done<ReadingDone> {
  const pass = currentPass(session);
  const assessment = assess(session, pass);
  if (!assessment) return refuse(TOO_FEW);
  const strip = session.kind === 'roll-proof';
  const stage: Stage = strip ? 'closed' : pass.purpose === 'measure' ? 'correct' : 'prove';
  await storeFit(deps, session, pass, assessment);
  // A strip tells about drift; it is no verdict on the rig, and there is nothing to prove.
  if (strip)
    await deps.db
      .update(sessions)
      .set({ stage, closedAt: deps.now(), closedBy: actor, ...asItIs(session) })
      .where(eq(sessions.id, session.id));
  else await setStage(deps, session.id, stage);
  return accept({ stage, rigId: session.rig.id });
}

/** Keeps a fit with its inputs and the correction it proposes; the same readings are not fitted twice. */
async function storeFit(deps: Deps, session: Session, pass: Pass, a: Assessment): Promise<void> {
  const settings = settingsAtCut(session, pass).map(({ id, name, value, step, unit, effectU }) => ({
    id,
    name,
    value,
    step,
    unit,
    effectU,
  }));
  const fingerprint = createHash('sha256')
    .update(
      JSON.stringify([
        FIT_VERSION,
        a.plan.version,
        pass.readings.map((r) => [r.id, r.setAsideBy !== null]),
        settings,
        session.rig.toleranceMm,
      ]),
    )
    .digest('hex');
  const before = await storedFingerprint(deps, pass.id);
  if (before?.fingerprint === fingerprint && before.done === null) return;
  const [fit] = await deps.db
    .insert(fits)
    .values({
      passId: pass.id,
      version: FIT_VERSION,
      recommended: a.ladder.recommended!,
      widest: a.ladder.widest!,
      inputs: {
        fingerprint,
        observations: passReadings(pass).map((r) => r.observation),
        setAside: pass.readings.filter((r) => r.setAsideBy !== null),
        workArea: pass.sheet.geometry.spec.workArea,
        settings,
        toleranceMm: session.rig.toleranceMm,
        scatter: a.scatter,
        pooling: a.pooling,
        estimate: a.pooling === 'joined' ? a.estimate : null,
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

/** What a check bar was measured to be; null takes it back. */
export function saveBars(
  deps: Deps,
  actor: Actor,
  sessionId: string,
  bars: { readonly acrossMm: number | null; readonly alongMm: number | null },
  stamp: Stamp = {},
): Done {
  const step = { ...stamp, act: 'bars', allowed: OPEN_STAGES };
  return onSession(deps, actor, sessionId, step, async (inner, session) => {
    await inner.db
      .update(passes)
      .set({ barAcrossMm: bars.acrossMm, barAlongMm: bars.alongMm })
      .where(eq(passes.id, currentPass(session).id));
    return accept(null);
  });
}

/** Fits anew after readings were set aside or counted again, and proposes anew. */
export function decideReadings(
  deps: Deps,
  actor: Actor,
  sessionId: string,
  which: readonly { readonly stationId: string; readonly axis: 'across' | 'along' }[],
  aside: boolean,
  stamp: Stamp = {},
): Done {
  const step = { ...stamp, act: 'decide on readings', allowed: ['correct', 'prove'] as const };
  return onSession(deps, actor, sessionId, step, async (inner, session) => {
    const pass = currentPass(session);
    const named = (r: StoredReading): boolean =>
      which.some((w) => w.stationId === r.stationId && w.axis === r.axis);
    const readings = pass.readings.map((r) => (named(r) ? { ...r, setAsideBy: aside ? actor : null } : r));
    const decided = { ...session, passes: [...session.passes.slice(0, -1), { ...pass, readings }] };
    if (!assess(decided, currentPass(decided)))
      return refuse({
        code: 'refused',
        message: 'Too few readings would be left. Read another station first.',
      });
    for (const one of which) {
      const found = await setAside(inner, actor, pass.id, one, aside);
      if (!found) return refuse({ code: 'not-found', what: 'reading' });
    }
    const again = await concludeReading(inner, actor, decided);
    return again.ok ? accept(null) : again;
  });
}

/** The proof was not good enough: its readings are the next measurement. */
export function goRoundAgain(deps: Deps, actor: Actor, sessionId: string, stamp: Stamp = {}): Done {
  const step = { ...stamp, act: 'go round again', allowed: ['prove'] as const };
  return onSession(deps, actor, sessionId, step, async (inner, session) => {
    if (!assess(session, currentPass(session))) return refuse(TOO_FEW);
    await setStage(inner, sessionId, 'correct');
    return accept(null);
  });
}

/** Back to the readings of the current pass, to mend one. */
export function reopenReading(deps: Deps, actor: Actor, sessionId: string, stamp: Stamp = {}): Done {
  const step = { ...stamp, act: 'back to reading', allowed: ['read', 'correct', 'prove'] as const };
  return onSession(deps, actor, sessionId, step, async (inner, session) => {
    if (currentPass(session).readings.length === 0)
      return refuse({
        code: 'refused',
        message: 'Nothing was read of this set yet. Say that it is cut first.',
      });
    await setStage(inner, sessionId, 'read');
    return accept(null);
  });
}

/** What a closed session goes on saying, however the rig is described later. */
const asItIs = ({ rig }: Session) => ({ mediaThen: rig.media, toleranceThenMm: rig.toleranceMm });

/** Closes a session with what its newest readings say; without readings it is given up. */
export function closeSession(deps: Deps, actor: Actor, sessionId: string, stamp: Stamp = {}): Done {
  const step = { ...stamp, act: 'close', allowed: OPEN_STAGES };
  return onSession(deps, actor, sessionId, step, async (inner, session) => {
    const pass = [...session.passes].reverse().find((p) => p.readings.length > 0);
    const assessment = pass ? assess(session, pass) : null;
    const strip = session.kind === 'roll-proof';
    // What was measured before a correction says nothing about the rig after it.
    const unproved = pass !== undefined && pass !== currentPass(session);
    const told = strip || unproved ? null : assessment;
    if (pass?.correction && pass.correction.done === null)
      await inner.db
        .update(corrections)
        .set({ done: 'leave', doneBy: actor, doneAt: deps.now() })
        .where(eq(corrections.id, pass.correction.id));
    await inner.db
      .update(sessions)
      .set({
        stage: 'closed',
        closedAt: deps.now(),
        closedBy: actor,
        outcome: told?.state ?? null,
        outcomeR95Mm: told?.r95Mm ?? null,
        unproved,
        ...asItIs(session),
      })
      .where(eq(sessions.id, sessionId));
    return accept(null);
  });
}

/** Started by mistake: it says nothing about the rig and is in nobody’s way; the log keeps it as discarded. */
export function discardSession(deps: Deps, actor: Actor, sessionId: string, stamp: Stamp = {}): Done {
  const step = { ...stamp, act: 'discard', allowed: OPEN_STAGES };
  return onSession(deps, actor, sessionId, step, async (inner, session) => {
    if (session.passes.some((p) => p.correction?.done && p.correction.done !== 'leave'))
      return refuse({
        code: 'refused',
        message:
          'A correction of this session is in use already. Close it instead, so that the log tells why.',
      });
    await inner.db
      .update(sessions)
      .set({ stage: 'closed', closedAt: deps.now(), closedBy: actor, discarded: true, ...asItIs(session) })
      .where(eq(sessions.id, sessionId));
    return accept(null);
  });
}

/** Opens a session that was closed or discarded by mistake again. */
export function undoClose(deps: Deps, actor: Actor, sessionId: string, stamp: Stamp = {}): Done {
  const step = { ...stamp, act: 'open again', allowed: ['closed'] as const };
  return onSession(deps, actor, sessionId, step, async (inner, session) => {
    if (session.rig.archived)
      return refuse({ code: 'refused', message: 'This rig is off the bench. Put it back first.' });
    if (await openSession(inner, session.rig.id, session.kind))
      return refuse({
        code: 'refused',
        message: 'Another session of this rig has been opened since. Close that one first.',
      });
    await inner.db
      .update(sessions)
      .set({
        stage: stageToGoOn(currentPass(session)),
        closedAt: null,
        closedBy: null,
        outcome: null,
        outcomeR95Mm: null,
        discarded: false,
        unproved: false,
        mediaThen: null,
        toleranceThenMm: null,
      })
      .where(eq(sessions.id, sessionId));
    return accept(null);
  });
}

function stageToGoOn(pass: Pass): Stage {
  if (pass.readings.length > 0) return 'read';
  return pass.set === 2 ? 'prove' : 'print';
}
