import { and, eq } from 'drizzle-orm';

import { accept, refuse } from '@/core/outcome';
import { runSections } from '@/db/schema';
import type { Done, Actor, Deps } from '@/server/base/deps';
import { onRun, OPEN_RUN, type Stamp } from '@/server/base/step';

import { refusedRun } from './run';

/** “It is cut”: with the file of this section that was loaded, by its id, or as drawn. */
export function markSectionCut(
  deps: Deps,
  actor: Actor,
  runId: string,
  index: number,
  fileId: string | null,
  stamp: Stamp = {},
): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'cut', allowed: ['running'] }, async (inner, run) => {
    const own = run.sections[index - 1];
    if (!own) return refuse({ code: 'not-found', what: `section ${index} of this run` });
    // Said twice, by two tablets, is said once; what was cut and checked is not cut another way afterwards.
    if (own.state !== 'waiting')
      return fileId === own.fileId
        ? accept(null)
        : refusedRun(
            `Section ${index} is on record as cut ${own.fileId ? 'with another file' : 'as drawn'}. Take that back first.`,
          );
    const file = run.files.find((f) => f.id === fileId && f.section === index);
    if (fileId !== null && !file)
      return refusedRun(
        `That is no file of section ${index} of ${run.label}. Make it, cut with it, then say so.`,
      );
    const strip = file?.applied?.stripXMm;
    if (strip !== undefined && strip !== run.witnessXMm)
      return refusedRun(
        `This file was made ${strip === null ? 'before the witness strip was put in: its strip would be printed and not cut' : 'with a witness strip that was left out since: it would cut what is not printed'}. Make the section’s file anew and cut with that.`,
      );
    await setSection(inner, runId, index, {
      state: 'cut',
      applied: file?.applied ?? null,
      fileId,
      cutBy: actor,
      cutAt: deps.now(),
    });
    return accept(null);
  });
}

const setSection = (
  deps: Deps,
  runId: string,
  index: number,
  values: Partial<typeof runSections.$inferInsert>,
) =>
  deps.db
    .update(runSections)
    .set(values)
    .where(and(eq(runSections.runId, runId), eq(runSections.index, index)));

/** Takes “it is cut” back, as long as nothing was read of it. */
export function unmarkSectionCut(
  deps: Deps,
  actor: Actor,
  runId: string,
  index: number,
  stamp: Stamp = {},
): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'not cut', allowed: OPEN_RUN }, async (inner, run) => {
    if (run.checks.some((c) => c.section === index))
      return refusedRun(`Section ${index} has been checked. Take its checks back first.`);
    await setSection(inner, runId, index, {
      state: 'waiting',
      applied: null,
      fileId: null,
      cutBy: null,
      cutAt: null,
      spoiled: null,
    });
    return accept(null);
  });
}

/** Cut off and weeded: how many of its items were spoiled. */
export function finishSection(
  deps: Deps,
  actor: Actor,
  runId: string,
  index: number,
  spoiled: number,
  stamp: Stamp = {},
): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'weeded', allowed: OPEN_RUN }, async (inner, run) => {
    const section = run.plan.sections[index - 1];
    if (!section) return refuse({ code: 'not-found', what: `section ${index} of this run` });
    if (run.sections[index - 1]!.state === 'waiting') return refusedRun(`Section ${index} is not cut yet.`);
    if (!Number.isInteger(spoiled) || spoiled < 0 || spoiled > section.copies)
      return refuse({
        code: 'invalid-input',
        fields: {
          spoiled: `A whole number from 0 to ${section.copies}: so many copies are in this section.`,
        },
      });
    await setSection(inner, runId, index, { state: 'finished', spoiled });
    return accept(null);
  });
}
