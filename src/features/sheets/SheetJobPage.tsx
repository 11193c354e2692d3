import Link from 'next/link';
import { notFound } from 'next/navigation';

import { formatsIn } from '@/core/daily';
import { sceneToSvg } from '@/core/formats/svg/sceneToSvg';
import { boxOf, insetCost, jobScene, markDistance } from '@/core/sheetJob';
import { fixed, type LengthUnit } from '@/core/units';
import { Page } from '@/features/frame/Page';
import { Recipe } from '@/features/pieces/Recipe';
import { preferences, requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { setupCheck } from '@/server/setups/checkContext';
import { getSetup } from '@/server/setups/repository';
import { piecesOn, type SheetJob } from '@/server/sheetJobs/job';
import { labelOf } from '@/server/sheetJobs/label';
import { getJob } from '@/server/sheetJobs/repository';
import { witnessesOf, type WitnessRead } from '@/server/sheetJobs/witness';
import { dateText } from '@/clock/dates';
import { Rows } from '@/ui/Rows';

import { BeforeLoading } from './BeforeLoading';
import { Witnesses } from './Witnesses';
import { CloseJob, CopyJob, CutAgain, Freeze } from './JobActs';
import { SheetDesk } from './SheetDesk';
import { SheetPicture } from './SheetPicture';
import { findingsOnce, insetWords, jobAnswer, jobFindings, sheetView, wasteShare } from './sheet.view';

/** With more pieces than this nobody waits for what other insets would give. */
const MOST_TO_COMPARE = 400;
/** So many sheets of a job are drawn; the print file has all of them. */
const SHEETS_DRAWN = 6;

/** A sheet job: laid out and looked at as a draft; frozen, the pair of its files. */
export async function SheetJobPage({ params }: { params: Promise<{ id: string }> }) {
  const id = idSchema.safeParse((await params).id);
  const deps = requestDeps();
  const job = id.success ? await getJob(deps, id.data) : null;
  if (!job) notFound();
  const setup = (await getSetup(deps, job.setupId))!;
  const { unit } = await preferences();
  const { geometry } = job;
  const [piece] = geometry.pieces;
  const box = boxOf(piece!);
  const check = setupCheck(setup);
  const findings = jobFindings(geometry, check.context, check.context.neededMm);
  const label = labelOf(job);
  const inset =
    job.stage === 'draft' && piecesOn(geometry) <= MOST_TO_COMPARE
      ? insetCost(geometry.pieces, geometry.layout, geometry.sheet)
      : null;
  const art = {
    href: `/api/sheet-jobs/${job.id}/picture.png?version=${job.version}`,
    ...{ widthMm: box.x1 - box.x0, heightMm: box.y1 - box.y0 },
  };
  const { sheetWidthMm: widthMm, sheetHeightMm: heightMm } = geometry.sheet;
  return (
    <Page
      title={`${job.label} ${job.name}`}
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
      <h1 className="answer">{jobAnswer(job, geometry, findings, unit)}</h1>
      <div className="two work-first">
        <div className="stack">
          {geometry.sheets.slice(0, SHEETS_DRAWN).map((_, index) => (
            <figure className="m-0" key={index}>
              <SheetPicture
                view={sheetView(geometry, index)}
                {...{ widthMm, heightMm, art }}
                overlay={`data:image/svg+xml;utf8,${encodeURIComponent(sceneToSvg(jobScene(geometry, label, index)))}`}
                findings={findings}
                words={`Sheet ${index + 1} of ${geometry.sheets.length} of ${job.name}`}
              />
              <figcaption className="small-print mt-1">
                Sheet {index + 1} of {geometry.sheets.length}, near edge below. Cut lines dashed.{' '}
                {index === 0 && `${fixed(100 * wasteShare(geometry), 0)} % of the media is waste.`}
              </figcaption>
            </figure>
          ))}
          {geometry.sheets.length > SHEETS_DRAWN && (
            <p className="small-print">The other sheets are like these; the print file has all of them.</p>
          )}
        </div>
        <div className="stack side">
          {findings.length > 0 && job.stage === 'draft' && (
            <section className="panel">
              <h2>Before it is printed</h2>
              <ul className="mb-0">
                {findingsOnce(findings).map((f) => (
                  <li key={f.message}>
                    {f.severity === 'stop' && <strong>Stop: </strong>}
                    {f.message} {f.fix} {f.times > 1 && <span className="soft">({f.times} places)</span>}
                  </li>
                ))}
              </ul>
            </section>
          )}
          {job.stage === 'draft' ? (
            <>
              <SheetDesk
                job={{ id: job.id, version: job.version }}
                laid={{ layout: geometry.layout, bleedMm: piece!.bleedMm, kind: piece!.kind }}
                neededMm={check.context.neededMm}
                unit={unit}
              />
              {inset && (
                <p className="small-print m-0">
                  {insetWords(inset, unit)} <Link href={`/setups/${setup.id}/edit`}>Its marks</Link>
                </p>
              )}
              <section className="panel">
                <h2>Freeze it</h2>
                <p>
                  Print and cut file get one number, {job.label}. Afterwards what is printed and where lines
                  lie stays as it is; a change makes a new number, and printed sheets will not match it.
                </p>
                <Freeze job={{ id: job.id, version: job.version }} />
              </section>
            </>
          ) : (
            <FrozenPair job={job} read={await witnessesOf(deps, job.id)} unit={unit} />
          )}
          <section className="panel">
            <h2>Again</h2>
            <p className="small-print">A copy under a new number, to print again or to change something.</p>
            <CopyJob job={{ id: job.id, version: job.version }} copies={geometry.layout.copies} />
          </section>
        </div>
      </div>
    </Page>
  );
}

/** What a frozen job is printed and cut with. */
function FrozenPair({ job, read, unit }: { job: SheetJob; read: readonly WitnessRead[]; unit: LengthUnit }) {
  const file = (name: string, query = ''): string => `/api/sheet-jobs/${job.id}/${name}${query}`;
  const { sheetWidthMm: x1, sheetHeightMm: y1 } = job.geometry.sheet;
  const formats = formatsIn(job.frozenAs?.fileMap ?? null, { x0: 0, y0: 0, x1, y1 });
  const state = { id: job.id, version: job.version };
  return (
    <>
      <section className="panel">
        <h2>1. Print it</h2>
        <a className="btn btn-main" href={file('print.pdf')}>
          Print file, PDF
        </a>
        <Recipe recipe={job.frozenAs!.recipe} />
        <p className="small-print mt-2 mb-0">At 100 %, no fitting, no borderless enlarging.</p>
      </section>
      <BeforeLoading
        job={state}
        marked={job.geometry.sheet.marks !== null}
        between={markDistance(job.geometry.sheet.marks, job.geometry.sheet)}
        face={job.frozenAs!.recipe.face}
        mayCut={job.stage === 'frozen'}
        follows={(job.geometry.sheet.marks?.count ?? 0) >= 3}
        unit={unit}
      />
      <section className="panel">
        <h2>3. Cut it</h2>
        <Rows label="Cut files" tight>
          <thead>
            <tr>
              <th scope="col">cut file</th>
              <th scope="col">carries</th>
              <th scope="col">take it</th>
            </tr>
          </thead>
          <tbody>
            {job.cuts.toReversed().map((cut) => (
              <tr key={cut.revision}>
                <th scope="row">
                  {job.label}, cut {cut.revision}
                  <br />
                  <span className="small-print">
                    {dateText(cut.at, 'd MMM HH:mm')}, {cut.by}
                  </span>
                </th>
                <td>
                  {cut.printScale !== undefined
                    ? `what a print of ${fixed(100 * cut.printScale, 2)} % needs`
                    : cut.correction
                      ? 'the setup’s standing correction of then'
                      : cut.standingId
                        ? 'nothing: the machine’s settings do it all'
                        : 'no correction'}
                </td>
                <td>
                  {job.geometry.sheets.map((_, sheet) => (
                    <span key={sheet} className="d-flex gap-2 flex-wrap">
                      {job.geometry.sheets.length > 1 && <span className="soft">sheet {sheet + 1}</span>}
                      {formats.map((format) => (
                        <a
                          key={format}
                          href={file(`cut.${format}`, `?revision=${cut.revision}&sheet=${sheet + 1}`)}
                        >
                          {format.toUpperCase()}
                        </a>
                      ))}
                    </span>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </Rows>
        {job.stage === 'frozen' && (
          <div className="d-flex gap-2 flex-wrap mt-2">
            <CutAgain job={state} correction="standing" />
            <CutAgain job={state} correction="none" />
          </div>
        )}
        <p className="caution mb-0 mt-3">
          Blades are sharp: hands, hair and sleeves clear of carriage and rollers, power off before reaching
          in. The machine’s manual comes first.
        </p>
      </section>
      {job.geometry.witness?.some(Boolean) && <Witnesses job={job} read={read} unit={unit} />}
      {job.stage === 'frozen' && (
        <section className="panel">
          <h2>When it is cut</h2>
          <CloseJob job={state} />
        </section>
      )}
    </>
  );
}
