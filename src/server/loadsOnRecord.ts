import { sql } from 'drizzle-orm';
import { z } from 'zod';

import { scatterOfLoads, type LoadOnRecord, type LoadScatter, type ToldScatter } from '@/core/correction';
import { addFields, fieldToTransform, transformToField } from '@/core/fit';
import { compose, rectCentre } from '@/core/geometry';
import { registrationOf, type MarkKit } from '@/core/marks';
import { DEFAULT_LOAD_SCATTER_MM } from '@/core/tolerance';
import { events, fits, passes, sessions } from '@/db/schema';

import { stored } from './base/stored';
import type { Deps } from './deps';
import type { Rig } from './rigs';
import { affineSchema, fieldSchema, settingsAtCutSchema } from './schemas';

/* What the log says of the loads that a rig has cut: how much they differ. */

/** Sessions that are looked back over. */
const MOST_SESSIONS = 40;

const seSchema = z.object({ shiftXMm: z.number(), shiftYMm: z.number(), turnRad: z.number() });

/**
 * The first reading of each load of a rig, oldest first, of what was worked out before a moment: for a session that started
 * then it stays what it was. Readings of one place alone tell no shift at the middle of the sheet and are left out.
 */
export async function loadsOnRecord(deps: Deps, rig: Rig, before: Date): Promise<LoadOnRecord[]> {
  const { rows } = await deps.db.execute<
    Record<'settings' | 'file' | 'field' | 'se', unknown> & { events: string }
  >(sql`
    select distinct on (s.number, p.load) p.settings_at_cut as settings, p.file_transform as file,
      f.result->'models'->f.widest->'field' as field, f.result->'models'->f.widest->'termSe' as se,
      (select count(*) from ${events} e where e.rig_id = ${rig.id} and e.happened_at <= p.created_at) as events
    from (
      select id, number from ${sessions}
      where rig_id = ${rig.id} and started_at < ${before} and not discarded and kind <> 'roll-proof'
      order by started_at desc limit ${MOST_SESSIONS}
    ) s
    join ${passes} p on p.session_id = s.id
    join ${fits} f on f.pass_id = p.id and f.created_at < ${before} and f.widest <> 'shift'
    order by s.number, p.load, p.position, f.created_at desc`);
  let known = rows[0]?.events;
  return rows.map((row) => {
    const afterEvent = row.events !== known;
    known = row.events;
    return { ...ownOf(rig, row), afterEvent };
  });
}

/** What a pass found, with what was typed and what its file undid taken out. */
function ownOf(rig: Rig, row: Record<'settings' | 'file' | 'field' | 'se', unknown>) {
  const field = stored(fieldSchema, row.field, 'fits.result');
  const se = stored(seSchema, row.se, 'fits.result');
  const typed = stored(settingsAtCutSchema, row.settings, 'passes.settings_at_cut');
  const whole =
    row.file === null
      ? field
      : transformToField(
          compose(fieldToTransform(field), stored(affineSchema, row.file, 'passes.file_transform')),
          field.origin,
        );
  const typedOut = rig.settings.reduce((left, s) => addFields(left, s.effect, -(typed[s.id] ?? 0)), whole);
  // All about one place, also when the work area was another then.
  const own = transformToField(fieldToTransform(typedOut), rectCentre(rig.workArea));
  return {
    shiftXMm: own.exMm,
    shiftYMm: own.eyMm,
    // Shearing and turning look alike to one column: the turn is that of the across axis, as it is decomposed.
    turnRad: Math.atan2(own.b21, 1 + own.b11),
    shiftUMm: Math.sqrt((se.shiftXMm ** 2 + se.shiftYMm ** 2) / 2),
    turnURad: se.turnRad,
  };
}

/** What is assumed of loads until the log tells: by how the rig registers. */
const assumedOf = (rig: Rig, marks: MarkKit | null): LoadScatter => {
  const { loadTurnRad, pivot } = registrationOf(marks, rig);
  return { shiftMm: DEFAULT_LOAD_SCATTER_MM, turnRad: loadTurnRad, pivot };
};

/** How much loads of this rig differ. */
export const loadScatterOf = (
  rig: Rig,
  marks: MarkKit | null,
  record: readonly LoadOnRecord[],
): ToldScatter => scatterOfLoads(record, assumedOf(rig, marks));
