import { sql } from 'drizzle-orm';

import { closeDatabase, database } from '../src/db/client';

/*
 * Ten thousand sessions (twenty thousand loads) of one setup, a million readings, three hundred runs, 64 setups more, two
 * thousand sheet jobs and fifty thousand corrected files: the demo’s own, copied inside the database.
 */

const SESSIONS = 10_000;
const RUNS = 300;
const SETUPS = 64;
const SETUPS_A_RIG = 4;
const SHEET_JOBS = 2000;
const FILES = 50_000;

type Tx = Parameters<Parameters<ReturnType<typeof database>['transaction']>[0]>[0];

/** The columns of a table but for these, by name. */
async function others(tx: Tx, table: string, but: readonly string[]): Promise<string> {
  const { rows } = await tx.execute<{ name: string }>(
    sql`select column_name as name from information_schema.columns where table_name = ${table} order by ordinal_position`,
  );
  return rows
    .map(({ name }) => name)
    .filter((name) => !but.includes(name))
    .join(', ');
}

/** Rows of a table that are found, as often as said: columns set anew, the rest as they are. */
async function copies(
  tx: Tx,
  table: string,
  from: string,
  times: number,
  anew: Readonly<Record<string, string>>,
): Promise<void> {
  const rest = await others(tx, table, Object.keys(anew));
  await tx.execute(
    sql.raw(
      `insert into ${table} (${Object.keys(anew).join(', ')}, ${rest})
       select ${Object.values(anew).join(', ')}, ${rest.replace(/(^|, )/g, '$1t.')}
       from ${table} t cross join generate_series(1, ${times}) g where ${from}`,
    ),
  );
}

async function copySetups(tx: Tx): Promise<void> {
  const one = `(select setup_id from standing_corrections where replaced_at is null order by since desc limit 1)`;
  const rigOf = `md5('w' || g / ${SETUPS_A_RIG})::uuid`;
  await copies(
    tx,
    'rigs',
    `t.id = (select rig_id from setups where id = ${one})`,
    SETUPS / SETUPS_A_RIG + 1,
    {
      id: `md5('w' || g - 1)::uuid`,
      name: `t.name || ' ' || g`,
    },
  );
  await copies(tx, 'setups', `t.id = ${one}`, SETUPS, {
    id: `md5('u' || g)::uuid`,
    rig_id: rigOf,
    label: `'batch ' || g`,
  });
  await copies(tx, 'standing_corrections', `t.setup_id = ${one} and t.replaced_at is null`, SETUPS, {
    id: `md5('t' || g)::uuid`,
    setup_id: `md5('u' || g)::uuid`,
  });
}

async function copyJobs(tx: Tx): Promise<void> {
  const one = `(select id from sheet_jobs where stage = 'frozen' order by number limit 1)`;
  const again = { id: 'gen_random_uuid()', job_id: `md5('j' || g)::uuid` };
  await copies(tx, 'sheet_jobs', `t.id = ${one}`, SHEET_JOBS, {
    id: `md5('j' || g)::uuid`,
    number: `nextval('sheet_jobs_number_seq')`,
    name: `t.name || ' ' || g`,
    started_at: `t.started_at - g * interval '1 hour'`,
  });
  await copies(tx, 'sheet_job_pieces', `t.job_id = ${one}`, SHEET_JOBS, again);
  await copies(tx, 'sheet_cuts', `t.job_id = ${one}`, SHEET_JOBS, again);
}

async function copyFiles(tx: Tx): Promise<void> {
  const one = `(select id from corrected_files where standing_id is not null order by made_at limit 1)`;
  await copies(tx, 'corrected_files', `t.id = ${one}`, FILES, {
    id: `md5('c' || g)::uuid`,
    file_name: `'job ' || g || ' ' || t.file_name`,
    made_at: `t.made_at - g * interval '5 minutes'`,
  });
}

