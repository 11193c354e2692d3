import { setupsByRig, setupWords } from '@/core/setup/inLists';
import Link from 'next/link';
import { notFound } from 'next/navigation';

import { boxOf, findingsOnce, insetCost, nestJobOf } from '@/core/sheetJob';
import { lengthText } from '@/core/units';
import { Fold } from '@/ui/Fold';
import { LiveRefresh } from '@/ui/LiveRefresh';
import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import type { Deps } from '@/server/base/deps';
import { idSchema } from '@/server/base/shapes';
import { setupCheck } from '@/server/setups/checkContext';
import type { Setup } from '@/server/setups/setup';
import { getSetup, listSetups } from '@/server/setups/repository';
import { piecesOn, type SheetJob } from '@/server/sheetJobs/job';
import { labelOf } from '@/server/sheetJobs/label';
import { lookAtJob } from '@/server/sheetJobs/lookAtJob';
import { shopStamp } from '@/server/logbook/shopStamp';
import { getJob } from '@/server/sheetJobs/repository';
import { printPlaceOf } from '@/server/sheetJobs/printPlace';
import { witnessesOf } from '@/server/sheetJobs/witness';

import { DraftWork, type Laid } from './DraftWork';
import { Findings } from './Findings';
import { FrozenPair } from './FrozenPair';
import { Freeze } from './Freeze';
import { CopyJob, DiscardJob } from './JobActs';
import { MoveFields, UndoRow } from './MovePieces';
import { NestDesk } from './NestDesk';
import { PiecesDesk, type PieceTold } from './PiecesDesk';
import { SheetsDrawn } from './SheetsDrawn';
import { SheetDesk } from './SheetDesk';
import { insetWords, jobAnswer } from './sheet.view';

/** With more pieces than this nobody waits for what other insets would give. */
const MOST_TO_COMPARE = 400;
/** A sheet job: laid out and looked at as a draft; frozen, the pair of its files. */
export async function SheetJobPage({ params }: { params: Promise<{ id: string }> }) {
  const id = idSchema.safeParse((await params).id);
  const deps = requestDeps();
  const stamp = await shopStamp(deps);
  const job = id.success ? await getJob(deps, id.data) : null;
  if (!job) notFound();
  const setup = (await getSetup(deps, job.setupId))!;
  const { unit } = await preferences();
  const { geometry } = job;
  const check = setupCheck(setup);
  const { findings, notLooked } = job.stage === 'draft' ? await lookAtJob(deps, job, setup) : NOTHING;
  const found = findingsOnce(findings);
  const label = labelOf(job);
  const inset =
    job.stage === 'draft' && piecesOn(geometry) <= MOST_TO_COMPARE
      ? insetCost(geometry.pieces, geometry.layout, geometry.sheet)
      : null;
  const draft = job.stage === 'draft' && !job.discarded;
  const { sheetWidthMm: widthMm, sheetHeightMm: heightMm } = geometry.sheet;
  const state = { id: job.id, version: job.version };
  const work = (
    <div className={`two work-first${heightMm > widthMm ? ' tall-first' : ''}`}>
      <div className="stack">
        <SheetsDrawn {...{ job, label, draft, findings, unit }} />
        {draft && (
          <>
            <UndoRow />
            <MoveFields unit={unit} />
          </>
        )}
      </div>
      <div className="stack side">
        {job.stage === 'closed' && <CopyJob job={state} copies={geometry.pieces[0]!.copies} main />}
        {(found.length > 0 || notLooked.length > 0) && draft && (
          <Findings
            findings={found}
            notLooked={notLooked}
            neededMm={check.context.neededMm}
            nearestMm={check.context.nearestMm}
            unit={unit}
          />
        )}
        {draft ? (
          <>
            <Freeze job={state} stops={found.filter((f) => f.severity === 'stop').map((f) => f.message)} />
            <PiecesDesk jobId={job.id} told={piecesTold(job)} neededMm={check.context.neededMm} unit={unit} />
            <Fold
              name="sheet-layout"
              words="How it is laid out"
              usual={`gap ${lengthText(geometry.layout.gapMm, unit)}, ${setupWords(setup)}`}
            >
              <SheetDesk setups={await setupsToChoose(deps, setup)} unit={unit} />
              {inset && (
                <p className="small-print m-0">
                  {insetWords(inset, unit)} <Link href={`/setups/${setup.id}/edit`}>Its marks</Link>
                </p>
              )}
            </Fold>
            <Fold name="sheet-nest" words="Less waste" usual="let it be searched for">
              <NestDesk
                job={nestJobOf(geometry.pieces, geometry.layout, geometry.sheet, geometry.label)}
                now={geometry.sheets.map((s) => s.length)}
              />
            </Fold>
          </>
        ) : job.discarded ? (
          <section className="panel">
            <h2>Thrown away</h2>
            <DiscardJob job={state} away={false} />
          </section>
        ) : (
          <FrozenPair
            job={job}
            read={await witnessesOf(deps, job.id)}
            place={await printPlaceOf(deps, job)}
            unit={unit}
          />
        )}
        {job.stage !== 'closed' && (
          <Fold
            name="sheet-again"
            words="The same again"
            usual={draft ? 'or throw it away' : 'under a new number'}
          >
            <div className="d-flex gap-2 flex-wrap">
              <CopyJob job={state} copies={geometry.pieces[0]!.copies} />
              {draft && <DiscardJob job={state} away />}
            </div>
          </Fold>
        )}
      </div>
    </div>
  );
  return (
    <Page
      title={`${job.label} ${job.name}`}
      trueSize="This is the screen on paper: the sheet at its true size is the print file."
      context={
        <>
          <Link href="/jobs">
            <strong>Jobs</strong>
          </Link>
          <span className="soft">
            {job.label} {job.name}, {job.frozenAs?.media ?? setup.media} on {job.frozenAs?.rig ?? setup.name}
          </span>
        </>
      }
    >
      <LiveRefresh address="/api/stamp" stamp={stamp} />
      <h1 className="answer">{jobAnswer(job, geometry, findings, unit)}</h1>
      {draft ? (
        <DraftWork job={state} laid={laidOf(job)}>
          {work}
        </DraftWork>
      ) : (
        work
      )}
    </Page>
  );
}

/** What is frozen was looked at then. */
const NOTHING = { findings: [], notLooked: [] } as const;

const MM_PER_INCH = 25.4;

/** What the page works on. */
const laidOf = ({ name, setupId, geometry: { layout, pieces } }: SheetJob): Laid => ({
  ...{ name, setupId, layout },
  pieces: pieces.map(({ id, copies, bleedMm, kind, second }) => ({
    ...{ id, copies, bleedMm, kind },
    second: second ? { byMm: second.byMm, kind: second.kind } : null,
  })),
});

const piecesTold = (job: SheetJob): Record<string, PieceTold> =>
  Object.fromEntries(
    job.geometry.pieces.map((piece) => {
      const box = boxOf(piece);
      const made = job.pieces.find((p) => p.id === piece.id)!;
      const size = { widthMm: box.x1 - box.x0, heightMm: box.y1 - box.y0 };
      const dpi = (made.art.widthPx / piece.picture.widthMm) * MM_PER_INCH;
      return [piece.id, { ...size, dpi, name: made.art.name, lineOf: made.lineOf }];
    }),
  );

/** The setups that it could be moved to, its own among them. */
async function setupsToChoose(deps: Deps, own: Setup) {
  const all = await listSetups(deps);
  return setupsByRig(all.some((s) => s.id === own.id) ? all : [own, ...all]).map((s) => ({
    id: s.id,
    words: setupWords(s),
  }));
}
