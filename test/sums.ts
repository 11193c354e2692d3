import type { ClientBase } from 'pg';

/** Tables of version 4, with the columns whose values a later version has to keep. */
export const FIXTURE_TABLES = [
  'media',
  'rigs(id, name, printer, cutter, media_id, sheet_width_mm, sheet_height_mm, area_x0_mm, area_y0_mm, area_x1_mm, area_y1_mm, tolerance_mm, simulation, version, created_at, archived_at, changeable, marks, recipe, media_class, roll, feed_percent, feed_set_at)',
  'rig_settings',
  'proof_sheets',
  'sessions(id, number, rig_id, kind, stage, started_by, started_at, closed_by, closed_at, outcome, outcome_r95_mm, note)',
  'passes',
  'readings',
  'fits',
  'corrections',
  'setting_changes',
  'corrected_files(id, correction_id, file_name, rest_only, transform, report, made_by, made_at)',
  'events',
  'runs(id, number, rig_id, kind, name, stage, plan, knowledge, item_file, started_by, started_at, closed_by, closed_at, outcome)',
  'run_sections(id, run_id, index, state, applied, cut_by, cut_at, spoiled)',
  'run_checks',
  'run_events',
  'run_files(id, run_id, section, file_name, format, applied, made_by, made_at)',
  'drift_estimates',
  'tape_measures',
] as const;

/** A checksum of each table’s rows, or of named columns of it, whatever their order. */
export async function tableSums(
  client: ClientBase,
  tables?: readonly string[],
): Promise<Map<string, string>> {
  const names =
    tables ??
    (
      await client.query<{ name: string }>(
        `select relname as name from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace order by 1`,
      )
    ).rows.map((r) => r.name);
  const sums = new Map<string, string>();
  for (const name of names) {
    const [table, columns] = name.split('(');
    const row = columns ? `row(${columns}` : 't';
    const sum = await client.query<{ sum: string }>(
      `select count(*) || ' ' || coalesce(md5(string_agg(md5((${row})::text), '' order by md5((${row})::text))), '') as sum from ${table} t`,
    );
    sums.set(name, sum.rows[0]!.sum);
  }
  return sums;
}