async function seed(): Promise<void> {
  const db = database();
  await db.transaction(async (tx) => {
    await tx.execute(sql`set local statement_timeout = 0`);
    const one = sql`(select s.* from sessions s join passes p on p.session_id = s.id where s.kind = 'calibration' and s.stage = 'closed' group by s.id having count(*) = 2 order by s.number limit 1)`;
    await tx.execute(sql`
      insert into sessions (id, setup_id, kind, stage, started_by, started_at, closed_by, closed_at, outcome, outcome_r95_mm)
      select md5('s' || g)::uuid, s.setup_id, s.kind, 'closed', s.started_by, s.started_at - g * interval '10 minutes',
             s.closed_by, s.closed_at - g * interval '10 minutes', s.outcome, s.outcome_r95_mm
      from ${one} s cross join generate_series(1, ${SESSIONS}) g`);
    await tx.execute(sql`
      insert into passes (id, session_id, position, sheet_id, station_set, purpose, settings_at_cut, file_transform, recipe, load, created_at)
      select md5('p' || g || '-' || p.position)::uuid, md5('s' || g)::uuid, p.position, p.sheet_id, p.station_set, p.purpose,
             p.settings_at_cut, p.file_transform, p.recipe, p.load, p.created_at
      from passes p join ${one} s on s.id = p.session_id cross join generate_series(1, ${SESSIONS}) g`);
    // Each reading as it stands, and twice as it was before it was replaced.
    await tx.execute(sql`
      insert into readings (pass_id, station_id, axis, pick, coarse_mm, x_mm, y_mm, offset_mm, u_mm, entered_by, entered_at, replaced_at)
      select md5('p' || g || '-' || p.position)::uuid, r.station_id, r.axis, r.pick, r.coarse_mm, r.x_mm, r.y_mm, r.offset_mm,
             r.u_mm, r.entered_by, r.entered_at - g * interval '10 minutes', case when copy > 0 then r.entered_at end
      from readings r join passes p on p.id = r.pass_id join ${one} s on s.id = p.session_id
      cross join generate_series(0, 2) copy cross join generate_series(1, ${SESSIONS}) g`);
    await tx.execute(sql`
      insert into fits (id, pass_id, version, recommended, widest, inputs, result, created_at)
      select md5('f' || g || '-' || p.position)::uuid, md5('p' || g || '-' || p.position)::uuid, f.version, f.recommended,
             f.widest, f.inputs, f.result, f.created_at - g * interval '10 minutes'
      from fits f join passes p on p.id = f.pass_id join ${one} s on s.id = p.session_id cross join generate_series(1, ${SESSIONS}) g
      on conflict do nothing`);
    // What each set found: the session's own, scattered as loads scatter.
    await tx.execute(sql`
      insert into found_terms (pass_id, session_id, setup_id, position, at, shift_only, shift_x_mm, shift_y_mm, turn_rad, scale_across, scale_along, lean_rad, file_x_mm, file_y_mm, shown, work_area)
      select md5('p' || g || '-' || p.position)::uuid, md5('s' || g)::uuid, f.setup_id, f.position, f.at - g * interval '10 minutes',
             f.shift_only, f.shift_x_mm + 0.1 * (random() - 0.5), f.shift_y_mm + 0.1 * (random() - 0.5), f.turn_rad + 0.0001 * (random() - 0.5),
             f.scale_across + 0.0001 * (random() - 0.5), f.scale_along + 0.0001 * (random() - 0.5), f.lean_rad + 0.0001 * (random() - 0.5),
             f.file_x_mm, f.file_y_mm, f.shown, f.work_area
      from found_terms f join passes p on p.id = f.pass_id join ${one} s on s.id = p.session_id cross join generate_series(1, ${SESSIONS}) g`);
    const run = sql`(select * from runs where kind = 'job' and stage = 'closed' order by number limit 1)`;
    await tx.execute(sql`
      insert into runs (id, setup_id, kind, name, stage, plan, knowledge, started_by, started_at, closed_by, closed_at, outcome)
      select md5('r' || g)::uuid, r.setup_id, r.kind, r.name, 'closed', r.plan, r.knowledge, r.started_by,
             r.started_at - g * interval '1 day', r.closed_by, r.closed_at - g * interval '1 day', r.outcome
      from ${run} r cross join generate_series(1, ${RUNS}) g`);
    await tx.execute(sql`
      insert into run_sections (run_id, index, state, applied, cut_by, cut_at, spoiled)
      select md5('r' || g)::uuid, x.index, x.state, x.applied, x.cut_by, x.cut_at, x.spoiled
      from run_sections x join ${run} r on r.id = x.run_id cross join generate_series(1, ${RUNS}) g`);
    await tx.execute(sql`
      insert into run_checks (run_id, section, place, y_mm, dx_mm, dy_mm, u_mm, way, entered_by, entered_at)
      select md5('r' || g)::uuid, x.section, x.place, x.y_mm, x.dx_mm, x.dy_mm, x.u_mm, x.way, x.entered_by, x.entered_at
      from run_checks x join ${run} r on r.id = x.run_id cross join generate_series(1, ${RUNS}) g`);
    await copySetups(tx);
    await copyJobs(tx);
    await copyFiles(tx);
  });
  await db.execute(sql`analyze`);
  const counts = await db.execute<{ n: string }>(sql`select count(*) as n from readings`);
  console.log(
    `red plumb  ${counts.rows[0]!.n} readings in ${SESSIONS} sessions more, ${RUNS} runs, ${SETUPS} setups, ${SHEET_JOBS} sheet jobs and ${FILES} files more`,
  );
}

seed()
  .catch((error: unknown) => {
    console.error(error);
    process.exitCode = 1;
  })
  .finally(() => closeDatabase());
