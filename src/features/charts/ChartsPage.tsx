import Link from 'next/link';
import { notFound } from 'next/navigation';
import { z } from 'zod';

import { RIG_CHARTS } from '@/core/control';
import { TERM_NAMES } from '@/core/fit';
import { waiting } from '@/features/forms/acts/nextSteps';
import { SetupAct } from '@/features/forms/acts/SetupAct';
import { actsOf } from '@/features/forms/acts/setupActs';
import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { getRig } from '@/server/rigs/repository';
import { stepsAtHand } from '@/server/setups/stepsAtHand';
import { chartLoads } from '@/server/watch/chartLoads';
import { dateText, dayStart } from '@/clock/dates';
import { EVENT_WORDS } from '@/ui/words/eventWords';
import { TERM_WORDS } from '@/ui/words/termWords';

import { ChartDesk } from './ChartDesk';
import { CHART_ABOUT, CHART_WORDS, chartsView, termThatSignals } from './charts.view';

const day = z
  .string()
  .regex(/^\d{4}-\d{2}-\d{2}$/)
  .optional()
  .catch(undefined);

const Query = z.object({
  medium: z.uuid().optional().catch(undefined),
  chart: z.enum(RIG_CHARTS).catch('averages'),
  term: z.enum(TERM_NAMES).optional().catch(undefined),
  from: day,
  to: day,
});

/** A rig’s charts: one medium, one chart and one term at a time, over all of its loads or a part. */
export async function ChartsPage({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const id = idSchema.safeParse((await params).id);
  if (!id.success) notFound();
  const query = Query.parse(await searchParams);
  const deps = requestDeps();
  const rig = await getRig(deps, id.data);
  if (!rig) notFound();
  const { unit } = await preferences();
  const setup = rig.setups.find((s) => s.id === (query.medium ?? rig.onIt?.setupId)) ?? rig.setups[0];
  const address = (by: Readonly<Record<string, string | undefined>>): string => {
    const next = new URLSearchParams();
    for (const [name, value] of Object.entries({ ...query, ...by })) if (value) next.set(name, value);
    return `/rigs/${rig.id}/charts?${next}`;
  };
  const context = (
    <>
      <Link href={`/rigs/${rig.id}`}>
        <strong>{rig.name}</strong>
      </Link>
      <span className="soft">charts{setup && ` of ${setup.media}`}</span>
    </>
  );
  if (!setup)
    return (
      <Page title={`Charts of ${rig.name}`} context={context}>
        <h1 className="answer">No medium is on this rig: nothing to chart.</h1>
        <Link href={`/rigs/${rig.id}`}>Back to the rig</Link>
      </Page>
    );
  const { record, events } = await chartLoads(deps, setup);
  // Without a choice the term that speaks.
  const term = query.term ?? termThatSignals(record, setup.toleranceMm);
  const asked = { chart: query.chart, term };
  const view = chartsView(
    record,
    asked,
    {
      from: query.from ? +dayStart(query.from, 0) : null,
      to: query.to ? +dayStart(query.to, 1) - 1 : null,
    },
    setup.toleranceMm,
    dateText,
    events.map((e) => ({ at: +e.at, words: EVENT_WORDS[e.kind] ?? e.kind })),
  );
  const atHand = await stepsAtHand(deps, rig.id);
  const own = atHand.setups.find((b) => b.setup.id === setup.id);
  const [step] = own
    ? waiting([own], atHand.runs, deps.now(), unit, atHand.today).filter((t) => t.setupId === setup.id)
    : [];
  const act = own && step && actsOf(own, [step], false)[0];
  return (
    <Page title={`Charts of ${setup.media} on ${rig.name}`} context={context}>
      <div className="answer-row">
        <h1 className="answer">{view.answer}</h1>
        {act && step && (
          <span className="flex-shrink-0 text-end">
            <SetupAct act={act} setupId={setup.id} main />
            <br />
            <span className="small-print">{step.why}</span>
          </span>
        )}
      </div>
      <section className="panel">
        <div className="scroll-line no-print">
          {rig.setups.length > 1 && (
            <Choice
              label="Medium"
              chosen={setup.id}
              of={rig.setups.map((s) => ({
                value: s.id,
                words: s.label ? `${s.media}, ${s.label}` : s.media,
              }))}
              href={(medium) => address({ medium, from: undefined, to: undefined })}
            />
          )}
          <Choice
            label="Chart"
            chosen={query.chart}
            of={RIG_CHARTS.map((value) => ({ value, words: CHART_WORDS[value] }))}
            href={(chart) => address({ chart })}
          />
        </div>
        <div className="scroll-line mb-2 no-print">
          {query.chart !== 'all-terms' && (
            <Choice
              label="Term"
              chosen={term}
              of={TERM_NAMES.map((value) => ({ value, words: TERM_WORDS[value] }))}
              href={(term) => address({ term })}
            />
          )}
        </div>
        <p className="small-print">{CHART_ABOUT[query.chart]}</p>
        {view.chart ? (
          <ChartDesk
            key={`${setup.id} ${query.chart} ${term}`}
            chart={view.chart}
            kind={query.chart}
            name={
              query.chart === 'all-terms'
                ? `All terms of ${setup.media} on ${rig.name}`
                : `${TERM_WORDS[term]} of ${setup.media} on ${rig.name}`
            }
            events={events.map((e) => ({ at: +e.at, words: EVENT_WORDS[e.kind] ?? e.kind }))}
            days={{ from: query.from ?? null, to: query.to ?? null }}
            address={address({ from: undefined, to: undefined })}
            csv={`/api/setups/${setup.id}/chart?chart=${query.chart}&term=${term}`}
            unit={unit}
          />
        ) : (
          <p className="mb-0">
            <Link href={`/setups/${setup.id}`}>Calibrate or check {setup.media}</Link>: every set that is read
            becomes a load in these charts.
          </p>
        )}
      </section>
    </Page>
  );
}

function Choice({
  label,
  chosen,
  of,
  href,
}: {
  label: string;
  chosen: string;
  of: readonly { readonly value: string; readonly words: string }[];
  href: (value: string) => string;
}) {
  return (
    <nav className="d-flex gap-2 align-items-center" aria-label={label}>
      <span className="soft">{label}</span>
      {of.map(({ value, words }) => (
        <Link
          key={value}
          href={href(value)}
          className={`btn btn-plain btn-small${value === chosen ? ' active' : ''}`}
          aria-current={value === chosen ? 'true' : undefined}
          scroll={false}
        >
          {words}
        </Link>
      ))}
    </nav>
  );
}
