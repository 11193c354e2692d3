import Link from 'next/link';

import { dateText } from '@/clock/dates';
import { fieldLength, lengthText, type LengthUnit, signedLengthFigure } from '@/core/units';
import type { NextSection } from '@/server/runs/outlook';
import { copiesLeft, restIsWorthPlanning, type Run } from '@/server/runs/run';

import { Fold } from '@/ui/Fold';
import { startWords } from '@/ui/words/planWords';

import { LoadingCard } from '../LoadingCard';
import {
  NotCutButton,
  RegisterButton,
  RestButton,
  StandingButton,
  TakeBackButton,
  UndoButton,
} from '../RunActs';
import { correctionWords, lastCut, newestUndoable, readAgainWords, unchecked } from '../runView';

import { CloseForm, LaminateForm } from './RunForms';
import { sectionFormats } from '@/server/runs/sectionFile';
import { SectionFiles } from './SectionFiles';

/** Another correction stands for the setup than when the run was planned: which one do its files carry? */
export function StandingPanel({
  runId,
  media,
  standing,
}: {
  runId: string;
  media: string;
  standing: NonNullable<Run['newStanding']>;
}) {
  return (
    <section className="panel">
      <h2>Which correction do its files carry?</h2>
      <p>
        {standing.by} replaced the standing correction of {media} on{' '}
        {dateText(standing.since, 'd MMM, HH:mm')}, after this run was planned. Until you say which one its
        files carry there is no file for the next section.
      </p>
      <div className="stack" style={{ gap: 8 }}>
        <StandingButton runId={runId} standingId={standing.id} take />
        <StandingButton runId={runId} standingId={standing.id} take={false} />
      </div>
    </section>
  );
}

export function NextPanel({
  run,
  next,
  main,
  unit,
}: {
  run: Run;
  next: NextSection;
  /** Whether its button is the one main action. */
  main: boolean;
  unit: LengthUnit;
}) {
  const missed = unchecked(run);
  const made = run.files.filter((f) => f.section === next.index);
  return (
    <section className="panel">
      <h2>Section {next.index}: its cut file</h2>
      {missed.length > 0 && (
        <p className="mb-2">
          Section {missed.join(', ')} unchecked: it may miss by {lengthText(next.outlook.r95Mm, unit)}.
        </p>
      )}
      <SectionFiles
        key={next.index}
        runId={run.id}
        section={next.index}
        files={[...made].reverse().map(({ id, fileName }) => ({ id, fileName }))}
        formats={sectionFormats(run, next.index)}
        main={main}
      />
      <Fold name="run-file" words="What the file does" usual="and how to load it">
        <p>{correctionWords(next, unit)}</p>
        <p className="small-print">
          As drawn it would miss by up to {lengthText(next.outlook.r95AsDrawnMm, unit)}, corrected by up to{' '}
          {lengthText(next.outlook.r95Mm, unit)}.
          {run.standing.map && ' The file carries the setup’s own correction besides.'}
          {run.checks.length === 0 && ` ${startWords(next.start, unit) ?? ''}`}
        </p>
        <LoadingCard setup={run.setup} unit={unit} />
      </Fold>
    </section>
  );
}

export function Further({
  run,
  next,
  slip,
  unit,
}: {
  run: Run;
  next: NextSection | null;
  slip: boolean;
  unit: LengthUnit;
}) {
  const last = lastCut(run);
  const untouched = last !== null && !run.checks.some((c) => c.section === last);
  const section = next && run.plan.sections[next.index - 1]!;
  const undoable = newestUndoable(run);
  return (
    <>
      {undoable && <UndoButton runId={run.id} event={undoable} />}
      <Fold name="run-also" words="Also" usual="pause, all files, laminated, end it">
        <div className="d-flex flex-wrap gap-2">
          <RestButton runId={run.id} rest />
          <a className="btn btn-plain" href={`/api/runs/${run.id}/archive`} download>
            All files in one archive
          </a>
          {untouched && <NotCutButton runId={run.id} section={last} />}
          {next && !slip && <RegisterButton runId={run.id} before={next.index} main={false} />}
        </div>
        {next && section && (
          <details className="working">
            <summary>It was laminated</summary>
            <LaminateForm
              key={next.index}
              runId={run.id}
              from={next.index}
              nominal={fieldLength(section.endMm - section.startMm, unit)}
              bothEnds={run.plan.way === 'both-ends'}
              unit={unit}
            />
          </details>
        )}
        {restIsWorthPlanning(run) && (
          <details className="working">
            <summary>The rest is not printed yet</summary>
            <p className="small-print">
              What these checks tell of the drift is not in this run’s plan. The {copiesLeft(run)} copies left
              may need fewer sections now, or more. Stop this run for good once the new one is frozen.
            </p>
            <Link className="btn btn-plain" href={`/jobs/new?rest=${run.id}`}>
              Plan the rest anew
            </Link>
          </details>
        )}
        {next && (
          <details className="working">
            <summary>End the run</summary>
            <CloseForm runId={run.id} version={run.version} main={false} />
          </details>
        )}
      </Fold>
    </>
  );
}

export function CheckFigures({ check: c, unit }: { check: Run['checks'][number]; unit: LengthUnit }) {
  return (
    <span className="mono">
      {c.dyMm === null ? '·' : signedLengthFigure(c.dyMm, unit)},{' '}
      {c.dxMm === null ? '·' : signedLengthFigure(c.dxMm, unit)}
    </span>
  );
}

/** What was read of the section that was cut last, to be taken back when it was misread. */
export function JustRead({
  run,
  section,
  next,
  unit,
}: {
  run: Run;
  section: number;
  next: NextSection | null;
  unit: LengthUnit;
}) {
  const again = readAgainWords(run, next, unit);
  const own = run.checks.filter((c) => c.section === section);
  if (own.length === 0) return null;
  return (
    <section className="panel" aria-label={`Read of section ${section}`}>
      <h2>Read of section {section}: along, across</h2>
      {own.map((c) => (
        <div key={c.id} className="d-flex gap-2 align-items-center justify-content-between mb-1">
          <span>
            <CheckFigures check={c} unit={unit} />
            <br />
            <span className="small-print">
              {c.place}, {c.by}
            </span>
          </span>
          <span className="text-nowrap">
            <TakeBackButton runId={run.id} checkId={c.id} />
          </span>
        </div>
      ))}
      {again && <p className="notice mb-0 mt-2">{again}</p>}
    </section>
  );
}
