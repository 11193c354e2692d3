import { loadedBy } from '@/core/marks';
import { stripRefusalText } from '@/core/layout';
import { lengthText } from '@/core/units';
import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import { openSlip, outlookOn } from '@/server/runs/outlook';
import { usualOf } from '@/server/setups/usual';
import { stripIsOpen, stripOf } from '@/server/runs/witnessStrip';
import { Fold } from '@/ui/Fold';
import { LiveRefresh } from '@/ui/LiveRefresh';
import { RollDrawing } from '@/ui/pictures/RollDrawing';

import { ControlFigure } from '../ControlChart';
import { KeepSlipButton, RegisterButton, RestButton } from '../RunActs';
import { RunContext } from '../RunContext';
import { runAt } from '../loadRun';
import { lastCut, MOST_ON_CHART, nextIndex, rowsToCheck, runAnswer, unchecked } from '../runView';

import { CheckForm } from './CheckForm';
import { CloseForm } from './RunForms';
import { Further, JustRead, NextPanel, StandingPanel } from './RunPanels';
import { SectionTable } from './SectionTable';
import { StripPanel } from './StripPanel';
import { Word } from '@/ui/words/Word';

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
  const open = run.stage === 'running';
  const strip = stripOf(run);
  // While the section that was cut last is still held, reading it comes before the next.
  const bare = slip === null && index !== null && last !== null && unchecked(run).includes(last);
  // It stays where it is while a slip is decided on: nobody loses what they have typed.
  const toRead = rowsToCheck(run).length > 0;
  const checkForm = open && last !== null && (
    <CheckForm
      key={`${last} ${unit}`}
      runId={run.id}
      sections={run.sections.flatMap((s) => (s.state === 'waiting' ? [] : [s.index])).reverse()}
      known={run.checks.map(({ id, section, place, by }) => ({ id, section, place, by }))}
      toleranceMm={toleranceMm}
      usual={{ ...(await usualOf(deps, run.setup)), allowedMm: toleranceMm }}
      outline={run.plan.request.outline}
      item={{ widthMm: run.plan.imposition.itemWidthMm, heightMm: run.plan.imposition.itemHeightMm }}
      loaded={loadedBy(run.setup.marks)}
      main={bare}
      unit={unit}
    />
  );
  return (
    <Page
      title={`Follow ${run.label}`}
      context={
        <RunContext
          run={run}
          words={
            slip
              ? 'a slip: decide first'
              : next
                ? `section ${next.index} within ${lengthText(next.outlook.r95Mm, unit)}`
                : 'all sections cut'
          }
        />
      }
    >
      <LiveRefresh address={`/api/runs/${run.id}/stamp`} stamp={run.version} />
      <h1 className={`answer ${go === 'stop' ? 'notice notice-bad' : ''}`}>{words}</h1>
      {open && slip && next && (
        <section className="panel mb-3">
          <h2>
            A <Word of="slip">slip</Word>
          </h2>
          <p>
            {lengthText(Math.abs(slip.sizeMm), unit)} ± {lengthText(2 * slip.uMm, unit)}: more than this media
            wanders by itself. Look at rollers and take-up before you go on; a check that was misread is taken
            back below. Then there is a file for section {next.index}.
          </p>
          <div className="stack" style={{ gap: 8 }}>
            <RegisterButton runId={run.id} before={next.index} main />
            <KeepSlipButton runId={run.id} slip={slip} />
          </div>
        </section>
      )}
      {toRead && checkForm}
      <div className={toRead ? 'two work-first mt-3' : 'two'}>
        <div className="stack">
          <RollDrawing
            imposition={run.plan.imposition}
            sections={run.plan.sections}
            markRoomMm={run.plan.markRoomMm}
            leadMm={run.plan.request.leadMm}
            tailMm={run.plan.request.tailMm}
            printableWidthMm={run.plan.request.printableWidthMm}
            mediaWidthMm={Math.max(run.setup.sheetWidthMm, run.plan.request.printableWidthMm)}
            marks={run.setup.marks}
            rollers={run.setup.roll}
            bobFirst={run.setup.bobFirst}
            current={index ?? run.sections.length + 1}
            bare
            unit={unit}
          />
          {!toRead && checkForm && (
            <Fold name="run-check-again" words={`Check section ${last!} again`} usual="both rows are read">
              {checkForm}
            </Fold>
          )}
          <Fold
            name="run-chart"
            words="Where the cuts landed"
            usual={`${run.checks.length} checks`}
            open={slip !== null}
          >
            <ControlFigure run={run} outlooks={outlooks} unit={unit} />
          </Fold>
          <Fold
            name="run-sections"
            words="Section by section"
            usual="copies, checks, spoiled"
            open={index === null}
          >
            <SectionTable run={run} unit={unit} />
          </Fold>
        </div>
        <div className="stack side">
          {open && run.newStanding && (
            <StandingPanel runId={run.id} media={run.setup.media} standing={run.newStanding} />
          )}
          {open && next && slip === null && run.newStanding === null && (
            <NextPanel run={run} next={next} main={!bare} unit={unit} />
          )}
          {!open && (
            <section className="panel">
              <h2>At rest</h2>
              <p>Nothing is lost: every check and file is in the log.</p>
              <RestButton runId={run.id} rest={false} />
            </section>
          )}
          {open && last !== null && <JustRead run={run} section={last} next={next} unit={unit} />}
          {open && (
            <StripPanel
              runId={run.id}
              on={run.witnessXMm !== null}
              open={stripIsOpen(run)}
              why={strip.ok ? null : stripRefusalText(strip.refusal)}
              section={last}
            />
          )}
          {open && <Further run={run} next={next} slip={slip !== null} unit={unit} />}
          {index === null && open && (
            <section className="panel">
              <h2>Finish</h2>
              <CloseForm runId={run.id} version={run.version} main />
            </section>
          )}
          <p className="caution mb-0">
            Hands out while it moves, power off to reach in; the machine’s manual comes first.
          </p>
        </div>
      </div>
    </Page>
  );
}
