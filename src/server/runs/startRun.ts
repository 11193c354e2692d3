import { z } from 'zod';

import { sectionFrame } from '@/core/daily';
import { compressNodes, DRIFT_VERSION } from '@/core/drift';
import { fileRefusalText } from '@/core/drawing/file';
import { planRefusalText, STRATEGIES } from '@/core/layout';
import { loadedBy } from '@/core/marks';
import { accept, refuse } from '@/core/outcome';
import { runs, runSections } from '@/db/schema';
import { type AxisKnowledge } from '@/db/stored/drift';
import { frozen } from '@/server/runs/frozenPlan';
import { keep } from '@/server/base/act';
import { type Done } from '@/server/base/deps';
import { setupDrift } from '@/server/drift/setupDrift';
import { heavy } from '@/server/heavy/pool';
import { holdSetup } from '@/server/setups/holdSetup';
import { getSetup } from '@/server/setups/repository';
import { type Setup } from '@/server/setups/setup';
import { jobOf, planRequestSchema } from '@/core/layout/planShape';
import { withShape } from '@/server/base/useCase';

import { refusedRun } from './run';
import { standingOfSections } from './standing';

/** What the rig's marks allow. */
export function rollRigOf(setup: Setup) {
  return {
    registers: setup.marks !== null,
    bothEnds: (setup.marks?.count ?? 0) >= 2,
    // Else what it was calibrated over; farther marks were never tried.
    longestMm: setup.roll.longestMm ?? setup.sheetHeightMm,
    everyMm: setup.marks?.everyMm ?? null,
    farLed: loadedBy(setup.marks).leadingEdge === 'far',
  };
}

export const newRunSchema = z.object({
  setupId: z.uuid(),
  name: z
    .string()
    .trim()
    .min(1, 'Give the job a name, for example “luggage tags”.')
    .max(60, 'At most 60 characters.'),
  strategy: z.enum(STRATEGIES),
  request: planRequestSchema,
  /** It is known that this plan breaks the promise, and wanted so. */
  spoilsAccepted: z.boolean().default(false),
  itemFile: z.string().max(4_000_000, 'A cut file of one item may have at most 4 MB here.').nullable(),
});

/** What following a run needs to know: means and variances, not the tails that planning looks at. */
const followed = (axis: AxisKnowledge): AxisKnowledge => ({ ...axis, nodes: compressNodes(axis.nodes) });

/** Plans anew from what is known now, and freezes it. */
export const startRun = withShape(
  newRunSchema,
  'start run',
  async (deps, actor, given, { request }): Done<{ runId: string }> => {
    const { setupId, name, strategy: wanted, request: planned, itemFile, spoilsAccepted } = given;
    const setup = await getSetup(deps, setupId);
    const drift = await setupDrift(deps, setupId);
    if (!setup || !drift) return refuse({ code: 'not-found', what: 'rig' });
    if (setup.archived) return refusedRun('This setup is put away. Put it back first, on its own page.');
    if (itemFile !== null) {
      const read = await heavy('checkCutFile', itemFile);
      if (!read.ok) return refusedRun(fileRefusalText(read.refusal));
    }
    const roll = await heavy('planRoll', [
      jobOf(planned),
      { along: drift.along.nodes, across: drift.across.nodes },
      drift.sectionsOnRecord,
      rollRigOf(setup),
    ]);
    if (!roll.ok) return refusedRun(planRefusalText(roll.refusal));
    const strategy = roll.value.strategies.find((s) => s.name === wanted)!;
    if (strategy.missing) return refusedRun(`This way cannot be run: ${strategy.missing}. Choose another.`);
    if (!strategy.keepsPromise && !spoilsAccepted)
      return refusedRun(
        `About ${Math.round(100 * strategy.spoiledShare)} % of the items would be spoiled, and ${(100 * planned.promise).toFixed(1)} % is allowed. Make the sections shorter, or say that it shall be run so.`,
      );
    const expected = await heavy('expectedMiss', {
      run: {
        ...strategy,
        strategy: strategy.name,
        imposition: roll.value.imposition,
        markRoomMm: planned.markRoomMm,
      },
      knowledge: drift,
    });
    const plan = frozen(
      planned,
      roll.value,
      strategy,
      DRIFT_VERSION,
      expected,
      sectionFrame(setup.fileFrame, setup, planned.printableWidthMm),
      standingOfSections(setup.standing, setup, planned.printableWidthMm),
    );
    return keep(deps, actor, { act: 'start run', subjectId: setupId, request }, async (inner) => {
      const held = await holdSetup(inner, setupId);
      if (!held.ok) return held;
      const [row] = await inner.db
        .insert(runs)
        .values({
          setupId,
          kind: 'job',
          name,
          stage: 'release',
          mediaThen: setup.media,
          plan,
          knowledge: {
            along: followed(drift.along),
            across: followed(drift.across),
            sectionsOnRecord: drift.sectionsOnRecord,
          },
          itemFile,
          startedBy: actor,
          startedAt: deps.now(),
        })
        .returning({ id: runs.id });
      await inner.db
        .insert(runSections)
        .values(plan.sections.map((s) => ({ runId: row!.id, index: s.index, state: 'waiting' as const })));
      return accept({ runId: row!.id });
    });
  },
);
