import Link from 'next/link';
import { notFound } from 'next/navigation';

import { registrationScatter } from '@/core/correction';
import { toType, unprovedTools } from '@/core/setup';
import { setupState } from '@/core/verdict';
import { fixed, lengthText, placesOfStep, type LengthUnit } from '@/core/units';
import { Page } from '@/features/frame/Page';
import { MoreActs } from '@/ui/MoreActs';
import { LiveRefresh } from '@/ui/LiveRefresh';
import { Fold } from '@/ui/Fold';
import { DropTo } from '@/features/forms/drop/DropTo';
import { FirstEdge } from '@/features/forms/setup/FirstEdge';
import { waiting, type TaskView } from '@/features/forms/acts/nextSteps';
import { SetupAct } from '@/features/forms/acts/SetupAct';
import { actsOf } from '@/features/forms/acts/setupActs';
import { preferences, requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { shopStamp } from '@/server/logbook/shopStamp';
import { isProved, type BenchSetup } from '@/server/setups/bench';
import { expectedNow } from '@/server/setups/expectedNow';
import { ownPagesOf } from '@/server/setups/ownPage';
import { getSetup } from '@/server/setups/repository';
import { stepsAtHand } from '@/server/setups/stepsAtHand';
import type { Setup } from '@/server/setups/setup';
import { loadScatterOf, setupRecord } from '@/server/setups/setupRecord';
import { standingHistory, type StandingEntry } from '@/server/setups/standing';
import { dateText } from '@/clock/dates';
import { EVENT_WORDS } from '@/ui/words/eventWords';
import { RecordChart } from '@/ui/charts/RecordChart';
import { registeredWords, scatterWords } from '@/ui/words/scatterWords';
import { sizeWords } from '@/ui/words/sizeWords';
import { Word } from '@/ui/words/Word';
import { DataTable, type Column, ears } from '@/ui/tables/DataTable';

import { AboutSetup } from './AboutSetup';
import { OwnPages } from './OwnPages';
import { RemoveSetup } from './RemoveSetup';
import { findingsOf, nextWords, setupAnswer, SOURCE_WORDS } from './setup.view';
import { Wanted } from './Wanted';
import { StandAgain } from './StandAgain';

/** A medium and size on a rig: what its machines have to show, what its files carry, and since when. */
export async function SetupPage({ params }: { params: Promise<{ id: string }> }) {
  const id = idSchema.safeParse((await params).id);
  if (!id.success) notFound();
  const deps = requestDeps();
  const stamp = await shopStamp(deps);
  const setup = await getSetup(deps, id.data);
  if (!setup) notFound();
  const { unit } = await preferences();
  const atHand = await stepsAtHand(deps, setup.rigId);
  const bench = atHand.setups;
  const onBench = bench.find((s) => s.setup.id === setup.id) ?? null;
  const tools = unprovedTools(
    setup,
    bench.map((b) => ({ setup: b.setup, proved: isProved(b) })),
  );
  const standing = await standingHistory(deps, setup.id);
  const record = await setupRecord(deps, setup, deps.now());
  const scatter = loadScatterOf(setup, setup.marks, record.loads);
  const marks = registrationScatter(record.registered);
  const next = await expectedNow(deps, setup, record, scatter);
  const runs = await ownPagesOf(deps, setup.id);
  const own = onBench && waiting([onBench], atHand.runs, deps.now(), unit, atHand.today);
  const steps = own?.filter((t) => t.setupId === setup.id) ?? [];
  const stands = onBench && setupState(onBench);
  return (
    <Page
      title={`${setup.media} on ${setup.name}`}
      context={
        <>
          <Link href={`/rigs/${setup.rigId}`}>
            <strong>{setup.name}</strong>
          </Link>
          <span className="soft">
            {setup.media}, {sizeWords(setup, unit)}
            {setup.label && `, ${setup.label}`}
            {setup.archived && ', put away'}
          </span>
          {!setup.archived && <Link href={`/setups/${setup.id}/edit`}>Edit</Link>}
        </>
      }
    >
      <LiveRefresh address="/api/stamp" stamp={stamp} />
      <h1 className="answer">{setupAnswer(setup, stands, steps[0] ?? null, unit)}</h1>
      {[...findingsOf(setup), ...tools].map((words) => (
        <p key={words} className="notice">
          {words}
        </p>
      ))}
      {onBench && <Acts setup={setup} onBench={onBench} steps={steps} />}
      <div className="two work-first mt-3">
        <div className="stack">
          <Wanted setup={setup} />
          <Fold name="setup-standing" words="Its standing correction" usual={`${standing.length} on record`}>
            <Standing setup={setup} entries={standing} unit={unit} />
          </Fold>
          {(setup.changeable === 'machine-page' || runs.length > 0) && (
            <OwnPages setupId={setup.id} medium={setup.media} runs={runs} />
          )}
          {onBench && onBench.history.length > 1 && <Record bench={onBench} unit={unit} />}
        </div>
        <div className="stack side">
          {!setup.archived && (
            <DropTo setupId={setup.id}>
              Drop cut files for {setup.media} here: they come back corrected.
            </DropTo>
          )}
          <Fold
            name="setup-about"
            words="About it"
            usual={`${sizeWords(setup, unit)}, ${lengthText(setup.toleranceMm, unit)} allowed`}
          >
            <AboutSetup
              setup={setup}
              onBench={onBench}
              loads={[
                scatterWords(scatter, unit),
                ...(marks ? [registeredWords(marks, scatter.shiftMm, unit)] : []),
              ].join(' ')}
              next={next && nextWords(next, unit)}
              unit={unit}
            />
          </Fold>
          <Fold
            name="first-edge"
            words="Edge first out"
            usual={setup.bobFirst === null ? 'not told' : setup.bobFirst ? 'the bob’s' : 'the other one'}
          >
            <FirstEdge setupId={setup.id} bobFirst={setup.bobFirst} />
          </Fold>
          <Fold name="setup-off" words={setup.archived ? 'Put it back' : 'Put away'} usual="nothing is lost">
            <RemoveSetup
              setupId={setup.id}
              name={`${setup.media} on ${setup.name}`}
              archived={setup.archived}
            />
          </Fold>
        </div>
      </div>
    </Page>
  );
}

/** What is likeliest done with it, as on the Bench; four, and the rest behind More. */
function Acts({ setup, onBench, steps }: { setup: Setup; onBench: BenchSetup; steps: readonly TaskView[] }) {
  const acts = actsOf(onBench, steps, toType(setup.settings).length > 0);
  const first = steps.length > 0 || toType(setup.settings).length > 0;
  return (
    <div className="d-flex gap-2 flex-wrap">
      {acts.slice(0, SHOWN).map((act, i) => (
        <SetupAct key={act.words} act={act} setupId={setup.id} main={i === 0 && first} />
      ))}
      <MoreActs words="More acts" of={setup.media}>
        {acts.slice(SHOWN).map((act) => (
          <SetupAct key={act.words} act={act} setupId={setup.id} main={false} />
        ))}
        {toType(setup.settings).length === 0 && (
          <Link className="btn btn-plain" href={`/setups/${setup.id}/change-over`}>
            Change over
          </Link>
        )}
        <Link className="btn btn-plain" href={`/setups/${setup.id}/by-hand`}>
          Find the print by hand
        </Link>
        <Link className="btn btn-plain" href={`/setups/${setup.id}/roll`}>
          Drift
        </Link>
        <Link className="btn btn-plain" href={`/rigs/${setup.rigId}/new?like=${setup.id}`}>
          Another like it
        </Link>
      </MoreActs>
    </div>
  );
}

const SHOWN = 4;

/** What stands, and what stood before it. */
function Standing({
  setup,
  entries,
  unit,
}: {
  setup: Setup;
  entries: readonly StandingEntry[];
  unit: LengthUnit;
}) {
  return (
    <section className="panel">
      <h2>
        Its <Word of="standing correction" />
      </h2>
      <p className="small-print">
        What to have typed in, and what goes into every cut file. A proved calibration replaces it; earlier
        ones are kept.
      </p>
      <DataTable
        label="Standing corrections"
        rows={entries}
        keyOf={(e) => e.id}
        rowProps={(e) => ({ 'aria-current': e.replacedAt === null ? 'true' : undefined })}
        columns={[
          [
            'since',
            (e) => (
              <>
                <span className="text-nowrap">{dateText(e.since, 'd MMM yyyy')}</span>
                <br />
                <span className="small-print">{e.by}</span>
              </>
            ),
          ],
          ...setup.settings.map((s): Column<StandingEntry> => [
            s.name,
            (e) => {
              const figure = fixed(e.settings[s.id] ?? s.wanted, placesOfStep(s.step));
              return e.replacedAt === null ? <strong>{figure}</strong> : figure;
            },
            'num',
          ]),
          [
            'source',
            (e) => (
              <>
                {SOURCE_WORDS[e.source]}
                {e.carriesFile && '; files carry a part'}
                {e.session && (
                  <>
                    <br />
                    <Link href={`/logbook/${e.session.id}`}>
                      session {String(e.session.number).padStart(4, '0')}
                    </Link>
                  </>
                )}
              </>
            ),
          ],
          [
            'within, at that time',
            (e) => (e.r95Mm === null ? '' : lengthText(e.r95Mm, unit)),
            'num text-nowrap',
          ],
          [
            ears('take back'),
            (e) =>
              e.replacedAt === null
                ? 'in use'
                : !setup.archived && (
                    <StandAgain setupId={setup.id} standingId={e.id} when={dateText(e.since, 'd MMM yyyy')} />
                  ),
            'text-end',
          ],
        ]}
      />
    </section>
  );
}

/** What its cuts stayed within over time, with what happened. */
function Record({ bench, unit }: { bench: BenchSetup; unit: LengthUnit }) {
  return (
    <section className="panel">
      <RecordChart
        title={`${bench.setup.media}: what 95 of 100 cuts stayed within, ${unit}`}
        points={bench.history.map((h) => ({
          at: h.at,
          r95Mm: h.r95Mm,
          words:
            h.kind === 'quick-check'
              ? 'quick check'
              : h.proved
                ? 'calibrated and proved'
                : 'measured, left as it is',
        }))}
        events={bench.events.map((e) => ({ at: e.at, words: EVENT_WORDS[e.kind] ?? e.kind }))}
        toleranceMm={bench.setup.toleranceMm}
        unit={unit}
      />
    </section>
  );
}
