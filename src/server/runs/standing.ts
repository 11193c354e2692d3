import { inArray } from 'drizzle-orm';

import { sectionTransform, type Laid } from '@/core/daily';
import type { Affine } from '@/core/geometry';
import { SAME } from '@/core/tolerance';
import { standingCorrections } from '@/db/schema';
import { standingFile } from '@/db/stored/setups';
import type { FrozenPlan } from '@/db/stored/runs';
import type { Deps } from '@/server/base/deps';
import { type Setup } from '@/server/setups/setup';

import { inForce, type Run, type RunEvent, type RunStanding } from './run';

/* What a run's files carry of its setup: frozen with its plan, and asked about when another stands meanwhile. */

/** What stands for a setup in the axes of a run's sections. */
export const standingOfSections = (
  standing: { readonly id: string; readonly fileTransform: Affine | null },
  laid: Laid,
  printableWidthMm: number,
): RunStanding => ({
  id: standing.id,
  map: standing.fileTransform && sectionTransform(standing.fileTransform, laid, printableWidthMm),
});

interface StoodThen {
  readonly id: string;
  readonly setupId: string;
  readonly fileTransform: Affine | null;
  readonly since: Date;
  readonly replacedAt: Date | null;
}

/** Everything that ever stood for some setups: for runs frozen before that was kept with them. */
export async function everStood(deps: Deps, setupIds: readonly string[]): Promise<StoodThen[]> {
  if (setupIds.length === 0) return [];
  const rows = await deps.db
    .select()
    .from(standingCorrections)
    .where(inArray(standingCorrections.setupId, [...setupIds]));
  return rows.map((r) => ({
    ...{ id: r.id, setupId: r.setupId, since: r.since, replacedAt: r.replacedAt },
    fileTransform: r.fileTransform === null ? null : standingFile.read(r.fileTransform),
  }));
}

/** What a run carries, and what stands meanwhile that nobody has decided on. */
export function standingIn(
  run: {
    readonly plan: FrozenPlan;
    readonly startedAt: Date;
    readonly closedAt: Date | null;
    readonly events: readonly RunEvent[];
  },
  setup: Setup,
  stood: readonly StoodThen[],
): Pick<Run, 'standing' | 'newStanding'> {
  const { plan } = run;
  const width = plan.request.printableWidthMm;
  const then = stood.find(
    (s) =>
      s.setupId === setup.id &&
      s.since <= run.startedAt &&
      (s.replacedAt === null || s.replacedAt > run.startedAt),
  );
  const first = plan.standing ?? standingOfSections(then ?? setup.standing, setup, width);
  const decided = inForce(run, 'standing');
  const taken = decided.findLast((e) => e.detail.taken);
  const standing: RunStanding = taken
    ? { id: taken.detail.standingId!, map: taken.detail.map ?? null }
    : first;
  const now = standingOfSections(setup.standing, setup, width);
  const known = [first.id, ...decided.map((e) => e.detail.standingId)];
  const asked = run.closedAt === null && !known.includes(now.id) && !sameMap(now.map, standing.map);
  return {
    standing,
    newStanding: asked ? { ...now, by: setup.standing.by, since: setup.standing.since } : null,
  };
}

const sameMap = (a: Affine | null, b: Affine | null): boolean =>
  a === null || b === null
    ? a === b
    : (['a11', 'a12', 'a21', 'a22', 'tx', 'ty'] as const).every((k) => Math.abs(a[k] - b[k]) < SAME);

export const STANDING_REPLACED =
  'What stands for this setup was replaced since the run was planned. Say on the run’s page first which correction its files carry.';
