import Link from 'next/link';
import { z } from 'zod';

import { lengthFigure } from '@/core/units';
import { preferences, requestDeps } from '@/server/base/context';
import { listSessions, SESSIONS_A_PAGE, type LogFilter } from '@/server/logbook/logbook';
import { listSetups } from '@/server/setups/repository';
import { dateText } from '@/clock/dates';
import { Pager } from '@/ui/Pager';
import { StateTag } from '@/ui/StateTag';
import { DataTable } from '@/ui/tables/DataTable';

import { Page } from '../frame/Page';

import { LogFilterForm } from './LogFilterForm';

const Query = z.object({
  setup: z.uuid().optional().catch(undefined),
  kind: z.enum(['calibration', 'quick-check', 'roll-proof']).optional().catch(undefined),
  outcome: z.enum(['plumb', 'leaning', 'out-of-plumb']).optional().catch(undefined),
  find: z.string().max(100).catch(''),
  sort: z.enum(['when', 'r95']).catch('when'),
  order: z.enum(['up', 'down']).catch('down'),
  page: z.coerce.number().int().min(1).max(100_000).catch(1),
});

export const KIND_WORDS = {
  calibration: 'calibration',
  'quick-check': 'quick check',
  'roll-proof': 'roll proof',
} as const;

/** Sessions, newest first; filter, sort, export. */
export async function LogbookPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const query = Query.parse(await searchParams);
  const { unit } = await preferences();
  const deps = requestDeps();
  const filter: LogFilter = {
    setupId: query.setup,
    kind: query.kind,
    outcome: query.outcome,
    find: query.find,
    sort: query.sort,
    descending: query.order === 'down',
    page: query.page,
  };
  const [{ rows, total }, setups] = await Promise.all([listSessions(deps, filter), listSetups(deps)]);
  const address = (by: Readonly<Record<string, string>>): string => {
    const next = new URLSearchParams();
    for (const [name, value] of Object.entries(query))
      if (value && name !== 'page') next.set(name, String(value));
    for (const [name, value] of Object.entries(by)) next.set(name, value);
    return `/logbook?${next}`;
  };
  const sortHref = (sort: 'when' | 'r95'): string =>
    address({ order: query.sort === sort && query.order === 'down' ? 'up' : 'down', sort });
  const arrow = (sort: string): string => (query.sort === sort ? (query.order === 'down' ? ' ↓' : ' ↑') : '');
  // Of the medium that is shown; with one rig in the shop there is nothing to choose.
  const charted =
    setups.find((r) => r.id === query.setup) ??
    (new Set(setups.map((r) => r.rigId)).size === 1 ? setups[0] : null);
  const filtered = Boolean(query.setup ?? query.kind ?? query.outcome) || query.find.trim() !== '';
  return (
    <Page title="Logbook" context={<strong>Logbook</strong>}>
      <h1 className="answer">{answer(total, filtered)}</h1>
      <div className="d-flex flex-wrap gap-3 align-items-end mb-3 no-print">
        <LogFilterForm
          setups={setups.map((r) => ({ id: r.id, words: `${r.name}, ${r.media}` }))}
          chosen={{ setup: query.setup, kind: query.kind, outcome: query.outcome, find: query.find }}
        />
        <span className="ms-auto d-flex gap-2">
          {charted && (
            <Link className="btn btn-plain" href={`/rigs/${charted.rigId}/charts?medium=${charted.id}`}>
              Charts
            </Link>
          )}
          <a className="btn btn-plain" href="/api/logbook/csv">
            Export CSV
          </a>
          <a className="btn btn-plain" href="/api/logbook/json">
            Export JSON
          </a>
          <Link className="btn btn-plain" href="/logbook/shop">
            The shop
          </Link>
        </span>
      </div>
      <section className="panel">
        {rows.length === 0 ? (
          <p className="mb-0">
            {filtered
              ? 'Choose other filters above.'
              : 'Calibrate a rig or check one; it will be written here.'}
          </p>
        ) : (
          <DataTable
            label="Sessions"
            rows={rows}
            keyOf={(row) => row.id}
            sorted={{ 0: ariaSort(query, 'when'), 5: ariaSort(query, 'r95') }}
            columns={[
              [
                <Link key="when" href={sortHref('when')}>
                  when{arrow('when')}
                </Link>,
                (row) => (
                  <Link href={row.stage === 'closed' ? `/logbook/${row.id}` : `/calibrate/${row.id}`}>
                    {dateText(row.startedAt, 'd MMM yyyy, HH:mm')}
                  </Link>
                ),
              ],
              [
                'rig and media',
                (row) => (
                  <>
                    {row.rig}
                    <br />
                    <span className="small-print">{row.media}</span>
                  </>
                ),
              ],
              ['what', (row) => KIND_WORDS[row.kind]],
              ['who', (row) => row.startedBy],
              [
                'state',
                (row) =>
                  row.discarded || row.unproved || row.stage !== 'closed' ? (
                    <span className="tag tag-none">
                      {row.discarded ? 'discarded' : row.unproved ? 'not proved' : 'open'}
                    </span>
                  ) : (
                    <StateTag state={row.outcome} />
                  ),
              ],
              [
                <Link key="r95" href={sortHref('r95')}>
                  95 of 100 within, {unit}
                  {arrow('r95')}
                </Link>,
                (row) => (
                  <>
                    {row.r95Mm === null ? '' : lengthFigure(row.r95Mm, unit)}{' '}
                    <span className="soft">of {lengthFigure(row.toleranceMm, unit)}</span>
                  </>
                ),
                'num',
              ],
            ]}
          />
        )}
        <Pager
          page={query.page}
          pages={Math.ceil(total / SESSIONS_A_PAGE)}
          href={(p) => address({ page: String(p) })}
        />
      </section>
    </Page>
  );
}

const ariaSort = (
  query: { sort: string; order: string },
  sort: string,
): 'ascending' | 'descending' | undefined =>
  query.sort === sort ? (query.order === 'down' ? 'descending' : 'ascending') : undefined;

function answer(count: number, filtered: boolean): string {
  if (count === 0) return filtered ? 'No session is like that.' : 'Nothing has been measured yet.';
  const sessions = count === 1 ? '1 session' : `${count} sessions`;
  return filtered ? `${sessions} like that.` : `${sessions}, every reading and every figure typed.`;
}
