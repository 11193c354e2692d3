import Link from 'next/link';

import { format } from 'date-fns';

import { loadedBy } from '@/core/marks';
import { fieldLength, lengthText, signedLengthFigure, type LengthUnit } from '@/core/units';
import { plumbState, STATE_WORDS } from '@/core/verdict';
import { preferences, requestDeps } from '@/server/base/context';
import { openSlip, outlookOn, type NextSection } from '@/server/runs/outlook';
import { inForce, UNDOABLE, type Run, copiesLeft, restIsWorthPlanning } from '@/server/runs/run';

import { Page } from '@/features/frame/Page';

import { CheckForm } from './CheckForm';
import { ControlFigure } from '../ControlChart';
import { LiveRefresh } from '@/ui/LiveRefresh';

import { runAt } from '../loadRun';
import { LoadingCard } from '../LoadingCard';
import { RollDrawing } from '@/ui/picture/RollDrawing';
import {
  KeepSlipButton,
  NotCutButton,
  RegisterButton,
  RestButton,
  TakeBackButton,
  UndoButton,
} from '../RunActs';
import { CloseForm, FinishForm, LaminateForm } from './RunForms';
import { SectionFiles } from './SectionFiles';
import { RunContext } from '../RunContext';
import {
  correctionWords,
  lastCut,
  MOST_ON_CHART,
  nextIndex,
  readAgainWords,
  rowsToCheck,
  runAnswer,
  unchecked,
} from '../runView';

/** The run at the machine: what to load, what was read, what comes next. */
export async function RunPage({ params }: { params: Promise<{ id: string }> }) {
  const run = await runAt((await params).id, 'run');
  const { unit } = await preferences();
  const deps = requestDeps();
  const index = nextIndex(run);
  const last = lastCut(run);
  const upTo = index ?? run.sections.length;
  const from = Math.max(1, upTo - MOST_ON_CHART + 1);
  const outlooks = await Promise.all(
    // Slips are looked for once, in all that was read so far.
    Array.from({ length: upTo - from + 1 }, (_, i) => outlookOn(deps, run, from + i, from + i === upTo)),
  );
  // With all sections cut, a slip is told by the outlook on what would follow the last.
  const next = index === null ? null : outlooks.at(-1)!;
  const slip = openSlip(run, next);
  const { words, go } = runAnswer(run, next, slip, unit);
  const { toleranceMm } = run.plan.request;
  // A slip that nobody has decided about is what the next section would miss by.
  const missMm = slip ? Math.abs(slip.sizeMm) : (next?.outlook.r95Mm ?? null);
  const ratio = missMm === null ? null : missMm / toleranceMm;
  const open = run.stage === 'running';
  // While the section that was cut last is still held, reading it comes before the next.
  const bare = slip === null && index !== null && last !== null && unchecked(run).includes(last);
  const checkFirst = slip === null && index !== null && rowsToCheck(run).length > 0;
  const checkForm = open && last !== null && (
    <CheckForm
      key={`${last} ${unit}`}
      runId={run.id}
      sections={run.sections.flatMap((s) => (s.state === 'waiting' ? [] : [s.index])).reverse()}
      known={run.checks.map(({ id, section, place, by }) => ({ id, section, place, by }))}
      toleranceMm={toleranceMm}
      outline={run.plan.request.outline}
      item={{ widthMm: run.plan.imposition.itemWidthMm, heightMm: run.plan.imposition.itemHeightMm }}
      loaded={loadedBy(run.rig.marks)}
      main={bare}
      unit={unit}
    />
  );
  return (
    <Page
      context={
        <RunContext
          run={run}
          ratio={ratio}
          words={
            slip
              ? 'a slip: decide first'
              : next
                ? STATE_WORDS[plumbState(next.outlook.r95Mm, toleranceMm)]
                : 'all sections cut'
          }
        />
      }
    >
      <LiveRefresh address={`/api/runs/${run.id}/stamp`} stamp={run.version} />
      <h1 className={`answer ${go === 'stop' ? 'notice notice-bad' : ''}`}>{words}</h1>
      <div className="two">
        <div className="stack">
          <RollDrawing
            imposition={run.plan.imposition}
            sections={run.plan.sections}
            markRoomMm={run.plan.markRoomMm}
            leadMm={run.plan.request.leadMm}
            tailMm={run.plan.request.tailMm}
            printableWidthMm={run.plan.request.printableWidthMm}
            mediaWidthMm={Math.max(run.rig.sheetWidthMm, run.plan.request.printableWidthMm)}
            marks={run.rig.marks}
            rollers={run.rig.roll}
            bobFirst={run.rig.bobFirst}
            current={index ?? run.sections.length + 1}
            unit={unit}
          />
          <ControlFigure run={run} outlooks={outlooks} unit={unit} />
          <SectionTable run={run} unit={unit} />
        </div>
        <div className="stack side">
          {open && slip && next && (
            <section className="panel">
              <h2>A slip</h2>
              <p>
                {lengthText(Math.abs(slip.sizeMm), unit)} ± {lengthText(2 * slip.uMm, unit)}: more than this
                media wanders by itself. Look at rollers and take-up before you go on; a check that was
                misread is taken back below. Then there is a file for section {next.index}.
              </p>
              <div className="stack" style={{ gap: 8 }}>
                <RegisterButton runId={run.id} before={next.index} main />
                <KeepSlipButton runId={run.id} slip={slip} />
              </div>
            </section>
          )}
          {checkFirst && checkForm}
          {open && next && slip === null && <NextPanel run={run} next={next} main={!bare} unit={unit} />}
          {!open && (
            <section className="panel">
              <h2>At rest</h2>
              <p>Nothing is lost: every check and file is in the log.</p>
              <RestButton runId={run.id} rest={false} />
            </section>
          )}
          {!checkFirst && checkForm}
          {open && last !== null && <JustRead run={run} section={last} next={next} unit={unit} />}
          {open && <Further run={run} next={next} slip={slip !== null} unit={unit} />}
          {index === null && open && (
            <section className="panel">
              <h2>Finish</h2>
              <CloseForm runId={run.id} version={run.version} main />
            </section>
          )}
          <p className="caution mb-0">
            Blades are sharp: hands, hair and sleeves clear of carriage and rollers, power off before reaching
            in. The machine’s manual comes first.
          </p>
        </div>
      </div>
    </Page>
  );
}

