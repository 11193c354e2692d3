import Link from 'next/link';
import { notFound } from 'next/navigation';

import {
  correctedFeed,
  isReal,
  lengthError,
  Predictor,
  type DriftRun,
  type Interval,
  type LengthError,
} from '@/core/drift';
import {
  lengthText,
  type LengthUnit,
  longText,
  longToMm,
  type OffsetAxis,
  offsetText,
  RATE_UNIT,
  rateFigure,
  rateText,
  signedRate,
  walkStretch,
} from '@/core/units';
import { type AxisKnowledge } from '@/server/drift/setupDrift';
import { preferences, requestDeps } from '@/server/base/context';
import { shownDrift, type SetupDrift } from '@/server/drift/setupDrift';
import { listTapeMeasures } from '@/server/drift/tapeMeasures';
import { getSetup } from '@/server/setups/repository';
import { usualOf } from '@/server/setups/usual';
import { idSchema } from '@/server/base/shapes';

import { Page } from '@/features/frame/Page';

import { TapeSays } from './TapeSays';
import { DriftChart, driftPieces, type DriftBandPoint } from './DriftChart';
import { FeedForm, StripForm, TapeForm, TwoMarksForm } from './RollForms';
import { Word } from '@/ui/words/Word';
import type { Term } from '@/ui/words/words';
import { DataTable } from '@/ui/tables/DataTable';

/** What is known of a rig's drift along a roll, and the ways to learn more. */
export async function RollPage({ params }: { params: Promise<{ id: string }> }) {
  const id = idSchema.safeParse((await params).id);
  if (!id.success) notFound();
  const deps = requestDeps();
  const setup = await getSetup(deps, id.data);
  const drift = await shownDrift(deps, id.data);
  if (!setup || !drift) notFound();
  const { unit } = await preferences();
  const tapes = await listTapeMeasures(deps, setup.id);
  const print = lengthError(
    tapes.filter((t) => t.of === 'print' && (setup.feedSetAt === null || t.at > setup.feedSetAt)),
  );
  const untrue = print !== null && isReal(print) ? print : null;
  const nextFeed = untrue && setup.feedPercent !== null ? correctedFeed(setup.feedPercent, untrue) : null;
  return (
    <Page
      title={`Drift: ${setup.media} on ${setup.name}`}
      context={
        <>
          <strong>{setup.name}</strong>
          <span className="soft">
            {setup.media}; {drift.sectionsOnRecord} sections on record
          </span>
        </>
      }
    >
      <h1 className="answer">{driftAnswer(drift, untrue, setup.feedPercent, nextFeed, unit)}</h1>
      <div className="two">
        <div className="stack">
          {(['along', 'across'] as const).map((axis) => (
            <section className="panel" key={axis}>
              <h2>
                {axis === 'along' ? 'Along the feed' : 'Across the media'}, {unit}, from the first check after
                each registration
              </h2>
              <DriftChart axis={axis} runs={drift.record[axis]} band={bandOf(drift, axis)} unit={unit} />
              <AxisTable axis={axis} known={drift[axis]} runs={drift.record[axis]} unit={unit} />
            </section>
          ))}
        </div>
        <div className="stack side">
          <section className="panel">
            <h2>1. Is the print itself true?</h2>
            <TapeSays tapes={tapes} print={print} unit={unit} />
            <FeedForm
              key={`${setup.feedPercent} ${nextFeed}`}
              setupId={setup.id}
              now={setup.feedPercent}
              next={nextFeed}
            />
            <details className="working" open={tapes.length === 0}>
              <summary>Measure by steel tape</summary>
              <TapeForm setupId={setup.id} unit={unit} />
            </details>
          </section>
          <section className="panel">
            <h2>2. Does the cut follow the print?</h2>
            <details className="working">
              <summary>A long proof strip</summary>
              <StripForm setupId={setup.id} unit={unit} />
            </details>
            <details className="working">
              <summary>Only the first and the last mark</summary>
              <TwoMarksForm setupId={setup.id} usual={await usualOf(deps, setup)} unit={unit} />
            </details>
            <p className="small-print mb-0 mt-2">
              Every run that is checked counts as well. After about four runs of twelve sections the log
              speaks for itself.
            </p>
          </section>
          <Link className="btn btn-main" href={`/jobs/new?setup=${setup.id}`}>
            Plan a run on this rig
          </Link>
        </div>
      </div>
    </Page>
  );
}

/** The band of the next run, from its first check, with the log's own uncertainty. */
function bandOf(drift: SetupDrift, axis: OffsetAxis): DriftBandPoint[] {
  const longest = Math.max(0.3, ...driftPieces(drift.record[axis]).map((piece) => piece.at(-1)!.yM));
  // Two checks, each with its own reading noise.
  const nodes = drift[axis].nodes.map((n) => ({ ...n, registrationVarMm2: 2 * n.readingVarMm2 }));
  const predictor = new Predictor({ along: nodes, across: nodes }, { way: 'start', takenOut: false });
  return Array.from({ length: 25 }, (_, i) => {
    const yM = (longest * i) / 24;
    const { mean, variance } = predictor.moments('along', { tM: yM, y0M: 0, lengthM: longest });
    return { yM, meanMm: mean, sdMm: Math.sqrt(variance) };
  });
}

