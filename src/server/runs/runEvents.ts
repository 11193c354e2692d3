import { CHECK_PLACES, type RunEventKind } from '@/core/setup';
import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { runEvents, runs } from '@/db/schema';
import { type Done, type Actor, type Deps } from '@/server/base/deps';
import { idSchema, sectionIndex } from '@/server/base/shapes';

import { UNDOABLE } from './run';
import { runStep, OPEN_RUN } from './step';

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
export const registerAnew = runStep(
  z.object({ runId: idSchema, before: sectionIndex }),
  { act: 'register', allowed: OPEN_RUN },
  async (inner, run, { runId, before }, actor): Done => {
    if (!run.sections[before - 1]) return refuse({ code: 'not-found', what: `section ${before}` });
    await note(inner, actor, runId, 'registered', before);
    return accept(null);
  },
);

export const slipSchema = z.object({
  runId: idSchema,
  axis: z.enum(['along', 'across']),
  section: z.int().min(1),
  place: z.enum(CHECK_PLACES),
  sizeMm: z.number().min(-30, 'A slip is read within 30 mm.').max(30, 'A slip is read within 30 mm.'),
});

/** A slip is taken as it is: the files of the sections to come make up for it. */
export const keepSlip = runStep(
  slipSchema,
  { act: 'keep slip', allowed: OPEN_RUN },
  async (inner, run, { runId, axis, section, place, sizeMm }, actor): Done => {
    if (!run.sections[section - 1]) return refuse({ code: 'not-found', what: `section ${section}` });
    await note(inner, actor, runId, 'slip-kept', section, { axis, section, place, sizeMm });
    return accept(null);
  },
);

/** Takes a registration, a kept slip or a laminate back: it stays in the log and counts no more. */
export const undoEvent = runStep(
  z.object({ runId: idSchema, eventId: idSchema }),
  { act: 'undo', allowed: OPEN_RUN },
  async (inner, run, { runId, eventId }, actor): Done => {
    const event = run.events.find((e) => e.id === eventId);
    if (!event || !UNDOABLE.some((kind) => kind === event.kind))
      return refuse({ code: 'not-found', what: 'step of this run to undo' });
    if (event.undone) return accept(null);
    await note(inner, actor, runId, 'undone', event.section, { undoes: eventId });
    return accept(null);
  },
);

export const laminateSchema = z.object({
  runId: z.uuid(),
  from: z.int().min(1),
  nominalMm: z.number().min(50, 'Measure at least 50 mm, better the whole mark spacing.').max(60_000),
  measuredMm: z.number().min(50, 'Measure at least 50 mm, better the whole mark spacing.').max(60_000),
});

/** Mark spacing measured again after laminating: the sections from here on are cut longer or shorter by it. */
export const laminate = runStep(
  laminateSchema,
  { act: 'laminate', allowed: OPEN_RUN },
  async (inner, run, { runId, from, nominalMm, measuredMm }, actor): Done<{ stretch: number }> => {
    const stretch = measuredMm / nominalMm;
    if (Math.abs(stretch - 1) > 0.02)
      return refuse({
        code: 'invalid-input',
        fields: {
          measuredMm: `That would be ${((stretch - 1) * 100).toFixed(1)} %: laminate stretches by a few tenths of a percent at most. Measure both again.`,
        },
      });
    if (!run.sections[from - 1]) return refuse({ code: 'not-found', what: `section ${from}` });
    await note(inner, actor, runId, 'laminated', from, { nominalMm, measuredMm, uMm: 0.2, stretch });
    return accept({ stretch });
  },
);

export const pauseRun = runStep(
  z.object({ runId: idSchema, rest: z.boolean() }),
  { act: 'rest', allowed: OPEN_RUN },
  async (inner, run, { runId, rest }, actor): Done => {
    if (run.stage !== (rest ? 'running' : 'paused')) return accept(null);
    await inner.db
      .update(runs)
      .set({ stage: rest ? 'paused' : 'running' })
      .where(eq(runs.id, runId));
    await note(inner, actor, runId, rest ? 'paused' : 'resumed');
    return accept(null);
  },
);
