import { format } from 'date-fns';
import { Plus } from 'lucide-react';
import Link from 'next/link';
import { z } from 'zod';

import { requestDeps } from '@/server/context';
import { listRuns, type RunRow, type RunStage } from '@/server/runs';

import { Page } from '../frame/Page';

import { expectedItems } from './planWords';

const filterSchema = z.object({
  show: z.enum(['open', 'closed', 'all']).catch('all'),
  sort: z.enum(['newest', 'rig', 'spoiled']).catch('newest'),
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
  const { show, sort } = filterSchema.parse(await searchParams);
  const all = await listRuns(await requestDeps());
  const rows = sorted(
    all.filter((r) => show === 'all' || (r.stage === 'closed') === (show === 'closed')),
    sort,
  );
  const open = all.filter((r) => r.stage !== 'closed');
  const first = open[0];
  const link = (by: object, words: string, current: boolean) => (
    <Link
      className={`btn btn-plain ${current ? 'active' : ''}`}
      aria-current={current ? 'true' : undefined}
      href={`/jobs?${new URLSearchParams({ show, sort, ...by }).toString()}`}
    >
      {words}
    </Link>
  );
  return (
    <Page context={<strong>Runs on rolls</strong>}>
      <div className="answer-row">
        <h1 className="answer">
          {first
            ? `${open.length === 1 ? 'One run is' : `${open.length} runs are`} open: ${first.label} ${first.name} has ${first.done} of ${first.sections} sections cut.`
            : all.length > 0
              ? 'No run is open. Plan the next one.'
              : 'A long run drifts. Plan it in sections, follow it, and correct as it goes.'}
        </h1>
        <Link href="/jobs/new" className="btn btn-main flex-shrink-0">
          <Plus size={20} aria-hidden /> Plan a run
        </Link>
      </div>
      {all.length > 0 && (
        <section className="panel">
          <div className="d-flex gap-2 flex-wrap mb-2 align-items-center">
            {link({ show: 'all' }, 'All', show === 'all')}
            {link({ show: 'open' }, 'Open', show === 'open')}
            {link({ show: 'closed' }, 'Closed', show === 'closed')}
            <span className="soft ms-3">sorted by</span>
            {link({ sort: 'newest' }, 'newest', sort === 'newest')}
            {link({ sort: 'rig' }, 'rig', sort === 'rig')}
            {link({ sort: 'spoiled' }, 'most spoiled', sort === 'spoiled')}
          </div>
          <table className="rows">
            <thead>
              <tr>
                <th scope="col">run</th>
                <th scope="col">rig, media</th>
                <th scope="col">started</th>
                <th scope="col">stands at</th>
                <th scope="col" className="num">
                  sections
                </th>
                <th scope="col" className="num">
                  spoiled
                </th>
                <th scope="col" className="num">
                  expected
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => (
                <tr key={r.id}>
                  <th scope="row">
                    <Link href={`/jobs/${r.id}`}>
                      {r.label} {r.name}
                    </Link>
                  </th>
                  <td>
                    {r.rig}, {r.media}
                  </td>
                  <td>
                    {format(r.startedAt, 'd MMM yyyy')}, {r.startedBy}
                  </td>
                  <td>{STAGE_WORDS[r.stage]}</td>
                  <td className="num">
                    {r.done} of {r.sections}
                  </td>
                  <td className="num">{r.spoiled ?? '·'}</td>
                  <td className="num">{expectedItems(r.predictedSpoiled)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {rows.length === 0 && <p className="soft mb-0">None of these.</p>}
        </section>
      )}
    </Page>
  );
}

function sorted(rows: readonly RunRow[], by: 'newest' | 'rig' | 'spoiled'): RunRow[] {
  const list = [...rows];
  if (by === 'rig') return list.sort((a, b) => a.rig.localeCompare(b.rig));
  if (by === 'spoiled') return list.sort((a, b) => (b.spoiled ?? -1) - (a.spoiled ?? -1));
  return list;
}
