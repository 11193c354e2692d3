import { longText, plainLength } from '@/core/units';
import Link from 'next/link';

import { stripRefusalText } from '@/core/layout';
import { toType, unprovedTools } from '@/core/setup';
import { preferences, requestDeps } from '@/server/base/context';
import { releaseItems } from '@/server/runs/releaseRun';
import { stripIsOpen, stripOf } from '@/server/runs/witnessStrip';
import { shopStamp } from '@/server/logbook/shopStamp';
import { isProved, loadBench } from '@/server/setups/bench';

import { Fold } from '@/ui/Fold';
import { LiveRefresh } from '@/ui/LiveRefresh';
import { Recipe } from '@/features/forms/setup/Recipe';
import { Code } from '@/features/frame/Code';
import { Page } from '@/features/frame/Page';

import { LoadingCard } from '../LoadingCard';
import { runAt } from '../loadRun';
import { ReleaseForm } from './ReleaseForm';
import { StripPanel } from '../run/StripPanel';
import { CloseForm } from '../run/RunForms';
import { RollDrawing } from '@/ui/pictures/RollDrawing';
import { RunContext } from '../RunContext';
import { TypeThese } from '@/ui/pictures/TypeThese';

/** Before anything is sent: devices, media, both halves, and how it is loaded. */
export async function ReleasePage({ params }: { params: Promise<{ id: string }> }) {
  const run = await runAt((await params).id, 'release');
  const { unit } = await preferences();
  const { plan, setup } = run;
  const { request, imposition, sections } = plan;
  const last = sections.at(-1)!;
  const strip = stripOf(run);
  const deps = requestDeps();
  const bench = await loadBench(deps, setup.rigId);
  const tools = unprovedTools(
    setup,
    bench.map((b) => ({ setup: b.setup, proved: isProved(b) })),
  );
  return (
    <Page title={`Release ${run.label}`} context={<RunContext run={run} words="planned, not released" />}>
      <LiveRefresh address="/api/stamp" stamp={await shopStamp(deps)} />
      <span className="print-only release-code">
        <Code address={`${deps.origin}/jobs/${run.id}`} />
      </span>
      <h1 className="answer">
        {run.label}: {imposition.copies} {run.name} in{' '}
        {sections.length === 1 ? 'one piece' : `${sections.length} sections`},{' '}
        {`${longText(plan.mediaMm, unit)} of media`}. Tick the card, then send it.
      </h1>
      <div className="two">
        <div className="stack">
          <RollDrawing
            imposition={imposition}
            sections={sections}
            markRoomMm={plan.markRoomMm}
            leadMm={request.leadMm}
            tailMm={request.tailMm}
            printableWidthMm={request.printableWidthMm}
            mediaWidthMm={Math.max(setup.sheetWidthMm, request.printableWidthMm)}
            marks={setup.marks}
            rollers={setup.roll}
            bobFirst={setup.bobFirst}
            current={null}
            unit={unit}
          />
          <section className="panel">
            <h2>Loading</h2>
            <div className="loading-card">
              <LoadingCard setup={setup} unit={unit} />
              <div>
                <Recipe recipe={setup.recipe} />
                <Fold name="release-loading" words="Lead, tail, test cut" usual="what they are for">
                  <p className="small-print mt-3">
                    Lead {plainLength(request.leadMm, unit)} ahead of the first section: room for rollers
                    {setup.roll.testCutTurned ? '' : ' and a test cut'}. Tail{' '}
                    {plainLength(request.tailMm, unit)} behind the last:{' '}
                    {setup.roll.testCutTurned ? 'room for the test cut, and ' : ''}the media sensor stays
                    covered while the far marks are read.
                  </p>
                  <p className="small-print mb-0">
                    Test cut first: two small shapes, weed one; the other stays put, and the liner may be
                    marked but not cut. A new blade cuts deeper.
                  </p>
                </Fold>
              </div>
            </div>
          </section>
        </div>
        <div className="stack side">
          {tools.map((words) => (
            <p key={words} className="notice mb-0">
              {words}
            </p>
          ))}
          {toType(setup.settings).length > 0 && (
            <p className="notice mb-0">
              The machine shows another medium’s figures.{' '}
              <Link href={`/setups/${setup.id}/change-over?back=/jobs/${run.id}/release`}>
                Change over to {setup.media}
              </Link>{' '}
              first; what is ticked stays.
            </p>
          )}
          <ReleaseForm
            runId={run.id}
            version={run.version}
            items={releaseItems(setup, run.witnessXMm !== null)}
          />
          <TypeThese
            section={sections[0]!}
            lastSection={last.copies === sections[0]!.copies ? null : last}
            imposition={imposition}
            markRoomMm={plan.markRoomMm}
            printableWidthMm={request.printableWidthMm}
            hasMarks={(setup.marks?.count ?? 0) >= 2}
            unit={unit}
            step={unit === 'mm' ? 1 : 0.01}
          />
          <StripPanel
            runId={run.id}
            on={run.witnessXMm !== null}
            open={stripIsOpen(run)}
            why={strip.ok ? null : stripRefusalText(strip.refusal)}
            section={null}
          />
          <Fold name="release-cancel" words="Cancel this plan">
            <p className="small-print">A frozen plan is not changed. Close it and plan another.</p>
            <CloseForm runId={run.id} version={run.version} main={false} />
          </Fold>
          <p className="caution mb-0">
            Hands out while it moves; air where solvent prints dry; the machine’s manual comes first.
          </p>
        </div>
      </div>
    </Page>
  );
}
