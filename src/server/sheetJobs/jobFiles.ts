import { inFrame } from '@/core/daily';
import { mapPath, type Drawing } from '@/core/drawing';
import { writeDrawing } from '@/core/drawing/file';
import type { PlacedPicture } from '@/core/drawing/pdf/pages';
import { affineMap, applyAffine, compose, invertMap, translation } from '@/core/geometry';
import { accept, refuse, type Outcome } from '@/core/outcome';
import {
  bleedArea,
  boxOf,
  jobDrawing,
  jobPrint,
  shapesOverlap,
  shownOf,
  type JobPiece,
} from '@/core/sheetJob';
import type { Deps } from '@/server/base/deps';
import { drawing } from '@/server/heavy/drawing/pool';
import { heavy } from '@/server/heavy/pool';
import type { CutFormat } from '@/core/drawing/formats';

import type { JobCut, SheetJob } from './job';
import { labelOf } from './label';
import { artOf } from './repository';

/* The files of a job, made from its frozen geometry alone: the same today and in a year. */

interface PrintedPicture {
  readonly bytes: Buffer;
  readonly widthMm: number;
  readonly heightMm: number;
  /** Its lower-left corner in the piece's frame, mm. */
  readonly at: { readonly x: number; readonly y: number };
}

/** The artwork of a piece as it came, as PNG, with the density that it says. */
export async function artPicture(
  deps: Deps,
  job: SheetJob,
  piece: JobPiece,
): Promise<Outcome<Buffer, string>> {
  const made = job.pieces.find((p) => p.id === piece.id);
  const bytes = made && (await artOf(deps, made.art.sha256));
  const head = bytes && (await drawing('pictureHead', [bytes]));
  if (!bytes || !head?.ok) return refuse(UNREADABLE);
  const { dpi } = head.value;
  return accept(await drawing('artPng', [bytes, dpi]));
}

const UNREADABLE = 'The artwork of this job cannot be read any more.';

/** The artwork as it is printed: its own pixels on white, its colour grown out to the bleed. */
export async function printedPicture(
  deps: Deps,
  job: SheetJob,
  piece: JobPiece,
): Promise<Outcome<PrintedPicture, string>> {
  const made = job.pieces.find((p) => p.id === piece.id);
  const bytes = made && (await artOf(deps, made.art.sha256));
  const decoded = bytes && (await drawing('decodePicture', [bytes]));
  if (!made || !decoded?.ok) return refuse(UNREADABLE);
  const { width, height, rgba } = decoded.value;
  const mmPerPx = piece.picture.widthMm / width;
  const bled =
    piece.bleedMm > 0
      ? await heavy('bleed', {
          picture: { width, height, rgba },
          spec: {
            ...made.recipe.parted,
            mmPerPx,
            area: bleedArea(piece.lines, piece.bleedMm).map((l) => l.points),
          },
        })
      : { width, height, rgba, at: { x: 0, y: 0 } };
  const png = await drawing('printedPng', [bled]);
  return accept({
    bytes: png,
    ...{ widthMm: bled.width * mmPerPx, heightMm: bled.height * mmPerPx, at: bled.at },
  });
}

/** The same for the screen: just the room that a piece takes, bleed and border and all. */
export async function piecePreview(
  deps: Deps,
  job: SheetJob,
  piece: JobPiece,
): Promise<Outcome<Buffer, string>> {
  const picture = await printedPicture(deps, job, piece);
  if (!picture.ok) return picture;
  const { bytes, widthMm, heightMm, at } = picture.value;
  const box = boxOf(piece);
  const share = {
    ...{ left: (box.x0 - at.x) / widthMm, top: (at.y + heightMm - box.y1) / heightMm },
    ...{ width: (box.x1 - box.x0) / widthMm, height: (box.y1 - box.y0) / heightMm },
  };
  return accept(await drawing('previewPng', [bytes, share]));
}

/** The print file: a page a sheet at true size, with art, bleed, marks, number and code. */
export async function printPdf(deps: Deps, job: SheetJob): Promise<Outcome<Buffer, string>> {
  const pictures = new Map<string, PrintedPicture>();
  for (const piece of job.geometry.pieces.filter((p) => p.copies !== 0)) {
    const picture = await printedPicture(deps, job, piece);
    if (!picture.ok) return picture;
    pictures.set(piece.id, picture.value);
  }
  const shapes = new Map(
    shapesOverlap(job.geometry) ? job.geometry.pieces.map((p) => [p.id, shownOf(p)]) : [],
  );
  const label = labelOf(job);
  const placed = job.frozenAs?.placement;
  const moved = placed && { x: placed.xMm, y: placed.yMm };
  const pdf = await heavy(
    'printPages',
    job.geometry.sheets.map((laid, index) => ({
      drawing: jobPrint(job.geometry, label, index),
      moved,
      pictures: laid.map(({ piece, map, box }): PlacedPicture => {
        const { at, ...picture } = pictures.get(piece)!;
        const clip = shapes.get(piece)?.map((line) => line.map((p) => applyAffine(map, p))) ?? box;
        return { ...picture, map: compose(map, translation(at.x, at.y)), clip };
      }),
    })),
  );
  return accept(Buffer.from(pdf));
}

/** One of its cut files: lines as laid out less what the correction undoes, in the frame that the rig's cutter takes. */
export function cutFileOf(job: SheetJob, index: number, cut: JobCut, format: CutFormat): string {
  const drawing = jobDrawing(job.geometry, index, cut.cutting);
  const undo = cut.correction && invertMap(affineMap(cut.correction));
  const corrected: Drawing = undo
    ? { ...drawing, paths: drawing.paths.map((p) => mapPath(p, undo)) }
    : drawing;
  const lies = job.frozenAs?.fileMap ?? null;
  const { sheetWidthMm, sheetHeightMm } = job.geometry.sheet;
  const whole = { x0: 0, y0: 0, x1: sheetWidthMm, y1: sheetHeightMm };
  return writeDrawing(lies ? inFrame(corrected, lies, whole) : corrected, format);
}
