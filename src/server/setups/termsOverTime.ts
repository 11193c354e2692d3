import { sql } from 'drizzle-orm';

import { ROLL_MODEL, type Terms } from '@/core/fit';
import { applyAffine, rectCentre, type Affine, type Point, type Rect } from '@/core/geometry';
import { fits, passes, proofSheets, sessions, setups } from '@/db/schema';
import { fitTerms, passFile, settingsAtCut, sheetWorkArea } from '@/db/stored/sessions';
import type { Deps } from '@/server/base/deps';

/** What a session found before anything was corrected in it. */
export interface FoundTerms {
  readonly setupId: string;
  readonly at: Date;
  readonly terms: Terms;
  /** Only the shift was told. */
  readonly shiftOnly: boolean;
  /** Something was typed into the machine since the one before it. */
  readonly typedBefore: boolean;
  /** What the machine's settings showed. */
  readonly shown: Readonly<Record<string, number>>;
  /** What its cut file undid in the middle of the work area, mm. */
  readonly fileMm: Point;
  /** Over which it was found. */
  readonly workArea: Rect;
}

/** So many sessions a setup are drawn; the log has all. */
const SESSIONS_BACK = 40;

/** The terms that the first set of each session of a rig’s setups in use found, oldest first. */
export async function termsOverTime(deps: Deps, rigId: string): Promise<FoundTerms[]> {
  const { rows } = await deps.db.execute<
    Record<'terms' | 'area' | 'shown' | 'file', unknown> & Record<'setup_id' | 'model' | 'at', string>
  >(sql`
    select s.setup_id, coalesce(s.closed_at, s.started_at) as at, f.widest as model, w.terms,
      g.geometry->'spec'->'workArea' as area, p.settings_at_cut as shown, p.file_transform as file
    from ${setups} r
    cross join lateral (
      select id, setup_id, started_at, closed_at from ${sessions}
      where setup_id = r.id and not discarded and kind in ('calibration', 'quick-check')
      order by started_at desc limit ${SESSIONS_BACK}
    ) s
    join ${passes} p on p.session_id = s.id and p.position = 1
    join ${proofSheets} g on g.id = p.sheet_id
    join lateral (
      select widest, result from ${fits} where pass_id = p.id order by created_at desc limit 1
    ) f on true
    cross join lateral (select f.result->'models'->f.widest->'terms' as terms offset 0) w
    where r.rig_id = ${rigId} and r.archived_at is null and w.terms is not null
    order by at`);
  const shown = new Map<string, string>();
  return rows.map((row) => {
    const [before, now] = [shown.get(row.setup_id), JSON.stringify(row.shown)];
    shown.set(row.setup_id, now);
    const workArea = sheetWorkArea.read(row.area);
    return {
      setupId: row.setup_id,
      at: new Date(row.at),
      terms: fitTerms.read(row.terms),
      shiftOnly: row.model === 'shift' || row.model === ROLL_MODEL,
      typedBefore: before !== undefined && before !== now,
      shown: settingsAtCut.read(row.shown),
      fileMm: row.file === null ? { x: 0, y: 0 } : movedBy(passFile.read(row.file), rectCentre(workArea)),
      workArea,
    };
  });
}

/** What a file undid at a place: what was found there is less by that. */
function movedBy(file: Affine, at: Point): Point {
  const to = applyAffine(file, at);
  return { x: to.x - at.x, y: to.y - at.y };
}
