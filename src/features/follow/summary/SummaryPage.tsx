import { type RunEventKind } from '@/core/setup';
import Link from 'next/link';

import { lengthText, type LengthUnit, offsetText, RATE_UNIT, signedRate, walkStretch } from '@/core/units';
import { preferences, requestDeps } from '@/server/base/context';
import { outlookOn } from '@/server/runs/outlook';
import type { Run } from '@/server/runs/run';

import { Page } from '@/features/frame/Page';

import { ControlFigure } from '../ControlChart';
import { runAt } from '../loadRun';
import { dateText } from '@/clock/dates';
import { expectedItems, expectedWords } from '@/ui/words/planWords';
import { ReopenButton } from '../RunActs';
import { RunContext } from '../RunContext';
import { MOST_ON_CHART } from '../runView';
import { Fold } from '@/ui/Fold';
import { Rows } from '@/ui/tables/Rows';
import { Word } from '@/ui/words/Word';

const EVENT_WORDS: Readonly<Record<RunEventKind, string>> = {
  released: 'released',
  registered: 'registered anew',
  'slip-kept': 'slip kept, made up for by the files',
  standing: 'the setup’s correction was replaced; decided which one the files carry',
  laminated: 'laminated: mark spacing measured again',
  undone: 'the step before taken back',
  paused: 'rested',
  resumed: 'went on',
  closed: 'closed',
  reopened: 'opened again',
};

/** What was predicted, what happened, and what it taught. */
export async function SummaryPage({ params }: { params: Promise<{ id: string }> }) {
  const run = await runAt((await params).id, 'summary');
  const { unit } = await preferences();
  const outcome = run.outcome!;
  const deps = requestDeps();
  const checked = run.sections.filter((s) => run.checks.some((c) => c.section === s.index));
  const outlooks = await Promise.all(
    checked.slice(0, MOST_ON_CHART).map((s) => outlookOn(deps, run, s.index, false)),
  );
  return (
    <Page title={`${run.label} summed up`} context={<RunContext run={run} words="closed" />}>
      <h1 className="answer">{summaryAnswer(run, unit)}</h1>
      <div className="two">
        <div className="stack">
          <PredictedAndSeen run={run} outcome={outcome} unit={unit} />
          {outlooks.length > 0 && <ControlFigure run={run} outlooks={outlooks} unit={unit} />}
          <Fold name="summary-taught" words="What it taught about this rig" usual="creep and wander">
            <Taught outcome={outcome} unit={unit} />
          </Fold>
        </div>
        <div className="stack side">
          <div className="d-flex gap-2 flex-wrap">
            <Link className="btn btn-main" href={`/setups/${run.setup.id}/roll`}>
              What the log knows now
            </Link>
            <Link className="btn btn-plain" href={`/jobs/new?again=${run.id}`}>
              Plan it again
            </Link>
            <ReopenButton runId={run.id} />
          </div>
          {outcome.note && <p className="mb-0">“{outcome.note}”</p>}
          <div>
            <Fold name="summary-went" words="As it went" usual={`${run.events.length} steps`}>
              <AsItWent run={run} unit={unit} />
            </Fold>
            {run.files.length > 0 && (
              <Fold name="summary-files" words="Files made" usual={String(run.files.length)}>
                <FilesMade run={run} />
              </Fold>
            )}
          </div>
        </div>
      </div>
    </Page>
  );
}

type Outcome = NonNullable<Run['outcome']>;

function PredictedAndSeen({ run, outcome, unit }: { run: Run; outcome: Outcome; unit: LengthUnit }) {
  const { copies } = run.plan.imposition;
  const cut = run.sections.filter((s) => s.state !== 'waiting').length;
  return (
    <section className="panel">
      <h2>Predicted and seen</h2>
      <Rows label="Predicted and seen">
        <thead>
          <tr>
            <th scope="col">what</th>
            <th scope="col" className="num">
              predicted
            </th>
            <th scope="col" className="num">
              seen
            </th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">items spoiled, of {copies}</th>
            <td className="num">{expectedItems(outcome.predictedSpoiled)}</td>
            <td className="num">{outcome.spoiled ?? 'not counted'}</td>
          </tr>
          <tr>
            <th scope="row">farthest miss: 95 of 100 within, and the worst check</th>
            <td className="num text-wrap" style={{ minWidth: '16em' }}>
              {run.plan.expected
                ? expectedWords(run.plan.expected, unit)
                : `${lengthText(outcome.predictedR95Mm, unit)}, drift alone`}
            </td>
            <td className="num">
              {outcome.worstCheckMm === null ? 'not checked' : lengthText(outcome.worstCheckMm, unit)}
            </td>
          </tr>
          <tr>
            <th scope="row">sections cut, of {run.sections.length}</th>
            <td className="num">{run.sections.length}</td>
            <td className="num">{cut}</td>
          </tr>
          {outcome.costSpoiled !== null && (
            <tr>
              <th scope="row">what the spoiled items cost</th>
              <td className="num" />
              <td className="num">{outcome.costSpoiled.toFixed(2)}</td>
            </tr>
          )}
        </tbody>
      </Rows>
    </section>
  );
}

