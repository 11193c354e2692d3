import { sql } from 'drizzle-orm';

import {
  DECLARED_EFFECT_U,
  effectCovariance,
  scatterOfLoads,
  type ChangeOnRecord,
  type LoadOnRecord,
  type LoadScatter,
  type RegisteredTwice,
  type ToldScatter,
} from '@/core/correction';
import {
  addFields,
  fieldAt,
  fieldToTransform,
  transformToField,
  zeroField,
  type AffineField,
  type EyeOnRecord,
} from '@/core/fit';
import { compose, rectCentre, type Point } from '@/core/geometry';
import type { LoadTold } from '@/core/record';
import { registrationOf, type MarkKit } from '@/core/marks';
import { DEFAULT_LOAD_SCATTER_MM } from '@/core/tolerance';
import { corrections, events, fits, passes, proofSheets, sessions } from '@/db/schema';
import { fitCovariance, fitEye, fitField, fitNoise, passFile, settingsAtCut } from '@/db/stored/sessions';

import type { Deps } from '@/server/base/deps';
import type { Setup } from './setup';

/* What the log says of a rig: how much the loads that it cut differ, and what its settings were seen to do. */

/** Sessions of a kind that are looked back over. */
const MOST_SESSIONS = 40;

export interface SetupRecord {
  /** The first reading of each load, oldest first. */
  readonly loads: readonly LoadOnRecord[];
  /** Sets of one sheet between which something was typed. */
  readonly changes: readonly ChangeOnRecord[];
  /** What each load told of the rig's own, of those that told all six terms: what the next is expected from. */
  readonly told: readonly ToldOnRecord[];
  /** Something was done to the rig since the last of them. */
  readonly eventSince: boolean;
  /** Sets of one load, each registered by itself. */
  readonly registered: readonly RegisteredTwice[];
}

/** A load on record, and what the machine showed when it was cut. */
export interface ToldOnRecord extends LoadTold {
  readonly typed: Readonly<Record<string, number>>;
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
  /** Of a check at one place: where. */
  readonly spot: Point | null;
  readonly events: string;
  /** What it proposed was left alone. */
  readonly left: boolean;
  readonly at: Date;
}

type RecordRow = Record<'settings' | 'file' | 'field' | 'covariance' | 'noise' | 'eye', unknown> &
  Record<'events' | 'events_now' | 'load' | 'widest', string> & {
    readonly at: Date | string;
    readonly done: string | null;
    readonly x: number | null;
    readonly y: number | null;
  };

/**
 * The sets that a rig cut, of what was worked out before a moment: for a session that started then it stays what it was.
 * Of readings of one place alone only quick checks and short sheets count, beside what full loads told. `acuityMm`: with which acuity
 * readings are reckoned now: residuals of what was reckoned with another say nothing about the eye.
 */
export async function setupRecord(
  deps: Deps,
  setup: Setup,
  before: Date,
  acuityMm: number | null = null,
): Promise<SetupRecord> {
  const { rows } = await deps.db.execute<RecordRow>(sql`
    select s.number || '/' || p.load as load,
      p.settings_at_cut as settings, p.file_transform as file, f.widest,
      w.model->'field' as field, w.model->'covarianceKnownU' as covariance, w.model->'noise' as noise, case when (f.inputs->>'acuityMm')::float8 is not distinct from ${acuityMm}::float8
        then json_build_object('chi2', w.model->'chi2', 'dof', w.model->'dof')
        else '{"chi2":0,"dof":0}'::json end as eye,
      p.created_at as at, (select done from ${corrections} where fit_id = f.id) as done,
      case when f.widest = 'shift' then (f.inputs->'observations'->0->>'xMm')::float8 end as x,
      case when f.widest = 'shift' then (f.inputs->'observations'->0->>'yMm')::float8 end as y,
      (select count(*) from ${events} e where e.rig_id = ${setup.rigId} and (e.setup_id is null or e.setup_id = ${setup.id}) and e.happened_at <= p.created_at) as events,
      (select count(*) from ${events} e where e.rig_id = ${setup.rigId} and (e.setup_id is null or e.setup_id = ${setup.id}) and e.happened_at <= ${before}) as events_now
    from (
      -- However many checks there are, they do not crowd out the full loads.
      select newest.* from (values ('calibration'), ('quick-check')) of_kind (kind)
      cross join lateral (
        select id, number, kind from ${sessions}
        where setup_id = ${setup.id} and kind = of_kind.kind and started_at < ${before} and not discarded
        order by started_at desc limit ${MOST_SESSIONS}
      ) newest
    ) s
    join ${passes} p on p.session_id = s.id
    join lateral (
      select * from ${fits} where pass_id = p.id and created_at < ${before} and (widest <> 'shift' or (p.position = 1 and (s.kind = 'quick-check' or exists (
          select 1 from ${proofSheets} sheet where sheet.id = p.sheet_id and sheet.geometry->'spec'->>'readBy' = 'short')))) and inputs->>'axis' is null
      order by created_at desc limit 1
    ) f on true
    -- A stored fit is large: it is unpacked once ("offset 0" keeps the planner from doing it three times).
    cross join lateral (select f.result->'models'->f.widest as model offset 0) w
    order by s.number, p.position`);
  const all = rows.map((row) => readSet(setup, row));
  // A check at one place tells no load’s shift at the middle: it only sharpens what full loads told.
  const sets = all.filter((set) => set.spot === null);
  const loads = sets.filter((set, i) => set.load !== sets[i - 1]?.load);
  return {
    loads: loads.map((set, i) => ({
      ...ownOf(setup, set),
      afterEvent: set.events !== (loads[i - 1] ?? set).events,
    })),
    changes: sets.flatMap((set, i) => changeBetween(setup, sets[i - 1], set)),
    told: toldBy(setup, all),
    registered: sets.flatMap((set, i) => registeredTwice(setup, sets[i - 1], set)),
    eventSince: sets.length > 0 && sets.at(-1)!.events !== rows.at(-1)!.events_now,
  };
}

