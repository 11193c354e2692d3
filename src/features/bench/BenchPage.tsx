import { Plus, Search } from 'lucide-react';
import Link from 'next/link';
import ButtonGroup from 'react-bootstrap/ButtonGroup';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import { z } from 'zod';

import type { LengthUnit } from '@/core/units';
import DropOnSetups from '@/features/forms/drop/DropOnSetups';
import { preferences, requestDeps } from '@/server/base/context';
import { shopStamp } from '@/server/logbook/shopStamp';
import { rigsOf } from '@/server/rigs/repository';
import { stepsAtHand } from '@/server/setups/stepsAtHand';

import { LiveRefresh } from '@/ui/LiveRefresh';

import { Page } from '../frame/Page';

import { BenchKeys } from './BenchKeys';
import {
  benchView,
  SHOWN,
  type BenchFilter,
  type BenchView,
  type RigGroupView,
  type Shown,
} from './bench.view';
import { OpenRow, QuietRow, QuietSetup } from './SetupRows';

const asked = z.object({
  show: z.enum(SHOWN).catch('all'),
  find: z.string().max(80).catch(''),
});

/** Rigs, what is on them, and what needs doing now. */
export async function BenchPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const filter = asked.parse(await searchParams);
  const { unit } = await preferences();
  const deps = requestDeps();
  const stamp = await shopStamp(deps);
  const { setups, runs, today } = await stepsAtHand(deps);
  const rigs = await rigsOf(
    deps,
    setups.map((s) => s.setup),
  );
  const onIt = Object.fromEntries(rigs.flatMap((r) => (r.onIt ? [[r.id, r.onIt.setupId]] : [])));
  const view = benchView(setups, unit, new Date(), runs, onIt, filter, today);
  return (
    <Page
      title="Bench"
      context={
        <strong>
          {rigs.length === 1 ? '1 rig' : `${rigs.length} rigs`},{' '}
          {setups.length === 1 ? '1 setup' : `${setups.length} setups`}
        </strong>
      }
    >
      <LiveRefresh address="/api/stamp" stamp={stamp} />
      <h1 className="answer bench-answer">
        {view.answer.map((part) => (
          <span key={part.text} className={part.aside && 'aside'}>
            {part.to === undefined ? part.text : <a href={`#n${part.to}`}>{part.text}</a>}
          </span>
        ))}
      </h1>
      <div className="find">
        {setups.length > 1 && <Find filter={filter} counts={view.counts} />}
        <span className="find-end">
          {setups.length > 0 && (
            <Link
              href="/correct"
              className="btn btn-plain drop-here"
              title="Dropped on a setup they come back ready for it"
            >
              Correct a file
            </Link>
          )}
          <Link href="/rigs/new" className="btn btn-plain" aria-label="Add a rig">
            <Plus size={20} aria-hidden /> Rig
          </Link>
        </span>
      </div>
      <BenchKeys key={filter.find} find={filter.find} />
      <DropOnSetups>
        {view.groups.map((group) => (
          <RigGroup key={group.id} group={group} unit={unit} />
        ))}
      </DropOnSetups>
      {setups.length > 0 && view.groups.length === 0 && (
        <p>
          Nothing on the bench is called or waits like that. <Link href="/">Show all of it</Link>
        </p>
      )}
      {setups.length > 0 && (
        <p className="small-print">95 of 100 cuts land within this, of what is allowed.</p>
      )}
    </Page>
  );
}

const SHOWN_WORDS: Readonly<Record<Shown, string>> = {
  all: 'All',
  'needs-you': 'To do',
  leaning: 'Leaning',
  'never-proved': 'Never proved',
};

function Find({ filter, counts }: { filter: BenchFilter; counts: BenchView['counts'] }) {
  const at = (show: Shown): string => {
    const query = new URLSearchParams({
      ...(show === 'all' ? {} : { show }),
      ...(filter.find ? { find: filter.find } : {}),
    }).toString();
    return query ? `/?${query}` : '/';
  };
  return (
    <>
      <form role="search" className="find-form">
        <FormControl
          type="search"
          name="find"
          defaultValue={filter.find}
          aria-label="Find rig, medium or job"
          aria-keyshortcuts="/"
          placeholder="Find rig, medium, job"
        />
        {filter.show !== 'all' && <input type="hidden" name="show" value={filter.show} />}
        <Button type="submit" variant="plain" aria-label="Find">
          <Search size={20} aria-hidden />
        </Button>
      </form>
      <ButtonGroup as="nav" role="navigation" aria-label="Which setups">
        {SHOWN.filter((show) => show === 'all' || show === filter.show || counts[show] > 0).map((show) => (
          <Link
            key={show}
            href={at(show)}
            className={`btn btn-plain${filter.show === show ? ' active' : ''}`}
            aria-current={filter.show === show ? 'true' : undefined}
          >
            {SHOWN_WORDS[show]} <span className="fw-normal">{counts[show]}</span>
          </Link>
        ))}
      </ButtonGroup>
    </>
  );
}

/** A rig is a beam; its setups hang on it. */
function RigGroup({ group, unit }: { group: RigGroupView; unit: LengthUnit }) {
  return (
    <section className="rig-group" aria-label={`On the rig ${group.name}`}>
      <header>
        <h2>
          <Link href={`/rigs/${group.id}`} title={group.about}>
            {group.name}
          </Link>
        </h2>
        <span className="end">
          {group.onIt && (
            <span className="aside">
              on it <strong>{group.onIt}</strong>
            </span>
          )}
          {group.shows && (
            <span className="small-print shows">
              <span className="aside">shows</span> <span className="mono">{group.shows}</span>
            </span>
          )}
          <Link
            href={`/rigs/${group.id}/new`}
            className="aside"
            aria-label={`Another medium on ${group.name}`}
          >
            Another medium
          </Link>
        </span>
      </header>
      {group.open.map((row) => (
        <OpenRow key={row.id} row={row} unit={unit} />
      ))}
      {group.quiet.map((row) => (
        <QuietRow key={row.id} row={row} />
      ))}
      {group.apart.length > 0 && (
        <div className="quiet-setups">
          {group.apart.map((row) => (
            <QuietSetup key={row.id} row={row} />
          ))}
        </div>
      )}
    </section>
  );
}