function Taught({ outcome, unit }: { outcome: Outcome; unit: LengthUnit }) {
  return (
    <>
      <Rows label="What it taught about this rig">
        <thead>
          <tr>
            <th scope="col">drift</th>
            <th scope="col" className="num">
              before
            </th>
            <th scope="col" className="num">
              now
            </th>
          </tr>
        </thead>
        <tbody>
          {outcome.taught.map((t) => (
            <tr key={`creep ${t.axis}`}>
              <th scope="row">
                <Word of="creep">creep</Word> {t.axis}
              </th>
              <td className="num">
                {signedRate(t.creepBefore, unit, 1)} {RATE_UNIT[unit]}
              </td>
              <td className="num">
                {signedRate(t.creepAfter, unit, 1)} {RATE_UNIT[unit]}
              </td>
            </tr>
          ))}
          {outcome.taught.map((t) => (
            <tr key={`wander ${t.axis}`}>
              <th scope="row">
                <Word of="wander">wander</Word> {t.axis}, over {walkStretch(unit).words}
              </th>
              <td className="num">{wander(t.wanderBefore, unit)}</td>
              <td className="num">{wander(t.wanderAfter, unit)}</td>
            </tr>
          ))}
        </tbody>
      </Rows>
    </>
  );
}

function AsItWent({ run, unit }: { run: Run; unit: LengthUnit }) {
  return (
    <>
      <Rows label="As it went" tight>
        <tbody>
          {run.events.map((e, i) => (
            <tr key={i}>
              <td className="text-nowrap">{dateText(e.at, 'd MMM HH:mm')}</td>
              <td>
                {e.kind === 'undone'
                  ? `taken back: ${EVENT_WORDS[run.events.find((u) => u.id === e.detail.undoes)?.kind ?? 'undone']}`
                  : EVENT_WORDS[e.kind]}
                {e.section !== null && `, section ${e.section}`}
                {e.kind === 'slip-kept' &&
                  e.detail.axis &&
                  e.detail.sizeMm !== undefined &&
                  `: ${offsetText(e.detail.sizeMm, e.detail.axis, unit)}`}
              </td>
              <td>{e.by}</td>
            </tr>
          ))}
        </tbody>
      </Rows>
    </>
  );
}

function FilesMade({ run }: { run: Run }) {
  return (
    <>
      <ul className="list-unstyled mb-2 small-print">
        {run.files.map((f) => (
          <li key={f.id}>
            <a
              className="mono text-break d-inline-block py-1"
              href={`/api/runs/${run.id}/files/${f.id}`}
              download
            >
              {f.fileName}
            </a>
          </li>
        ))}
      </ul>
      <a className="btn btn-plain" href={`/api/runs/${run.id}/archive`} download>
        All in one archive
      </a>
    </>
  );
}

function summaryAnswer(run: Run, unit: LengthUnit): string {
  const { outcome } = run;
  if (!outcome) return `${run.label} is closed.`;
  const copies = run.plan.imposition.copies;
  const counted =
    outcome.spoiled === null
      ? 'Nobody counted what was spoiled'
      : `${outcome.spoiled} of ${copies} spoiled, ${outcome.predictedSpoiled < 0.05 ? 'fewer than 0.1' : outcome.predictedSpoiled.toFixed(1)} expected`;
  const worst =
    outcome.worstCheckMm === null
      ? 'No section was checked.'
      : `The worst check was ${lengthText(outcome.worstCheckMm, unit)} off; ${lengthText(run.plan.request.toleranceMm, unit)} was allowed.`;
  return `${counted}. ${worst}`;
}

const wander = (mm2PerM: number | null, unit: LengthUnit): string =>
  mm2PerM === null ? 'not known yet' : lengthText(Math.sqrt(mm2PerM * walkStretch(unit).lengthM), unit);
