import { SAME } from '@/core/tolerance';
import { type CheckPlace } from '@/core/setup';
import { eq } from 'drizzle-orm';

import { FOLLOW_VERSION, type SectionOutlook } from '@/core/drift';
import { registersOf } from '@/core/layout';
import { runs } from '@/db/schema';
import { type AxisKnowledge } from '@/db/stored/drift';
import { type Applied } from '@/db/stored/runs';
import type { Deps } from '@/server/base/deps';
import { runKnowledge } from '@/db/stored/drift';
import { type SetupDrift } from '@/server/drift/setupDrift';
import { driftRunsOf } from '@/server/drift/runRecord';
import { heavy } from '@/server/heavy/pool';

import { type Run, stretchOf } from './run';

export interface NextSection {
  readonly index: number;
  readonly outlook: SectionOutlook;
  readonly stretch: number;
  readonly applied: Applied;
  /** How far out the run starts, an axis, and who says so: what the outlook goes by until the first check. */
  readonly start: readonly Pick<AxisKnowledge, 'startSdMm' | 'startFrom'>[];
}

/** The outlook on a section from the log as it was when the run was planned and from this run's checks. */
export async function outlookOn(deps: Deps, run: Run, index: number, slips = true): Promise<NextSection> {
  const drift = await knowledgeOf(deps, run);
  const section = run.plan.sections[index - 1]!;
  // Checks of this section and of later ones say nothing about how it was cut.
  const before: Run = { ...run, checks: run.checks.filter((c) => c.section < index) };
  const axis = (name: 'along' | 'across') => ({
    run: driftRunsOf(before, name).at(-1) ?? { id: run.label, registeredAtM: [0], readings: [] },
    nodes: drift[name].nodes,
    unitVarMm2: drift[name].unitVarMm2,
    startSdMm: drift[name].startSdMm,
  });
  const registers = registersOf(run.plan);
  const stretch = stretchOf(run, index);
  const outlook = await heavy('sectionOutlook', {
    along: axis('along'),
    across: axis('across'),
    ahead: { startM: section.startMm / 1000, endM: section.endMm / 1000, registers, stretch, slips },
    seed: run.number * 1000 + index,
  });
  return {
    index,
    outlook,
    stretch,
    applied: {
      version: FOLLOW_VERSION,
      map: outlook.map,
      stretch,
      r95Mm: outlook.r95Mm,
      standing: run.standing.map,
      stripXMm: run.witnessXMm,
    },
    start: [drift.along, drift.across],
  };
}

/** A slip that nobody has dealt with yet. */
export interface OpenSlip {
  readonly axis: 'along' | 'across';
  readonly sizeMm: number;
  readonly uMm: number;
  /** The checks before and after it. */
  readonly before: { readonly section: number; readonly place: CheckPlace };
  readonly after: { readonly section: number; readonly place: CheckPlace };
}

/** The slip that an outlook found, told by the checks it lies between. */
export function openSlip(run: Run, next: NextSection | null): OpenSlip | null {
  if (!next) return null;
  const found = (['along', 'across'] as const)
    .map((axis) => ({ axis, slip: next.outlook[axis].slip }))
    .filter((f) => f.slip !== null)
    .sort((a, b) => Math.abs(b.slip!.sizeMm) - Math.abs(a.slip!.sizeMm))[0];
  if (!found?.slip) return null;
  const { axis, slip } = found;
  const at = (yM: number) => {
    const check = run.checks.find((c) => Math.abs(c.yMm / 1000 - yM) < SAME);
    return check && { section: check.section, place: check.place };
  };
  const before = at(slip.fromM);
  const after = at(slip.toM);
  return before && after ? { axis, sizeMm: slip.sizeMm, uMm: slip.uMm, before, after } : null;
}

export async function knowledgeOf(deps: Deps, run: Run): Promise<Pick<SetupDrift, 'along' | 'across'>> {
  const [row] = await deps.db.select({ knowledge: runs.knowledge }).from(runs).where(eq(runs.id, run.id));
  return runKnowledge.read(row!.knowledge);
}
