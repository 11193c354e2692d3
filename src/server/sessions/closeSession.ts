import { eq } from 'drizzle-orm';

import type { Assessment } from '@/core/calibration';
import { accept, refuse } from '@/core/outcome';
import { standingAfter, OPEN_STAGES, type Stage } from '@/core/setup';
import { corrections, sessions } from '@/db/schema';
import type { Done, Actor, Deps } from '@/server/base/deps';

import { holdSetup } from '@/server/setups/holdSetup';
import { replaceStanding, standingOf, undoStanding } from '@/server/setups/standing';
import { idSchema } from '@/server/base/shapes';

import { openSession } from './loadSession';
import { currentPass, type Pass, type Session } from './session';
import { assess } from './assess';
import { sessionStep } from './step';

/** What a set proposed and nobody carried out is left alone. */
export const leaveIt = async (deps: Deps, { correction }: Pass, actor: Actor): Promise<void> => {
  if (correction?.done === null)
    await deps.db
      .update(corrections)
      .set({ done: 'leave', doneBy: actor, doneAt: deps.now() })
      .where(eq(corrections.id, correction.id));
};

/** What a closed session goes on saying, however the rig is described later. */
export const asItIs = ({ setup }: Session) => ({
  mediaThen: setup.media,
  toleranceThenMm: setup.toleranceMm,
});

/**
 * Closes a session with what its newest readings say; without readings it is given up. A correction that was proved is
 * the setup’s standing one from then on; one that was not only when it is accepted as it is.
 */
const closing = (accepted: boolean) =>
  sessionStep(idSchema, { act: 'close', allowed: OPEN_STAGES }, (inner, session, _, actor): Done =>
    closeNow(inner, session, actor, accepted),
  );

/** The same for a step that holds the session. */
export async function closeNow(inner: Deps, session: Session, actor: Actor, accepted: boolean): Done {
  const sessionId = session.id;
  const pass = [...session.passes].reverse().find((p) => p.readings.length > 0);
  const assessment = pass ? assess(session, pass) : null;
  const strip = session.kind === 'roll-proof';
  // What was measured before a correction says nothing about the rig after it.
  const older = pass !== undefined && pass !== currentPass(session);
  // One axis alone is no verdict on the rig.
  const told = strip || older || !assessment?.state ? null : assessment;
  const unproved = corrected(session) && (older || (assessment !== null && !assessment.state));
  if (pass) await leaveIt(inner, pass, actor);
  await inner.db
    .update(sessions)
    .set({
      stage: 'closed',
      closedAt: inner.now(),
      closedBy: actor,
      outcome: told?.state ?? null,
      outcomeR95Mm: told?.r95Mm ?? null,
      outcomeLoads: told?.scatter.from ?? null,
      unproved,
      ...asItIs(session),
    })
    .where(eq(sessions.id, sessionId));
  // One place of a quick check, and a strip, prove no correction.
  if (session.kind === 'calibration') await letStand(inner, actor, session, told, accepted);
  return accept(null);
}
export const closeSession = closing(false);
/** With the new correction standing, though no proof says that it holds. */
export const closeAccepting = closing(true);

/** A correction of this session was carried out. */
const corrected = ({ passes }: Session): boolean =>
  passes.some((p) => p.correction?.done && p.correction.done !== 'leave');

/** What the setup’s settings shall show and its files carry after this session. */
async function letStand(
  deps: Deps,
  actor: Actor,
  session: Session,
  told: Assessment | null,
  accepted: boolean,
): Promise<void> {
  const { setup } = session;
  const last = currentPass(session);
  const done = session.passes.findLast((p) => p.correction?.done && p.correction.done !== 'leave');
  if (told === null && !done) return;
  const ended = {
    settings: last.settingsAtCut,
    fileTransform: last.fileTransform,
    corrected: done !== undefined,
    outcome: told?.state ?? null,
  };
  const steps = Object.fromEntries(setup.settings.map((s) => [s.id, s.step]));
  const next = standingAfter(standingOf(setup), ended, steps, accepted);
  if (!next) return;
  await replaceStanding(deps, actor, setup.id, ended, {
    source: next.source,
    sessionId: session.id,
    correctionId: done?.correction?.id ?? null,
    r95Mm: told?.r95Mm ?? null,
  });
}

/** Started by mistake: it says nothing about the rig and is in nobody’s way; the log keeps it as discarded. */
export const discardSession = sessionStep(
  idSchema,
  { act: 'discard', allowed: OPEN_STAGES },
  async (inner, session, sessionId, actor): Done => {
    if (session.passes.some((p) => p.correction?.done && p.correction.done !== 'leave'))
      return refuse({
        code: 'refused',
        message:
          'A correction of this session is in use already. Close it instead, so that the log tells why.',
      });
    await inner.db
      .update(sessions)
      .set({ stage: 'closed', closedAt: inner.now(), closedBy: actor, discarded: true, ...asItIs(session) })
      .where(eq(sessions.id, sessionId));
    return accept(null);
  },
);

/** Opens a session that was closed or discarded by mistake again. */
export const undoClose = sessionStep(
  idSchema,
  { act: 'open again', allowed: ['closed'] },
  async (inner, session, sessionId): Done => {
    const held = await holdSetup(inner, session.setup.id);
    if (!held.ok) return held;
    if (await openSession(inner, session.setup.id, session.kind))
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
        outcomeLoads: null,
        discarded: false,
        unproved: false,
        mediaThen: null,
        toleranceThenMm: null,
      })
      .where(eq(sessions.id, sessionId));
    await undoStanding(inner, session.setup.id, sessionId);
    return accept(null);
  },
);

function stageToGoOn(pass: Pass): Stage {
  if (pass.readings.length > 0) return 'read';
  return pass.set === 2 ? 'prove' : 'print';
}
