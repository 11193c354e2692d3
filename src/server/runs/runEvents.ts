import { CHECK_PLACES, type RunEventKind } from '@/core/setup';
import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { runEvents, runs } from '@/db/schema';
import { type Done, type Actor, type Deps, fieldMessages } from '@/server/base/deps';
import { onRun, OPEN_RUN, type Stamp } from '@/server/base/step';

import { UNDOABLE } from './run';

export async function note(
  deps: Deps,
  actor: Actor,
  runId: string,
  kind: RunEventKind,
  section: number | null = null,
  detail: object = {},
): Promise<void> {
  await deps.db.insert(runEvents).values({ runId, kind, section, detail, by: actor, happenedAt: deps.now() });
}

/** The cutter found its marks from scratch before a section: what went before says nothing about it any more. */
export function registerAnew(
  deps: Deps,
  actor: Actor,
  runId: string,
  before: number,
  stamp: Stamp = {},
): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'register', allowed: OPEN_RUN }, async (inner, run) => {
    if (!run.sections[before - 1]) return refuse({ code: 'not-found', what: `section ${before}` });
    await note(inner, actor, runId, 'registered', before);
    return accept(null);
  });
}

export const slipSchema = z.object({
  axis: z.enum(['along', 'across']),
  section: z.int().min(1),
  place: z.enum(CHECK_PLACES),
  sizeMm: z.number().min(-30, 'A slip is read within 30 mm.').max(30, 'A slip is read within 30 mm.'),
});

/** A slip is taken as it is: the files of the sections to come make up for it. */
export function keepSlip(
  deps: Deps,
  actor: Actor,
  runId: string,
  { axis, section, place, sizeMm }: z.output<typeof slipSchema>,
  stamp: Stamp = {},
): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'keep slip', allowed: OPEN_RUN }, async (inner, run) => {
    if (!run.sections[section - 1]) return refuse({ code: 'not-found', what: `section ${section}` });
    await note(inner, actor, runId, 'slip-kept', section, { axis, section, place, sizeMm });
    return accept(null);
  });
}

/** Takes a registration, a kept slip or a laminate back: it stays in the log and counts no more. */
export function undoEvent(deps: Deps, actor: Actor, runId: string, eventId: string, stamp: Stamp = {}): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'undo', allowed: OPEN_RUN }, async (inner, run) => {
    const event = run.events.find((e) => e.id === eventId);
    if (!event || !UNDOABLE.some((kind) => kind === event.kind))
      return refuse({ code: 'not-found', what: 'step of this run to undo' });
    if (event.undone) return accept(null);
    await note(inner, actor, runId, 'undone', event.section, { undoes: eventId });
    return accept(null);
  });
}

export const laminateSchema = z.object({
  runId: z.uuid(),
  from: z.int().min(1),
  nominalMm: z.number().min(50, 'Measure at least 50 mm, better the whole mark spacing.').max(60_000),
  measuredMm: z.number().min(50, 'Measure at least 50 mm, better the whole mark spacing.').max(60_000),
});

/** Mark spacing measured again after laminating: the sections from here on are cut longer or shorter by it. */
export async function laminate(
  deps: Deps,
  actor: Actor,
  input: unknown,
  stamp: Stamp = {},
): Done<{ stretch: number }> {
  const parsed = laminateSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { runId, from, nominalMm, measuredMm } = parsed.data;
  const stretch = measuredMm / nominalMm;
  if (Math.abs(stretch - 1) > 0.02)
    return refuse({
      code: 'invalid-input',
      fields: {
        measuredMm: `That would be ${((stretch - 1) * 100).toFixed(1)} %: laminate stretches by a few tenths of a percent at most. Measure both again.`,
      },
    });
  return onRun(deps, actor, runId, { ...stamp, act: 'laminate', allowed: OPEN_RUN }, async (inner, run) => {
    if (!run.sections[from - 1]) return refuse({ code: 'not-found', what: `section ${from}` });
    await note(inner, actor, runId, 'laminated', from, { nominalMm, measuredMm, uMm: 0.2, stretch });
    return accept({ stretch });
  });
}

export function pauseRun(deps: Deps, actor: Actor, runId: string, rest: boolean, stamp: Stamp = {}): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'rest', allowed: OPEN_RUN }, async (inner, run) => {
    if (run.stage !== (rest ? 'running' : 'paused')) return accept(null);
    await inner.db
      .update(runs)
      .set({ stage: rest ? 'paused' : 'running' })
      .where(eq(runs.id, runId));
    await note(inner, actor, runId, rest ? 'paused' : 'resumed');
    return accept(null);
  });
}
