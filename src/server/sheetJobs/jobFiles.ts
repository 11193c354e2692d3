import sharp from 'sharp';

import { inFrame } from '@/core/daily';
import { mapPath, type Drawing } from '@/core/formats/drawing';
import { writeDrawing, type CutFormat } from '@/core/formats/file';
import type { PlacedPicture } from '@/core/formats/pdf/sceneToPdf';
import { affineMap, applyAffine, compose, invertMap, translation } from '@/core/geometry';
import { accept, refuse, type Outcome } from '@/core/outcome';
import {
  bleedArea,
  boxOf,
  jobDrawing,
  jobScene,
  shapesOverlap,
  shownOf,
  type JobPiece,
} from '@/core/sheetJob';
import { decodePicture, pictureHead } from '@/server/artwork/decode';
import type { Deps } from '@/server/base/deps';
import { heavy } from '@/server/heavy/pool';

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
  const head = bytes && (await pictureHead(bytes));
  if (!bytes || !head?.ok) return refuse(UNREADABLE);
  const { dpi } = head.value;
  const png = sharp(bytes).autoOrient().png({ compressionLevel: 3 });
  return accept(await (dpi ? png.withMetadata({ density: dpi }) : png).toBuffer());
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
  const decoded = bytes && (await decodePicture(bytes));
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
  // White is no ink: what is clear stays paper, and the file opens everywhere.
  const png = await sharp(Buffer.from(bled.rgba.buffer, bled.rgba.byteOffset, bled.rgba.byteLength), {
    raw: { width: bled.width, height: bled.height, channels: 4 },
  })
    .flatten({ background: '#ffffff' })
    .png({ compressionLevel: 6 })
    .toBuffer();
  return accept({
    bytes: png,
    ...{ widthMm: bled.width * mmPerPx, heightMm: bled.height * mmPerPx, at: bled.at },
  });
}

/** Side of a preview at most, pixels. */
const PREVIEW_PX = 1600;

/** The same for the screen: just the room that a piece takes, bleed and border and all. */
export async function piecePreview(
  deps: Deps,
  job: SheetJob,
  piece: JobPiece,
): Promise<Outcome<Buffer, string>> {
  const picture = await printedPicture(deps, job, piece);
  if (!picture.ok) return picture;
  const { bytes, widthMm, heightMm, at } = picture.value;
  const { width = 1, height = 1 } = await sharp(bytes).metadata();
  const box = boxOf(piece);
  const across = (mm: number): number => Math.round((mm / widthMm) * width);
  const along = (mm: number): number => Math.round((mm / heightMm) * height);
  const left = across(box.x0 - at.x);
  const top = along(at.y + heightMm - box.y1);
  const size = { width: Math.max(1, across(box.x1 - box.x0)), height: Math.max(1, along(box.y1 - box.y0)) };
  const beyond = {
    ...{ left: Math.max(0, -left), top: Math.max(0, -top) },
    right: Math.max(0, left + size.width - width),
    bottom: Math.max(0, top + size.height - height),
  };
  const whole = await sharp(bytes)
    .extend({ ...beyond, background: '#ffffff' })
    .toBuffer();
  return accept(
    await sharp(whole)
      .extract({ left: Math.max(0, left), top: Math.max(0, top), ...size })
      .resize({ width: PREVIEW_PX, height: PREVIEW_PX, fit: 'inside', withoutEnlargement: true })
      .png()
      .toBuffer(),
  );
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
      scene: jobScene(job.geometry, label, index),
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