function NextPanel({
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
      <p className="mb-2">{correctionWords(next, unit)}</p>
      <p className="small-print">
        As drawn it would miss by up to {lengthText(next.outlook.r95AsDrawnMm, unit)}, corrected by up to{' '}
        {lengthText(next.outlook.r95Mm, unit)}.
        {missed.length > 0 && ` Not checked: section ${missed.join(', ')}; the band is wider for it.`}
      </p>
      <SectionFiles
        key={next.index}
        runId={run.id}
        section={next.index}
        files={[...made].reverse().map(({ id, fileName }) => ({ id, fileName }))}
        main={main}
      />
      <details className="working">
        <summary>How to load it</summary>
        <LoadingCard rig={run.rig} unit={unit} />
      </details>
    </section>
  );
}

function Further({
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
  const undoable = UNDOABLE.flatMap((kind) => inForce(run, kind).map((e) => ({ ...e, kind }))).sort(
    (a, b) => b.at.getTime() - a.at.getTime(),
  )[0];
  return (
    <section className="panel">
      <h2>Also</h2>
      <div className="d-flex flex-wrap gap-2">
        <RestButton runId={run.id} rest />
        <a className="btn btn-plain" href={`/api/runs/${run.id}/archive`} download>
          All files in one archive
        </a>
        {untouched && <NotCutButton runId={run.id} section={last} />}
        {undoable && <UndoButton runId={run.id} event={undoable} />}
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
          <summary>Stop here for good</summary>
          <CloseForm runId={run.id} version={run.version} main={false} />
        </details>
      )}
    </section>
  );
}

function CheckFigures({ check: c, unit }: { check: Run['checks'][number]; unit: LengthUnit }) {
  return (
    <span className="mono">
      {c.dyMm === null ? '·' : signedLengthFigure(c.dyMm, unit)},{' '}
      {c.dxMm === null ? '·' : signedLengthFigure(c.dxMm, unit)}
    </span>
  );
}

/** What was read of the section that was cut last, to be taken back when it was misread. */
function JustRead({
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

const STATE_OF = { waiting: 'waiting', cut: 'cut', finished: 'weeded' } as const;

function SectionTable({ run, unit }: { run: Run; unit: LengthUnit }) {
  return (
    <section className="panel">
      <h2>Section by section</h2>
      <table className="rows rows-tight">
        <thead>
          <tr>
            <th scope="col">section</th>
            <th scope="col" className="num">
              rows
            </th>
            <th scope="col" className="num">
              copies
            </th>
            <th scope="col">state</th>
            <th scope="col">checks, {unit}: along, across</th>
            <th scope="col">spoiled</th>
          </tr>
        </thead>
        <tbody>
          {run.plan.sections.map((s, i) => {
            const own = run.sections[i]!;
            const checks = run.checks.filter((c) => c.section === s.index);
            return (
              <tr key={s.index}>
                <th scope="row">{s.index}</th>
                <td className="num">
                  {s.rows === 1 ? s.firstRow : `${s.firstRow}–${s.firstRow + s.rows - 1}`}
                </td>
                <td className="num">{s.copies}</td>
                <td>
                  {STATE_OF[own.state]}
                  {own.cutAt && <span className="soft">, {format(own.cutAt, 'd MMM HH:mm')}</span>}
                </td>
                <td>
                  {checks.map((c) => (
                    <span key={c.id} className="d-block text-nowrap">
                      {c.place}: <CheckFigures check={c} unit={unit} /> {c.by}
                    </span>
                  ))}
                </td>
                <td>
                  {own.state === 'waiting' ? (
                    ''
                  ) : run.stage === 'running' ? (
                    <FinishForm
                      key={`${own.state} ${own.spoiled}`}
                      runId={run.id}
                      section={s.index}
                      copies={s.copies}
                      counted={own.spoiled}
                    />
                  ) : (
                    <span className="mono">{own.spoiled}</span>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
