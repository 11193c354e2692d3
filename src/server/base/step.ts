import { type RunStage, type Stage } from '@/core/setup';
import { eq, sql } from 'drizzle-orm';
import { z } from 'zod';

import { refuse, type Outcome } from '@/core/outcome';
import { runs, sessions } from '@/db/schema';

import type { Actor, Deps, UseCaseRefusal } from './deps';
import { getSession } from '@/server/sessions/loadSession';
import { getRun } from '@/server/runs/repository';
import { RUN_NOT_FOUND, type Run } from '@/server/runs/run';
import { CLOSED, NOT_FOUND, type Session } from '@/server/sessions/session';

import { answeredBefore, keep, requestNumberSchema, type Act } from './act';

/** What a page sends along with a step: its own number, and the version of what it showed. */
export const stampSchema = z.object({
  request: requestNumberSchema.optional(),
  version: z.int().positive().optional(),
});
export type Stamp = z.output<typeof stampSchema>;

const OUT_OF_DATE = {
  code: 'stale',
  message:
    'Somebody went on with this in the meantime. The page shows what is so now: look, then press again.',
} as const;

interface Step<S extends string> extends Stamp {
  readonly act: string;
  /** The stages in which this may be done. */
  readonly allowed: readonly S[];
  /** It adds a record and changes nothing that a page shows or decides by. */
  readonly quiet?: boolean;
}

/**
 * One step on a session: the row is locked, its stage and version are checked, and what the step writes is kept as a
 * whole or not at all.
 */
export function onSession<T>(
  deps: Deps,
  actor: Actor,
  sessionId: string,
  { act, allowed, version, request }: Step<Stage>,
  work: (inner: Deps, session: Session) => Promise<Outcome<T, UseCaseRefusal>>,
): Promise<Outcome<T, UseCaseRefusal>> {
  return keep(deps, actor, { act: `session ${act}`, subjectId: sessionId, request }, async (inner) => {
    const [locked] = await inner.db
      .select({ version: sessions.version })
      .from(sessions)
      .where(eq(sessions.id, sessionId))
      .for('update');
    const session = locked && (await getSession(inner, sessionId));
    if (!session) return refuse(NOT_FOUND);
    if (session.stage === 'closed' && !allowed.includes('closed')) return refuse(CLOSED);
    if (version !== undefined && version !== locked.version) return refuse(OUT_OF_DATE);
    if (!allowed.includes(session.stage)) return refuse(OUT_OF_DATE);
    const done = await work(inner, session);
    if (done.ok)
      await inner.db
        .update(sessions)
        .set({ version: sql`${sessions.version} + 1`, changes: sql`${sessions.changes} + 1` })
        .where(eq(sessions.id, sessionId));
    return done;
  });
}

export const OPEN_RUN: readonly RunStage[] = ['release', 'running', 'paused'];
const RUN_CLOSED = {
  code: 'refused',
  message: 'This run is closed. Open it again on its page to change it.',
} as const;

const runAct = ({ act, request }: Step<RunStage>, subjectId: string): Act => ({
  act: `run ${act}`,
  ...{ subjectId, request },
});

/** One step on a run, in the same way. Two tablets work on different sections of it: only some steps name a version. */
export function onRun<T>(
  deps: Deps,
  actor: Actor,
  runId: string,
  step: Step<RunStage>,
  work: (inner: Deps, run: Run) => Promise<Outcome<T, UseCaseRefusal>>,
): Promise<Outcome<T, UseCaseRefusal>> {
  const { allowed, version, quiet = false } = step;
  return keep(deps, actor, runAct(step, runId), async (inner) => {
    const [locked] = await inner.db
      .select({ version: runs.version })
      .from(runs)
      .where(eq(runs.id, runId))
      .for('update');
    const run = locked && (await getRun(inner, runId));
    if (!run) return refuse(RUN_NOT_FOUND);
    if (version !== undefined && version !== locked.version) return refuse(OUT_OF_DATE);
    if (!allowed.includes(run.stage)) return refuse(refusedStage(run.stage));
    const done = await work(inner, run);
    if (done.ok && !quiet)
      await inner.db
        .update(runs)
        .set({ version: sql`${runs.version} + 1` })
        .where(eq(runs.id, runId));
    return done;
  });
}

/** What was worked out for a run that somebody went on with meanwhile is worked out again so often. */
const TRIES = 5;

/**
 * The same for a step with something heavy in it: that is worked out first, while nothing is held. It counts only where
 * what it goes by (`basis`) is still the same once the row is locked.
 */
export async function onRunWith<P, T>(
  deps: Deps,
  actor: Actor,
  runId: string,
  step: Step<RunStage>,
  { basis, prepare }: Preparation<P>,
  work: (inner: Deps, run: Run, prepared: P) => Promise<Outcome<T, UseCaseRefusal>>,
): Promise<Outcome<T, UseCaseRefusal>> {
  const before = await answeredBefore<T>(deps, runAct(step, runId));
  if (before) return before;
  const key = (run: Run): string => JSON.stringify(basis(run));
  for (let left = TRIES; ; left -= 1) {
    const seen = await getRun(deps, runId);
    if (!seen) return refuse(RUN_NOT_FOUND);
    if (!step.allowed.includes(seen.stage)) return refuse(refusedStage(seen.stage));
    const prepared = await prepare(seen);
    if (!prepared.ok) return prepared;
    let changed = false;
    const done = await onRun<T>(deps, actor, runId, step, async (inner, run) => {
      changed = key(run) !== key(seen);
      return changed ? refuse(OUT_OF_DATE) : work(inner, run, prepared.value);
    });
    if (!changed || left === 1) return done;
  }
}

interface Preparation<P> {
  /** All of a run that what is worked out depends on. */
  readonly basis: (run: Run) => unknown;
  readonly prepare: (run: Run) => Promise<Outcome<P, UseCaseRefusal>>;
}

function refusedStage(stage: RunStage): UseCaseRefusal {
  switch (stage) {
    case 'closed':
      return RUN_CLOSED;
    case 'release':
      return {
        code: 'refused',
        message: 'The run is not released yet. Go through its release card first.',
      };
    case 'paused':
      return { code: 'refused', message: 'The run rests. Go on with it first.' };
    case 'running':
      return OUT_OF_DATE;
    default:
      return stage satisfies never;
  }
}
