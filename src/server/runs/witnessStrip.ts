import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { pagesToPdf } from '@/core/drawing/pdf/pages';
import { pageSvg } from '@/core/drawing/svg/writeSvg';
import { stripRefusalText, stripPrint, stripXMm, STRIP_PLACES, type StripStation } from '@/core/layout';
import { accept, refuse, type Outcome } from '@/core/outcome';
import type { StripRefusal } from '@/core/layout/witnessStrip';
import { coarseOffset, nearestLengths, pickOffsetMm, type LineComb } from '@/core/comb';
import { COARSE_REACH_MM } from '@/core/tolerance';
import { runs } from '@/db/schema';
import { type Done } from '@/server/base/deps';
import { idSchema } from '@/server/base/shapes';

import { keepCheck } from './checks';
import { refusedRun, type Run } from './run';
import { witnessesIn } from './sectionFile';
import { runStep, OPEN_RUN } from './step';

/* The witness strip of a run: put beside its rows, printed and cut with each section, read like any comb. */

/** Where the strip of a run would stand, or why there is no room for one. */
export const stripOf = ({ plan, setup }: Run): Outcome<number, StripRefusal> =>
  stripXMm(plan.imposition, plan.request.printableWidthMm, setup.marks);

/** Whether the strip can still be put in or left out: not once a section is cut. */
export const stripIsOpen = ({ sections }: Run): boolean => sections.every((s) => s.state === 'waiting');

/** Puts the strip beside the rows, or leaves it out again. */
export const setStrip = runStep(
  z.object({ runId: idSchema, on: z.boolean() }),
  { act: 'witness strip', allowed: OPEN_RUN },
  async (inner, run, { runId, on }): Done => {
    if (!stripIsOpen(run))
      return refusedRun('A section of this run is cut already: its witness strip stays as it is.');
    const place = stripOf(run);
    if (on && !place.ok) return refusedRun(stripRefusalText(place.refusal));
    await inner.db
      .update(runs)
      .set({ witnessXMm: on && place.ok ? place.value : null })
      .where(eq(runs.id, runId));
    return accept(null);
  },
);

const pageOf = ({ plan, label, name }: Run, index: number) => {
  const { startMm, endMm } = plan.sections[index - 1]!;
  return {
    ...{ widthMm: plan.request.printableWidthMm, heightMm: endMm - startMm },
    title: `Run ${label}, ${name}: witnesses of section ${index}`,
  };
};

/** The print layer of a section's witnesses, to be laid over its art at its leading mark. */
export const stripSvg = (run: Run, index: number): string =>
  pageSvg(stripPrint(witnessesIn(run, index), pageOf(run, index)));

/** The same of all sections, a page each. */
export const stripPdf = (run: Run): Promise<Buffer> =>
  pagesToPdf(
    run.sections.map(({ index }) => ({
      drawing: stripPrint(witnessesIn(run, index), pageOf(run, index)),
      pictures: [],
    })),
  );

const pick = z.object({
  line: z.int().min(-40).max(40),
  between: z.boolean(),
  /** Where the cross was read, mm; null where it was not: then the cut is within half a comb of its print. */
  coarseMm: z
    .number()
    .min(-COARSE_REACH_MM - 1)
    .max(COARSE_REACH_MM + 1)
    .nullable(),
});

const witnessSchema = z
  .object({
    runId: z.uuid(),
    section: z.int().min(1),
    place: z.enum(STRIP_PLACES),
    across: pick.nullable(),
    along: pick.nullable(),
    replaces: z.array(z.uuid()).max(20).default([]),
  })
  .refine((w) => w.across !== null || w.along !== null, {
    path: ['along'],
    message: 'Read at least one comb of the witness.',
  });

/** What a pick says; with no cross, the one of its whole lengths that lies nearest to the print. */
function offsetOf(comb: LineComb, read: z.output<typeof pick> | null): number | null {
  if (read === null) return null;
  const { line, between, coarseMm } = read;
  const rough = coarseMm === null ? { offsetMm: 0, uMm: 0 } : coarseOffset(coarseMm);
  return pickOffsetMm(comb, { line, between, lengths: nearestLengths(comb, line, between, rough) });
}

/** Keeps a witness as a check of its row. */
export const saveStripWitness = runStep(
  witnessSchema,
  { act: 'read witness', allowed: OPEN_RUN },
  async (inner, run, { runId, section, place, across, along, replaces }, actor): Done => {
    const own = run.sections[section - 1];
    if (!own) return refuse({ code: 'not-found', what: `section ${section} of this run` });
    if (own.state === 'waiting')
      return refusedRun(`Section ${section} is not cut yet. Say that it is cut, then read its witness.`);
    const station: StripStation | undefined = witnessesIn(run, section).find((s) => s.place === place);
    if (!station) return refuse({ code: 'not-found', what: `witness at the ${place} of section ${section}` });
    for (const [axis, read] of [
      ['across', across],
      ['along', along],
    ] as const)
      if (read && Math.abs(read.line) > station[axis].halfLines + 1)
        return refuse({ code: 'invalid-input', fields: { [axis]: 'This comb has no such line.' } });
    await keepCheck(inner, actor, runId, {
      ...{ section, place, way: 'comb', replaces },
      yMm: run.plan.sections[section - 1]!.startMm + station.centre.y,
      dxMm: offsetOf(station.across, across),
      dyMm: offsetOf(station.along, along),
    });
    return accept(null);
  },
);