function readSet(setup: Setup, row: RecordRow): ReadSet {
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
    spot: row.x === null || row.y === null ? null : { x: Number(row.x), y: Number(row.y) },
    events: row.events,
    left: row.done === 'leave',
    at: new Date(row.at),
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

/** What the settings do together as they are typed, about the middle of the work area. */
export const typedField = (setup: Setup, typed: Readonly<Record<string, number>>): AffineField =>
  setup.settings.reduce(
    (sum, s) => addFields(sum, s.effect, typed[s.id] ?? s.value),
    zeroField(rectCentre(setup.workArea)),
  );

/** Doubt of what was typed between two cuts; null when nothing was. */
export function typedDoubt(
  { settings, workArea }: Setup,
  before: Readonly<Record<string, number>>,
  after: Readonly<Record<string, number>>,
): LoadTold['typedCovariance'] {
  const by = settings
    .map((s) => ({
      effect: s.effect,
      typed: ((after[s.id] ?? s.value) - (before[s.id] ?? s.value)) * (s.effectU ?? DECLARED_EFFECT_U),
    }))
    .filter(({ typed }) => typed !== 0);
  return by.length === 0 ? null : effectCovariance(by, rectCentre(workArea));
}

const DAY_MS = 86_400_000;
export const daysOf = (at: Date): number => at.getTime() / DAY_MS;

function toldBy(setup: Setup, sets: readonly ReadSet[]): ToldOnRecord[] {
  // Where the machine's own page is what moves it, nobody knows what was typed there.
  if (setup.changeable === 'machine-page') return [];
  const told: ToldOnRecord[] = [];
  let last: ReadSet | undefined;
  for (const [i, set] of sets.entries()) {
    if (set.load === sets[i - 1]?.load || !(set.full || set.spot)) continue;
    const afterEvent = last !== undefined && (last.events !== set.events || !sameSettings(last, set));
    // After an event, or before anything else, one place tells nothing.
    if (set.spot && (afterEvent || !last)) continue;
    told.push({
      ...(set.spot ? spotTold(setup, set, set.spot) : ownTold(setup, set)),
      ...{ atDays: daysOf(set.at), afterEvent, typed: set.typed },
      typedCovariance: last ? typedDoubt(setup, last.typed, set.typed) : null,
    });
    last = set;
  }
  return told;
}

const ownTold = (setup: Setup, { whole, typed, covariance }: ReadSet) => ({
  own: addFields(whole, typedField(setup, typed), -1),
  covariance,
});

/** What a check at one place says of the rig's own: its offset there, what was typed and what its file undid taken out. */
function spotTold(setup: Setup, set: ReadSet, spot: Point) {
  const origin = rectCentre(setup.workArea);
  const [read, typed] = [fieldAt(set.whole, spot), fieldAt(typedField(setup, set.typed), spot)];
  const own = { ...zeroField(origin), exMm: read.x - typed.x, eyMm: read.y - typed.y };
  return { own, covariance: set.covariance, spot };
}

/** Loads that had other settings cannot be compared: as if something was done to the rig. */
const sameSettings = (a: ReadSet, b: ReadSet): boolean =>
  Object.keys(a.typed).sort().join() === Object.keys(b.typed).sort().join();

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

/** How far the second set of a load lies from the first, where nothing was changed but that it was registered again. */
function registeredTwice(setup: Setup, before: ReadSet | undefined, after: ReadSet): RegisteredTwice[] {
  if (before?.load !== after.load || !before.left) return [];
  const [first, second] = [ownOf(setup, before), ownOf(setup, after)];
  return [
    {
      xMm: second.shiftXMm - first.shiftXMm,
      yMm: second.shiftYMm - first.shiftYMm,
      varMm2: first.shiftUMm ** 2 + second.shiftUMm ** 2,
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
