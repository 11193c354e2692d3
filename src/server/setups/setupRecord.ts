import { sql } from 'drizzle-orm';

import {
  scatterOfLoads,
  type ChangeOnRecord,
  type LoadOnRecord,
  type LoadScatter,
  type ToldScatter,
} from '@/core/correction';
import {
  addFields,
  fieldToTransform,
  transformToField,
  type AffineField,
  type EyeOnRecord,
} from '@/core/fit';
import { compose, rectCentre } from '@/core/geometry';
import { registrationOf, type MarkKit } from '@/core/marks';
import { DEFAULT_LOAD_SCATTER_MM } from '@/core/tolerance';
import { events, fits, passes, sessions } from '@/db/schema';
import { fitCovariance, fitEye, fitField, fitNoise, passFile, settingsAtCut } from '@/db/stored/sessions';

import type { Deps } from '@/server/base/deps';
import type { Setup } from './setup';

/* What the log says of a rig: how much the loads that it cut differ, and what its settings were seen to do. */

/** Sessions that are looked back over. */
const MOST_SESSIONS = 40;

export interface SetupRecord {
  /** The first reading of each load, oldest first. */
  readonly loads: readonly LoadOnRecord[];
  /** Sets of one sheet between which something was typed. */
  readonly changes: readonly ChangeOnRecord[];
}

/** A set that was read, with what its file undid taken out: the machine as it stood. */
interface ReadSet {
  readonly load: string;
  readonly whole: AffineField;
  readonly covariance: readonly (readonly number[])[];
  readonly eye: EyeOnRecord;
  readonly typed: Readonly<Record<string, number>>;
  /** The model tells all six terms. */
  readonly full: boolean;
  readonly events: string;
}

/**
 * The sets that a rig cut, of what was worked out before a moment: for a session that started then it stays what it was.
 * Readings of one place alone tell no shift at the middle of the sheet and are left out.
 */
export async function setupRecord(deps: Deps, setup: Setup, before: Date): Promise<SetupRecord> {
  const { rows } = await deps.db.execute<
    Record<'settings' | 'file' | 'field' | 'covariance' | 'noise' | 'eye', unknown> &
      Record<'events' | 'load' | 'widest', string>
  >(sql`
    select s.number || '/' || p.load as load,
      p.settings_at_cut as settings, p.file_transform as file, f.widest,
      w.model->'field' as field, w.model->'covarianceKnownU' as covariance, w.model->'noise' as noise, json_build_object('chi2', w.model->'chi2', 'dof', w.model->'dof') as eye,
      (select count(*) from ${events} e where e.rig_id = ${setup.rigId} and (e.setup_id is null or e.setup_id = ${setup.id}) and e.happened_at <= p.created_at) as events
    from (
      select id, number from ${sessions}
      where setup_id = ${setup.id} and started_at < ${before} and not discarded and kind <> 'roll-proof'
      order by started_at desc limit ${MOST_SESSIONS}
    ) s
    join ${passes} p on p.session_id = s.id
    join lateral (
      select * from ${fits} where pass_id = p.id and created_at < ${before} and widest <> 'shift'
      order by created_at desc limit 1
    ) f on true
    -- A stored fit is large: it is unpacked once ("offset 0" keeps the planner from doing it three times).
    cross join lateral (select f.result->'models'->f.widest as model offset 0) w
    order by s.number, p.position`);
  const sets = rows.map((row) => readSet(setup, row));
  const loads = sets.filter((set, i) => set.load !== sets[i - 1]?.load);
  return {
    loads: loads.map((set, i) => ({
      ...ownOf(setup, set),
      afterEvent: set.events !== (loads[i - 1] ?? set).events,
    })),
    changes: sets.flatMap((set, i) => changeBetween(setup, sets[i - 1], set)),
  };
}

function readSet(
  setup: Setup,
  row: Record<'settings' | 'file' | 'field' | 'covariance' | 'noise' | 'eye', unknown> &
    Record<'events' | 'load' | 'widest', string>,
): ReadSet {
  const field = fieldToTransform(fitField.read(row.field));
  const whole = row.file === null ? field : compose(field, passFile.read(row.file));
  const { factor } = fitNoise.read(row.noise);
  return {
    load: row.load,
    // All about one place, also when the work area was another then.
    whole: transformToField(whole, rectCentre(setup.workArea)),
    covariance: fitCovariance.read(row.covariance).map((r) => r.map((v) => v * factor ** 2)),
    eye: fitEye.read(row.eye),
    typed: settingsAtCut.read(row.settings),
    full: row.widest === 'affine' || row.widest === 'projective',
    events: row.events,
  };
}

/** What a load found, with what was typed taken out: the rig’s own. */
function ownOf(setup: Setup, { whole, covariance, eye, typed }: ReadSet): Omit<LoadOnRecord, 'afterEvent'> {
  const own = setup.settings.reduce((left, s) => addFields(left, s.effect, -(typed[s.id] ?? 0)), whole);
  return {
    shiftXMm: own.exMm,
    shiftYMm: own.eyMm,
    // Shearing and turning look alike to one column: the turn is that of the across axis, as it is decomposed.
    turnRad: Math.atan2(own.b21, 1 + own.b11),
    shiftUMm: Math.sqrt((covariance[4]![4]! + covariance[5]![5]!) / 2),
    turnURad: Math.sqrt(covariance[2]![2]!),
    eye,
  };
}

/** What was typed between two sets of one load and how the cut moved; none when a setting was typed that the rig has no more. */
function changeBetween(setup: Setup, before: ReadSet | undefined, after: ReadSet): ChangeOnRecord[] {
  if (before?.load !== after.load || !before.full || !after.full) return [];
  const by = Object.fromEntries(
    Object.entries(after.typed)
      .map(([id, value]) => [id, value - (before.typed[id] ?? value)] as const)
      .filter(([, change]) => change !== 0),
  );
  const ids = Object.keys(by);
  if (ids.length === 0 || ids.some((id) => !setup.settings.some((s) => s.id === id))) return [];
  return [
    {
      by,
      moved: addFields(after.whole, before.whole, -1),
      covariance: after.covariance.map((row, i) => row.map((v, j) => v + before.covariance[i]![j]!)),
    },
  ];
}

/** What is assumed of loads until the log tells: by how the rig registers. */
const assumedOf = (setup: Setup, marks: MarkKit | null): LoadScatter => {
  const { loadTurnRad, pivot } = registrationOf(marks, setup);
  return { shiftMm: DEFAULT_LOAD_SCATTER_MM, turnRad: loadTurnRad, pivot };
};

/** How much loads of this rig differ. */
export const loadScatterOf = (
  setup: Setup,
  marks: MarkKit | null,
  record: readonly LoadOnRecord[],
): ToldScatter => scatterOfLoads(record, assumedOf(setup, marks));
