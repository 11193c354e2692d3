import { pageSvgUrl } from '@/core/drawing/svg/writeSvg';
import { boxOf, jobPrint, type JobLabel } from '@/core/sheetJob';
import { fixed, type LengthUnit } from '@/core/units';
import type { SheetJob } from '@/server/sheetJobs/job';

import { MovePieces } from './MovePieces';
import { SheetPicture } from './SheetPicture';
import type { SheetFinding } from '@/core/sheetJob';
import { sheetView, wasteShare } from './sheet.view';

/** So many sheets of a job are drawn; the print file has all of them. */
const SHEETS_DRAWN = 6;

/** The sheets of a job as they are printed and cut; the pieces of a draft can be moved. */
export function SheetsDrawn({
  job,
  label,
  draft,
  findings,
  unit,
}: {
  job: SheetJob;
  label: JobLabel;
  draft: boolean;
  findings: readonly SheetFinding[];
  unit: LengthUnit;
}) {
  const { geometry } = job;
  const { sheetWidthMm: widthMm, sheetHeightMm: heightMm } = geometry.sheet;
  const arts = Object.fromEntries(
    geometry.pieces.map((piece) => {
      const box = boxOf(piece);
      const href = `/api/sheet-jobs/${job.id}/picture.png?piece=${piece.id}&version=${job.version}`;
      return [piece.id, { href, widthMm: box.x1 - box.x0, heightMm: box.y1 - box.y0 }];
    }),
  );
  return (
    <>
      {geometry.sheets.slice(0, SHEETS_DRAWN).map((_, index) => {
        const view = sheetView(geometry, index);
        return (
          <figure className="m-0" key={index}>
            <SheetPicture
              sheet={index}
              {...{ view, widthMm, heightMm, arts }}
              overlay={pageSvgUrl(jobPrint(geometry, label, index))}
              numbered={!draft}
              findings={shownOn(findings, index)}
              words={`Sheet ${index + 1} of ${geometry.sheets.length} of ${job.name}`}
            >
              {draft && (
                <MovePieces
                  sheet={index}
                  boxes={view.placed.map(({ piece, box }) => ({ piece, box }))}
                  unit={unit}
                />
              )}
            </SheetPicture>
            <figcaption className="small-print mt-1">
              {geometry.sheets.length > 1 && `Sheet ${index + 1} of ${geometry.sheets.length}. `}
              {index === 0 && `${fixed(100 * wasteShare(geometry), 0)} % waste.`}
            </figcaption>
          </figure>
        );
      })}
      {geometry.sheets.length > SHEETS_DRAWN && (
        <p className="small-print">The other sheets are like these; the print file has all of them.</p>
      )}
    </>
  );
}

/** What is boxed on a sheet: of what is wrong with a picture itself, one copy of it. */
const shownOn = (findings: readonly SheetFinding[], sheet: number): SheetFinding[] =>
  findings
    .filter((f) => f.sheet === sheet)
    .filter((f, i, all) => f.code !== 'outside-line' || all.findIndex((o) => o.message === f.message) === i);
