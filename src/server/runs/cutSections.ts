import { and, eq } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { runSections } from '@/db/schema';
import type { Done, Deps } from '@/server/base/deps';
import { idSchema, sectionIndex } from '@/server/base/shapes';

import { refusedRun } from './run';
import { runStep, OPEN_RUN } from './step';

/** “It is cut”: with the file of this section that was loaded, by its id, or as drawn. */
export const markSectionCut = runStep(
  z.object({ runId: idSchema, section: sectionIndex, fileId: idSchema.nullable() }),
  { act: 'cut', allowed: ['running'] },
  async (inner, run, { runId, section: index, fileId }, actor): Done => {
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
      cutAt: inner.now(),
    });
    return accept(null);
  },
);

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
export const unmarkSectionCut = runStep(
  z.object({ runId: idSchema, section: sectionIndex }),
  { act: 'not cut', allowed: OPEN_RUN },
  async (inner, run, { runId, section: index }): Done => {
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
  },
);

/** Cut off and weeded: how many of its items were spoiled. */
export const finishSection = runStep(
  z.object({
    runId: idSchema,
    section: sectionIndex,
    spoiled: z.number('Enter how many were spoiled, 0 for none.'),
  }),
  { act: 'weeded', allowed: OPEN_RUN },
  async (inner, run, { runId, section: index, spoiled }): Done => {
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
  },
);
