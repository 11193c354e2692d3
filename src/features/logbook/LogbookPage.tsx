import { setupsByRig, setupWords } from '@/core/setup/inLists';
import Link from 'next/link';
import { z } from 'zod';

import { lengthFigure, lengthText, type LengthUnit } from '@/core/units';
import { STATE_WORDS } from '@/core/verdict';
import { preferences, requestDeps } from '@/server/base/context';
import { listSessions, SESSIONS_A_PAGE, type LogFilter, type LogRow } from '@/server/logbook/logbook';
import { listSetups } from '@/server/setups/repository';
import { dateText } from '@/clock/dates';
import { MoreActs } from '@/ui/MoreActs';
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
  const newest =
    query.sort === 'when' && query.order === 'down' && query.page === 1
      ? (rows.find((r) => r.stage === 'closed') ?? rows[0])
      : undefined;
  const filtered = Boolean(query.setup ?? query.kind ?? query.outcome) || query.find.trim() !== '';
  return (
    <Page title="Logbook" context={<strong>Logbook</strong>}>
      <h1 className="answer">{answer(total, filtered, newest, unit)}</h1>
      <div className="log-bar no-print">
        <LogFilterForm
          setups={setupsByRig(setups).map((s) => ({ id: s.id, words: setupWords(s) }))}
          chosen={{ setup: query.setup, kind: query.kind, outcome: query.outcome, find: query.find }}
        />
        <span className="ms-auto d-flex gap-2">
          {charted && (
            <Link className="btn btn-plain" href={`/rigs/${charted.rigId}/charts?medium=${charted.id}`}>
              Charts
            </Link>
          )}
          <Link className="btn btn-plain" href="/logbook/shop">
            Shop settings
          </Link>
          <MoreActs words="Export" of="the logbook">
            <a className="btn btn-plain" href="/api/logbook/csv">
              Export CSV
            </a>
            <a className="btn btn-plain" href="/api/logbook/json">
              Export JSON
            </a>
          </MoreActs>
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
            className="log-rows"
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
                    {dateText(row.startedAt, 'd MMM yyyy')}
                    <span className="hour">{dateText(row.startedAt, ', HH:mm')}</span>
                  </Link>
                ),
              ],
              [
                'rig and media',
                (row) => (
                  <>
                    {row.rig} <span className="soft">/ {row.media}</span>
                  </>
                ),
              ],
              ['what', (row) => KIND_WORDS[row.kind], 'aside what'],
              ['who', (row) => row.startedBy, 'aside'],
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

function answer(count: number, filtered: boolean, newest: LogRow | undefined, unit: LengthUnit): string {
  if (count === 0) return filtered ? 'No session is like that.' : 'Nothing has been measured yet.';
  const sessions = count === 1 ? '1 session' : `${count} sessions`;
  if (filtered || !newest) return filtered ? `${sessions} like that.` : `${sessions}.`;
  const of = `${newest.media} on ${newest.rig}`;
  const at = dateText(newest.closedAt ?? newest.startedAt, 'd MMM');
  const what =
    newest.stage !== 'closed' || newest.r95Mm === null || newest.outcome === null
      ? `${of}, a ${KIND_WORDS[newest.kind]} of ${at}`
      : `${of}, ${STATE_WORDS[newest.outcome].toLowerCase()} within ${lengthText(newest.r95Mm, unit)} on ${at}`;
  return `Newest of ${count}: ${what}.`;
}
