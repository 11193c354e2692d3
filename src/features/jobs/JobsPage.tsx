import { type RunStage } from '@/core/setup';
import { Plus } from 'lucide-react';
import Link from 'next/link';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import { z } from 'zod';

import { preferences, requestDeps } from '@/server/base/context';
import { anyRun, JOB_SORTS, listRuns, RUNS_A_PAGE } from '@/server/runs/listRuns';
import { dateText } from '@/clock/dates';
import { Pager } from '@/ui/Pager';

import { Page } from '../frame/Page';

import { expectedItems } from '@/ui/words/planWords';
import { JOBS_A_PAGE, listJobs } from '@/server/sheetJobs/repository';
import { DataTable } from '@/ui/tables/DataTable';

import { SHEET_STAGE_WORDS, SheetJobs } from './SheetJobs';

const filterSchema = z.object({
  show: z.enum(['open', 'closed', 'all']).catch('all'),
  sort: z.enum(JOB_SORTS).catch('newest'),
  find: z.string().trim().max(100).catch(''),
  page: z.coerce.number().int().min(1).max(100_000).catch(1),
  /** Which page of the sheet jobs. */
  sheets: z.coerce.number().int().min(1).max(100_000).catch(1),
});

const STAGE_WORDS: Readonly<Record<RunStage, string>> = {
  release: 'to be released',
  running: 'running',
  paused: 'resting',
  closed: 'closed',
};

/** Runs on rolls: open ones first, then what was done. */
export async function JobsPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  await preferences();
  const { show, sort, find, page, sheets } = filterSchema.parse(await searchParams);
  const deps = requestDeps();
  const [{ rows, total }, open, any, sheetJobs, openSheets] = await Promise.all([
    listRuns(deps, { show, sort, find, page }),
    listRuns(deps, { show: 'open', sort: 'newest', page: 1 }),
    anyRun(deps),
    listJobs(deps, { show, sort, find, page: sheets }),
    listJobs(deps, { show: 'open', sort: 'newest', page: 1 }),
  ]);
  const first = open.rows[0];
  const waiting = openSheets.rows[0];
  const address = (by: object): string =>
    `/jobs?${new URLSearchParams({ show, sort, ...(find && { find }), ...by }).toString()}`;
  const anything = any || openSheets.total > 0 || sheetJobs.total > 0 || find !== '' || show !== 'all';
  const ofSheets = (
    <SheetJobs rows={sheetJobs.rows}>
      <Pager
        page={sheets}
        pages={Math.ceil(sheetJobs.total / JOBS_A_PAGE)}
        href={(p) => address({ sheets: String(p) })}
      />
    </SheetJobs>
  );
  const ofRuns = rows.length > 0 && (
    <section className="panel">
      <h2>Runs on rolls</h2>
      <DataTable
        label="Runs"
        rows={rows}
        keyOf={(r) => r.id}
        columns={[
          [
            'run',
            (r) => (
              <Link href={`/jobs/${r.id}`}>
                {r.label} {r.name}
              </Link>
            ),
            'row',
          ],
          ['rig, media', (r) => `${r.rig}, ${r.media}`],
          ['started', (r) => `${dateText(r.startedAt, 'd MMM yyyy')}, ${r.startedBy}`],
          ['stands at', (r) => STAGE_WORDS[r.stage]],
          ['sections', (r) => `${r.done} of ${r.sections}`, 'num'],
          ['spoiled', (r) => r.spoiled ?? '·', 'num'],
          ['expected', (r) => expectedItems(r.predictedSpoiled), 'num'],
        ]}
      />
      <Pager page={page} pages={Math.ceil(total / RUNS_A_PAGE)} href={(p) => address({ page: String(p) })} />
    </section>
  );
  // What the sentence is about comes first.
  return (
    <Page title="Jobs" context={<strong>Jobs</strong>}>
      <div className="answer-row">
        <h1 className="answer">
          {first
            ? `${open.total === 1 ? 'One run is' : `${open.total} runs are`} open: ${first.label} ${first.name} has ${first.done} of ${first.sections} sections cut.`
            : waiting
              ? `${openSheets.total === 1 ? 'One sheet job is' : `${openSheets.total} sheet jobs are`} open: ${waiting.label} ${waiting.name} is ${SHEET_STAGE_WORDS[waiting.stage]}.`
              : any || sheetJobs.total > 0
                ? 'No job is open. Lay out a sheet, or plan a run.'
                : 'A long run drifts. Plan it in sections, follow it, and correct as it goes.'}
        </h1>
        <span className="d-flex gap-2 flex-wrap flex-shrink-0">
          <Link href="/jobs/outline" className="btn btn-plain">
            A sheet from a picture
          </Link>
          <Link href="/jobs/check" className="btn btn-plain">
            Check a pair
          </Link>
          <Link href="/jobs/new" className="btn btn-main">
            <Plus size={20} aria-hidden /> Plan a run
          </Link>
        </span>
      </div>
      {anything && <JobFilters show={show} sort={sort} find={find} address={address} />}
      {anything && sheetJobs.total + total === 0 && (
        <p className="soft">No job is like that. Look for less of its name, or among all of them.</p>
      )}
      {first ? (
        <>
          {ofRuns}
          {ofSheets}
        </>
      ) : (
        <>
          {ofSheets}
          {ofRuns}
        </>
      )}
    </Page>
  );
}

const SHOWN = [
  ['all', 'All'],
  ['open', 'Open'],
  ['closed', 'Closed'],
] as const;
const SORTED: readonly (readonly [(typeof JOB_SORTS)[number], string])[] = [
  ['newest', 'newest'],
  ['name', 'name'],
  ['rig', 'rig'],
  ['spoiled', 'most spoiled'],
];

/** What is shown of sheets and runs, and in what order: in the address, so that a view can be kept and sent on. */
function JobFilters({
  show,
  sort,
  find,
  address,
}: {
  show: string;
  sort: string;
  find: string;
  address: (by: object) => string;
}) {
  const link = (by: object, words: string, current: boolean) => (
    <Link
      key={words}
      className={`btn btn-plain ${current ? 'active' : ''}`}
      aria-current={current ? 'true' : undefined}
      href={address(by)}
    >
      {words}
    </Link>
  );
  return (
    <div className="d-flex gap-2 flex-wrap mb-3 align-items-end">
      <form role="search" action="/jobs" className="me-3">
        <input type="hidden" name="show" value={show} />
        <input type="hidden" name="sort" value={sort} />
        <FormLabel htmlFor="find-job">Find a job</FormLabel>
        <FormControl
          id="find-job"
          name="find"
          type="search"
          key={find}
          defaultValue={find}
          placeholder="name, number, rig, who"
          maxLength={100}
        />
      </form>
      {SHOWN.map(([value, words]) => link({ show: value }, words, show === value))}
      <span className="soft ms-3 pb-2">sorted by</span>
      {SORTED.map(([value, words]) => link({ sort: value }, words, sort === value))}
    </div>
  );
}
