import { formatsIn } from '@/core/daily';
import { AS_LAID_OUT, markDistance } from '@/core/sheetJob';
import { markPlaces } from '@/core/marks';
import { fixed, type LengthUnit } from '@/core/units';
import { Fold } from '@/ui/Fold';
import { Recipe, recipeLine } from '@/features/forms/setup/Recipe';
import type { SheetJob } from '@/server/sheetJobs/job';
import type { PrintPlaceTold } from '@/server/sheetJobs/printPlace';
import type { WitnessRead } from '@/server/sheetJobs/witness';
import { dateText } from '@/clock/dates';
import { DataTable } from '@/ui/tables/DataTable';

import { BeforeLoading } from './BeforeLoading';
import { CuttingDesk } from './CuttingDesk';
import { cuttingWords } from './cutting.view';
import { CloseJob, CutAgain } from './JobActs';
import { PrintPlace } from './PrintPlace';
import { Witnesses } from './Witnesses';

/** What a frozen job is printed and cut with. */
export function FrozenPair({
  job,
  read,
  place,
  unit,
}: {
  job: SheetJob;
  read: readonly WitnessRead[];
  place: PrintPlaceTold;
  unit: LengthUnit;
}) {
  const file = (name: string, query = ''): string => `/api/sheet-jobs/${job.id}/${name}${query}`;
  const { sheetWidthMm: x1, sheetHeightMm: y1 } = job.geometry.sheet;
  const formats = formatsIn(job.frozenAs?.fileMap ?? null, { x0: 0, y0: 0, x1, y1 });
  const state = { id: job.id, version: job.version };
  // What is closed is looked at, nothing is done with it any more.
  const closed = job.stage === 'closed';
  const { sheet } = job.geometry;
  const leading = sheet.marks ? markPlaces(sheet.marks, sheet)[0] : undefined;
  return (
    <>
      <FrozenWith found={job.frozenAs?.found} />
      <section className="panel">
        <h2>{closed ? 'Print file' : '1. Print it'}</h2>
        <a className={closed ? 'btn btn-plain' : 'btn btn-main'} href={file('print.pdf')}>
          Print file, PDF
        </a>
        <Fold name="recipe" words="Recipe" usual={recipeLine(job.frozenAs!.recipe) || 'none noted'}>
          <Recipe recipe={job.frozenAs!.recipe} />
          <p className="small-print mt-2 mb-0">At 100 %, no fitting, no borderless enlarging.</p>
        </Fold>
      </section>
      {!closed && (
        <BeforeLoading
          job={state}
          marked={job.geometry.sheet.marks !== null}
          between={markDistance(job.geometry.sheet.marks, job.geometry.sheet)}
          face={job.frozenAs!.recipe.face}
          mayCut={job.stage === 'frozen'}
          follows={(job.geometry.sheet.marks?.count ?? 0) >= 3}
          unit={unit}
        >
          {leading && (
            <PrintPlace
              key={place.measured}
              job={state}
              mark={{ name: leading.name, at: leading.centre }}
              told={place}
              unit={unit}
            />
          )}
        </BeforeLoading>
      )}
      <section className="panel">
        <h2>{closed ? 'Cut files' : '3. Cut it'}</h2>
        <DataTable
          label="Cut files"
          tight
          rows={job.cuts.toReversed()}
          keyOf={(cut) => cut.revision}
          columns={[
            [
              'cut file',
              (cut) => (
                <>
                  {job.label}, cut {cut.revision}
                  <br />
                  <span className="small-print">
                    {dateText(cut.at, 'd MMM HH:mm')}, {cut.by}
                  </span>
                </>
              ),
              'row',
            ],
            [
              'carries',
              (cut) => (
                <>
                  {cut.printScale !== undefined
                    ? `what a print of ${fixed(100 * cut.printScale, 2)} % needs`
                    : cut.correction
                      ? 'the setup’s standing correction of then'
                      : cut.standingId
                        ? 'no correction needed in the file'
                        : 'no correction'}
                  {cut.cutting && (
                    <span className="d-block small-print">{cuttingWords(cut.cutting, job.geometry)}</span>
                  )}
                </>
              ),
            ],
            [
              'take it',
              (cut) =>
                job.geometry.sheets.map((_, sheet) => (
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
                )),
            ],
          ]}
        />
        {job.stage === 'frozen' && (
          <Fold name="sheet-cut-again" words="Another cut file" usual="corrected anew, or in another order">
            <div className="d-flex gap-2 flex-wrap mt-2">
              <CutAgain job={state} correction="standing" />
              <CutAgain job={state} correction="none" />
            </div>
            <CuttingDesk
              key={job.cuts.length}
              job={state}
              pieces={job.geometry.pieces}
              sheets={job.geometry.sheets.map((s) => s.length)}
              now={job.cuts.at(-1)?.cutting ?? AS_LAID_OUT}
            />
          </Fold>
        )}
        <p className="caution mb-0 mt-3">
          Hands out while it moves, power off to reach in; the machine’s manual comes first.
        </p>
      </section>
      {job.geometry.witness?.some(Boolean) && <Witnesses job={job} read={read} unit={unit} />}
      {job.stage === 'frozen' && <CloseJob job={state} />}
    </>
  );
}

/** What was found when it was frozen: it is printed all the same, and stays said. */
function FrozenWith({ found }: { found: NonNullable<SheetJob['frozenAs']>['found'] }) {
  if (!found) return null;
  const stopped = found.findings.some((f) => f.severity === 'stop');
  const list = (
    <ul className="mb-0">
      {found.findings.map(({ message, times }) => (
        <li key={message}>
          {message} {times > 1 && <span className="soft">({times} places)</span>}
        </li>
      ))}
      {found.notLooked.length > 0 && <li>Not looked at: the colour of {found.notLooked.join(', ')}.</li>}
    </ul>
  );
  if (!stopped)
    return (
      <Fold name="frozen-with" words="Look at" usual={`${found.findings.length + found.notLooked.length}`}>
        {list}
      </Fold>
    );
  return (
    <section className="notice" aria-label="Found before it was frozen">
      <strong>Frozen although it would be spoiled.</strong>
      {list}
      {found.reason && <p className="mb-0 mt-1">Why: “{found.reason}”</p>}
    </section>
  );
}
