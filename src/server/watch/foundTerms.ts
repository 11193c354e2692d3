import { group } from 'd3';
import { and, asc, desc, eq, isNull, sql } from 'drizzle-orm';

import type { FoundLoad } from '@/core/control';
import { ROLL_MODEL, type ModelName, type Terms } from '@/core/fit';
import { applyAffine, rectCentre, type Affine, type Point, type Rect } from '@/core/geometry';
import { foundTerms, sessions, setups } from '@/db/schema';
import { foundShown, foundWorkArea } from '@/db/stored/sessions';
import type { Deps } from '@/server/base/deps';

/** The terms that a read set of combs found. */
export interface FoundTerms extends FoundLoad {
  readonly setupId: string;
  /** From 1: which set of its session; those after the first proved a correction. */
  readonly position: number;
  readonly terms: Terms;
  /** Only the shift was told. */
  readonly shiftOnly: boolean;
  /** Something was typed into the machine since the set before it. */
  readonly typedBefore: boolean;
  /** Over which it was found. */
  readonly workArea: Rect;
}

/** Keeps what a pass was found to be off; the newest fit of a pass counts. */
export async function keepFound(
  deps: Deps,
  pass: {
    readonly id: string;
    readonly sessionId: string;
    readonly setupId: string;
    readonly position: number;
  },
  found: {
    readonly model: ModelName | typeof ROLL_MODEL;
    readonly terms: Terms;
    readonly file: Affine | null;
    readonly shown: Readonly<Record<string, number>>;
    readonly workArea: Rect;
  },
): Promise<void> {
  const moved = found.file === null ? { x: 0, y: 0 } : movedBy(found.file, rectCentre(found.workArea));
  const row = {
    sessionId: pass.sessionId,
    setupId: pass.setupId,
    position: pass.position,
    at: deps.now(),
    shiftOnly: found.model === 'shift' || found.model === ROLL_MODEL,
    ...found.terms,
    fileXMm: moved.x,
    fileYMm: moved.y,
    shown: found.shown,
    workArea: found.workArea,
  };
  await deps.db
    .insert(foundTerms)
    .values({ passId: pass.id, ...row })
    .onConflictDoUpdate({ target: foundTerms.passId, set: row });
}

/** So many sets a setup are looked back over; the log has all. */
const SETS_BACK = 60;

/** What the newest sets of each setup in use found, oldest first, by setup: of one rig, or of all. */
export async function foundOf(deps: Deps, rigId?: string): Promise<ReadonlyMap<string, FoundTerms[]>> {
  const newest = deps.db
    .select({ passId: foundTerms.passId })
    .from(foundTerms)
    .innerJoin(sessions, eq(sessions.id, foundTerms.sessionId))
    .where(and(eq(foundTerms.setupId, setups.id), eq(sessions.discarded, false)))
    .orderBy(desc(foundTerms.at))
    .limit(SETS_BACK)
    .as('newest');
  const rows = await deps.db
    .select({ found: foundTerms })
    .from(setups)
    .innerJoinLateral(newest, sql`true`)
    .innerJoin(foundTerms, eq(foundTerms.passId, newest.passId))
    .where(and(isNull(setups.archivedAt), rigId === undefined ? undefined : eq(setups.rigId, rigId)))
    .orderBy(asc(foundTerms.at), asc(foundTerms.position));
  const shown = new Map<string, string>();
  const list = rows.map(({ found: row }): FoundTerms => {
    const [before, now] = [shown.get(row.setupId), JSON.stringify(row.shown)];
    shown.set(row.setupId, now);
    return {
      setupId: row.setupId,
      at: row.at,
      position: row.position,
      terms: {
        shiftXMm: row.shiftXMm,
        shiftYMm: row.shiftYMm,
        turnRad: row.turnRad,
        scaleAcross: row.scaleAcross,
        scaleAlong: row.scaleAlong,
        leanRad: row.leanRad,
      },
      shiftOnly: row.shiftOnly,
      typedBefore: before !== undefined && before !== now,
      shown: foundShown.read(row.shown),
      fileMm: { x: row.fileXMm, y: row.fileYMm },
      workArea: foundWorkArea.read(row.workArea),
    };
  });
  return group(list, (f) => f.setupId);
}

/** What a file undid at a place: what was found there is less by that. */
function movedBy(file: Affine, at: Point): Point {
  const to = applyAffine(file, at);
  return { x: to.x - at.x, y: to.y - at.y };
}