function driftAnswer(
  drift: SetupDrift,
  untrue: LengthError | null,
  feedPercent: number | null,
  nextFeed: number | null,
  unit: LengthUnit,
): string {
  const { along } = drift;
  if (untrue !== null) {
    const much = `${rateText(untrue.perM, unit)} too ${untrue.perM > 0 ? 'long' : 'short'}`;
    const change =
      nextFeed === null || feedPercent === null
        ? 'Note what its feed is set to'
        : `Change its feed from ${feedPercent.toFixed(2)} to ${nextFeed.toFixed(2)} %`;
    return `Set the printer first: its print is ${much}. ${change}, then see how the cut follows it.`;
  }
  if (along.readings === 0)
    return 'Nothing is on record of how this rig drifts along a roll. Until something is, plans assume what is usual for its media, with a wide margin.';
  const half = (along.creep.high - along.creep.low) / 2;
  const creep = `${rateText(along.creep.value, unit)} ${along.creep.value < 0 ? 'short' : 'long'}, ± ${rateFigure(half, unit)}`;
  const walk = walkStretch(unit);
  const sure = along.creep.low > 0 || along.creep.high < 0;
  const wander = along.wander
    ? ` It wanders by about ${lengthText(Math.sqrt(along.wander.value * walk.lengthM), unit)} over ${walk.words}.`
    : '';
  const enough = along.enough ? '' : ' That is little to go by yet: plans keep a margin.';
  return `${sure ? `The cut creeps: it runs ${creep}.` : `No creep can be told from zero: ${creep}.`}${wander}${enough}`;
}

function AxisTable({
  axis,
  known,
  runs,
  unit,
}: {
  axis: OffsetAxis;
  known: AxisKnowledge;
  runs: readonly DriftRun[];
  unit: LengthUnit;
}) {
  const perM = (v: number): string => `${signedRate(v, unit, 1)} ${RATE_UNIT[unit]}`;
  const walk = walkStretch(unit);
  const root = (v: number): string => lengthText(Math.sqrt(v), unit);
  const at = (yM: number): string => longText(1000 * yM, unit);
  const rows: { name: string; word?: Term; of: Interval | null; show: (v: number) => string }[] = [
    { name: 'creep', word: 'creep', of: known.creep, show: perM },
    {
      name: 'bow',
      word: 'bow',
      of: known.bow,
      // A rate that changes with the length: per m or ft once more.
      show: (v) => `${signedRate(v * longToMm(0.001, unit), unit, 2)} ${RATE_UNIT[unit]}²`,
    },
    {
      name: `wander over ${walk.words}`,
      word: 'wander',
      of: known.wander,
      show: (v) => root(v * walk.lengthM),
    },
    {
      name: 'creep from run to run',
      of: known.creepVar,
      show: (v) => `${rateFigure(Math.sqrt(v), unit, 1)} ${RATE_UNIT[unit]}`,
    },
    { name: 'reading noise', of: known.readingVar, show: root },
    { name: 'registration', of: known.registrationVar, show: root },
  ];
  return (
    <>
      <DataTable
        label="What the log says of drift"
        tight
        rows={rows}
        keyOf={({ name }) => name}
        columns={[
          ['term', ({ name, word }) => (word ? <Word of={word}>{name}</Word> : name), 'row'],
          ['value', ({ of, show }) => (of ? show(of.value) : 'assumed'), 'num'],
          ['95 of 100 from', ({ of, show }) => (of ? show(of.low) : ''), 'num'],
          ['to', ({ of, show }) => (of ? show(of.high) : ''), 'num'],
        ]}
      />
      {known.slips.map((s) => (
        <p key={`${s.runId} ${s.fromM}`} className="mt-2 mb-0">
          Slip in {s.runId}: {offsetText(s.sizeMm.value, axis, unit)} (from{' '}
          {lengthText(Math.abs(s.sizeMm.low), unit)} to {lengthText(Math.abs(s.sizeMm.high), unit)}) between{' '}
          {at(s.fromM)} and {at(s.toM)}. It is left out of the wander.
        </p>
      ))}
      {runs.flatMap((run) =>
        (run.slipsBefore ?? []).map((before) => (
          <p key={`${run.id} ${before}`} className="mt-2 mb-0">
            Slip in {run.id} between {at(run.readings[before - 1]?.yM ?? 0)} and{' '}
            {at(run.readings[before]?.yM ?? 0)}, kept by hand. It is left out of the wander.
          </p>
        )),
      )}
      <p className="small-print mb-0 mt-2">
        {known.runs} runs, {known.readings} readings.
      </p>
    </>
  );
}
