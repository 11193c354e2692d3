import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';

/*
 * What a shop of before machines, rigs and setups were told apart has to say after it was carried over: each pair of
 * questions, asked before and after, has the same rows. Settings are compared by what they are called, since rows that
 * said the same of one machine become one.
 */

const OLD_SETTING = `s.name, s.kind, s.unit, s.step, s.min, s.max, s.display, s.direction, s.anchor_x_mm, s.anchor_y_mm, s.nominal_mm`;
const SESSION = `number, kind, stage, started_by, started_at, closed_by, closed_at, outcome, outcome_r95_mm, note`;
const RUN = `number, kind, name, stage, plan, knowledge, item_file, started_by, started_at, closed_by, closed_at, outcome`;
const SETUP = `sheet_width_mm, sheet_height_mm, area_x0_mm, area_y0_mm, area_x1_mm, area_y1_mm, tolerance_mm, version, s.created_at, archived_at, marks, recipe, media_class, roll, feed_percent, feed_set_at`;

const plain = (column: string): string => `lower(btrim(${column}))`;

export const CARRIED_OVER: readonly (readonly [what: string, before: string, after: string])[] = [
  ['media', 'select * from media', 'select id, name from media'],
  [
    'rigs',
    `select s.id, s.name, ${plain('printer')}, ${plain('cutter')}, media_id, changeable, ${SETUP.replace('version', 's.version')} from rigs s`,
    `select s.id, case s.label when '' then r.name else s.label end, ${plain('p.name')}, ${plain('c.name')}, media_id, changeable, ${SETUP.replace('version', 's.version')}
     from setups s join rigs r on r.id = s.rig_id join machines p on p.id = r.printer_id join machines c on c.id = r.cutter_id`,
  ],
  [
    'settings in use',
    `select s.rig_id, ${OLD_SETTING}, s.value from rig_settings s where retired_at is null`,
    `select u.id, ${OLD_SETTING}, v.value from setups u join rigs r on r.id = u.rig_id
     join machine_settings s on s.machine_id = r.cutter_id and s.retired_at is null join setting_values v on v.setting_id = s.id`,
  ],
  [
    'what was typed',
    `select c.id, s.rig_id, s.name, from_value, to_value, reason, correction_id, changed_by, changed_at
     from setting_changes c join rig_settings s on s.id = c.setting_id`,
    `select c.id, c.setup_id, s.name, from_value, to_value, reason, correction_id, changed_by, changed_at
     from setting_changes c join machine_settings s on s.id = c.setting_id`,
  ],
  [
    'settings at the cut',
    `select p.id, s.name, v.value from passes p cross join jsonb_each(p.settings_at_cut) v join rig_settings s on s.id::text = v.key`,
    `select p.id, s.name, v.value from passes p cross join jsonb_each(p.settings_at_cut) v join machine_settings s on s.id::text = v.key`,
  ],
  [
    'corrections',
    `select k.id, k.fit_id, k.decision, k.done, k.done_by, k.done_at, k.rest_transform, k.whole_transform, s.name, v->'from', v->'to'
     from corrections k left join jsonb_array_elements(k.changes) v on true left join rig_settings s on s.id::text = v->>'settingId'`,
    `select k.id, k.fit_id, k.decision, k.done, k.done_by, k.done_at, k.rest_transform, k.whole_transform, s.name, v->'from', v->'to'
     from corrections k left join jsonb_array_elements(k.changes) v on true left join machine_settings s on s.id::text = v->>'settingId'`,
  ],
  [
    'sessions',
    `select id, rig_id, ${SESSION} from sessions`,
    `select id, setup_id, ${SESSION} from sessions`,
  ],
  ['runs', `select id, rig_id, ${RUN} from runs`, `select id, setup_id, ${RUN} from runs`],
  [
    'events',
    'select id, rig_id, kind, note, recorded_by, happened_at from events',
    'select id, setup_id, kind, note, recorded_by, happened_at from events',
  ],
  ...(
    [
      [
        'proof_sheets',
        'id, number, geometry, rig_name, media_name, address, created_at, printed_at, printed_by',
      ],
      ['passes', 'id, session_id, position, sheet_id, station_set, purpose, file_transform, recipe, load'],
      ['readings', '*'],
      ['fits', 'id, pass_id, version, recommended, widest, result, created_at'],
      ['corrected_files', 'id, correction_id, file_name, rest_only, transform, report, made_by, made_at'],
      ['run_sections', 'id, run_id, index, state, applied, cut_by, cut_at, spoiled'],
      ['run_checks', '*'],
      ['run_events', '*'],
      ['run_files', 'id, run_id, section, file_name, format, applied, made_by, made_at'],
      ['drift_estimates', 'id, version, fingerprint, inputs, result, created_at'],
      ['tape_measures', 'id, of, nominal_mm, measured_mm, u_mm, entered_by, entered_at'],
    ] as const
  ).map(([table, columns]) => {
    const question = `select ${columns} from ${table}`;
    return [table, question, question] as const;
  }),
];

/** A shop as the pg_dump of a version wrote it. */
export const oldShop = (version: 4 | 6): string =>
  gunzipSync(readFileSync(`test/files/shop-of-version-${version}.sql.gz`))
    .toString('utf8')
    .split('\n')
    // Commands of psql’s own, which no other client knows.
    .filter((line) => !line.startsWith('\\'))
    .join('\n');
