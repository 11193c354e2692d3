import { OPEN_STAGES, type Stage } from '@/core/setup';
import { eq } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import { z } from 'zod';

import { withoutBacklash, type Assessment } from '@/core/calibration';
import { FIT_VERSION } from '@/core/fit';
import { compose, IDENTITY } from '@/core/geometry';
import { accept, refuse } from '@/core/outcome';
import { corrections, fits, passes, sessions } from '@/db/schema';
import type { Done, Actor, Deps, UseCaseRefusal } from '@/server/base/deps';

import { asItIs } from './closeSession';
import { storedFingerprint } from './loadSession';
import { setStage } from './printSheet';
import { setAside, combSchema } from './readings';
import {
  currentPass,
  type Pass,
  passReadings,
  type Session,
  settingsAtCut,
  type StoredReading,
} from './session';
import { assess } from './assess';
import { keepFound } from '@/server/watch/foundTerms';
import { idSchema } from '@/server/base/shapes';

import { barSchema } from './shapes';
import { sessionStep } from './step';

const TOO_FEW: UseCaseRefusal = {
  code: 'refused',
  message: 'Read at least one comb first.',
};

export interface ReadingDone {
  readonly stage: Stage;
  readonly setupId: string;
}

/** Fits the current pass for the record and proposes what to change. Pressed by two at once it is done once. */
export const finishReading = sessionStep(
  idSchema,
  { act: 'finish reading', allowed: ['read', 'correct', 'prove'] },
  async (inner, session, _, actor): Done<ReadingDone> => {
    if (session.stage !== 'read' && !currentPass(session).correction) return refuse(TOO_FEW);
    return concludeReading(inner, actor, session);
  },
);

/** Fits what was read and proposes what to change: for a step that holds the session. */
export async function concludeReading(deps: Deps, actor: Actor, session: Session): Done<ReadingDone> {
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
  return accept({ stage, setupId: session.setup.id });
}

/** Keeps a fit with its inputs and the correction it proposes; the same readings are not fitted twice. */
async function storeFit(deps: Deps, session: Session, pass: Pass, a: Assessment): Promise<void> {
  const settings = settingsAtCut(session, pass).map(
    ({ id, name, value, step, unit, direction, directionKnown, effectU }) => ({
      ...{ id, name, value, step, unit, direction, effectU },
      // What nobody knows the way of takes no part; once it is told, the figures are worked out anew.
      ...(directionKnown ? {} : { directionKnown }),
    }),
  );
  const fingerprint = createHash('sha256')
    .update(
      JSON.stringify([
        FIT_VERSION,
        a.plan.version,
        pass.readings.map((r) => [r.id, r.setAsideBy !== null]),
        pass.lengths.map((l) => l.id),
        settings,
        session.setup.toleranceMm,
        ...(session.acuityMm === null ? [] : [session.acuityMm]),
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
        observations: withoutBacklash(passReadings(session, pass), a.backlash).map((r) => r.observation),
        setAside: pass.readings.filter((r) => r.setAsideBy !== null),
        workArea: pass.sheet.geometry.spec.workArea,
        settings,
        toleranceMm: session.setup.toleranceMm,
        scatter: a.scatter,
        pooling: a.pooling,
        estimate: a.pooling === 'joined' || pass.lengths.length > 0 ? a.estimate : null,
        fromLog: a.fromLog,
        acuityMm: session.acuityMm,
        axis: a.axis,
        lengths: pass.lengths,
        backlash: a.backlash,
      },
      result: a.ladder,
      createdAt: deps.now(),
    })
    .returning({ id: fits.id });
  const widest = a.ladder.models[a.ladder.widest!];
  // Of one axis alone nothing is put beside what whole loads found.
  if (session.kind !== 'roll-proof' && widest.status === 'ok' && !a.axis)
    await keepFound(
      deps,
      { id: pass.id, sessionId: session.id, setupId: session.setup.id, position: pass.position },
      {
        model: a.ladder.widest!,
        terms: widest.terms,
        file: pass.fileTransform,
        shown: pass.settingsAtCut,
        workArea: pass.sheet.geometry.spec.workArea,
      },
    );
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
export const saveBars = sessionStep(
  z.object({
    sessionId: idSchema,
    acrossMm: barSchema.nullable(),
    alongMm: barSchema.nullable(),
  }),
  { act: 'bars', allowed: OPEN_STAGES },
  async (inner, session, { acrossMm, alongMm }): Done => {
    await inner.db
      .update(passes)
      .set({ barAcrossMm: acrossMm, barAlongMm: alongMm })
      .where(eq(passes.id, currentPass(session).id));
    return accept(null);
  },
);

/** Fits anew after readings were set aside or counted again, and proposes anew. */
export const decideReadings = sessionStep(
  z.object({ sessionId: idSchema, which: z.array(combSchema).min(1).max(200), aside: z.boolean() }),
  { act: 'decide on readings', allowed: ['correct', 'prove'] },
  async (inner, session, { which, aside }, actor): Done => {
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
  },
);

/** The proof was not good enough: its readings are the next measurement. */
export const goRoundAgain = sessionStep(
  idSchema,
  { act: 'go round again', allowed: ['prove'] },
  async (inner, session, sessionId): Done => {
    if (!assess(session, currentPass(session))) return refuse(TOO_FEW);
    await setStage(inner, sessionId, 'correct');
    return accept(null);
  },
);

/** Back to the readings of the current pass, to mend one. */
export const reopenReading = sessionStep(
  idSchema,
  { act: 'back to reading', allowed: ['read', 'correct', 'prove'] },
  async (inner, session, sessionId): Done => {
    if (currentPass(session).readings.length === 0)
      return refuse({
        code: 'refused',
        message: 'Nothing was read of this set yet. Say that it is cut first.',
      });
    await setStage(inner, sessionId, 'read');
    return accept(null);
  },
);
