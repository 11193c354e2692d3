import { desc, eq } from 'drizzle-orm';

import { tapeMeasures } from '@/db/schema';
import type { Deps } from '@/server/base/deps';

export interface TapeMeasure {
  readonly of: 'print' | 'cut';
  readonly nominalMm: number;
  readonly measuredMm: number;
  readonly uMm: number;
  readonly by: string;
  readonly at: Date;
}

/** Distances measured by steel tape, newest first. */
export async function listTapeMeasures(deps: Deps, setupId: string): Promise<TapeMeasure[]> {
  const rows = await deps.db
    .select()
    .from(tapeMeasures)
    .where(eq(tapeMeasures.setupId, setupId))
    .orderBy(desc(tapeMeasures.enteredAt))
    .limit(50);
  return rows.map((r) => ({
    of: r.of as TapeMeasure['of'],
    nominalMm: r.nominalMm,
    measuredMm: r.measuredMm,
    uMm: r.uMm,
    by: r.enteredBy,
    at: r.enteredAt,
  }));
}
