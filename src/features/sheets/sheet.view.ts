import { unionOf } from '@/core/artwork';
import type { Finding } from '@/core/artwork/checks';
import { flatten } from '@/core/drawing';
import { applyAffine, compose, translation, type Affine, type Point, type Rect } from '@/core/geometry';
import {
  boxOf,
  jobDrawing,
  occupied,
  shapesOverlap,
  shownOf,
  type InsetCost,
  type JobGeometry,
} from '@/core/sheetJob';
import { capital, lengthText, type LengthUnit } from '@/core/units';

/** One sheet as it is drawn: page upwards, mm. */
export interface SheetView {
  /**
   * Each piece: its letter, what puts it onto the drawn page (y downwards), where it lies there, and what is shown of it as
   * path data, null for all of its room.
   */
  readonly placed: readonly {
    readonly piece: string;
    readonly matrix: string;
    readonly box: Rect;
    readonly shown: string | null;
  }[];
  /** Its lines as path data, y downwards. */
  readonly lines: string;
}

/** Curves are drawn and checked as edges that lie so near, mm. */
const DRAWN_WITHIN_MM = 0.02;

/** A map of the sheet as a matrix of a picture that counts downwards, as a page does. */
export function drawnMatrix(m: Affine, heightMm: number, pageMm: number): string {
  const at = [m.a11, -m.a21, -m.a12, m.a22, m.a12 * heightMm + m.tx, pageMm - m.a22 * heightMm - m.ty];
  return `matrix(${at.map((v) => Number(v.toFixed(4))).join(' ')})`;
}

/** A sheet of a job for its picture. */
export function sheetView(geometry: JobGeometry, index: number): SheetView {
  const { sheetHeightMm: page } = geometry.sheet;
  const boxes = new Map(geometry.pieces.map((p) => [p.id, boxOf(p)]));
  const shapes = new Map(shapesOverlap(geometry) ? geometry.pieces.map((p) => [p.id, shownOf(p)]) : []);
  const pathData = (line: readonly Point[], map: Affine): string =>
    `M${line
      .map((p) => applyAffine(map, p))
      .map((p) => `${p.x.toFixed(2)} ${(page - p.y).toFixed(2)}`)
      .join('L')}Z`;
  return {
    placed: geometry.sheets[index]!.map((p) => ({
      piece: p.piece,
      matrix: drawnMatrix(
        compose(p.map, translation(boxes.get(p.piece)!.x0, boxes.get(p.piece)!.y0)),
        boxes.get(p.piece)!.y1 - boxes.get(p.piece)!.y0,
        page,
      ),
      shown:
        shapes
          .get(p.piece)
          ?.map((line) => pathData(line, p.map))
          .join('') ?? null,
      box: { x0: p.box.x0, x1: p.box.x1, y0: page - p.box.y1, y1: page - p.box.y0 },
    })),
    lines: jobDrawing(geometry, index)
      .paths.map((path) => {
        const points = flatten(path, DRAWN_WITHIN_MM).map((v, i) => (i % 2 === 0 ? v : page - v).toFixed(2));
        return `M${points.join(' ')}${path.closed ? 'Z' : ''}`;
      })
      .join(''),
  };
}

/** What marks closer to the edge would give, in a sentence. */
export function insetWords(
  { fromMm, toMm, pieces, then, leastMm, because }: InsetCost,
  unit: LengthUnit,
): string {
  const more = then - pieces;
  const limit =
    because === 'printer'
      ? `the printer cannot print them whole closer than ${lengthText(leastMm, unit)}`
      : `closer than ${lengthText(leastMm, unit)} the sensor may take the edge for one`;
  return `Marks ${lengthText(toMm, unit)} from the edge instead of ${lengthText(fromMm, unit)} would give ${more === 1 ? 'one more piece' : `${more} more pieces`} a sheet; ${limit}.`;
}

/** The one sentence at the top. */
export function jobAnswer(
  job: {
    readonly label: string;
    readonly stage: 'draft' | 'frozen' | 'closed';
    readonly discarded?: boolean;
  },
  geometry: JobGeometry,
  findings: readonly Finding[],
  unit: LengthUnit,
): string {
  const pieces = geometry.sheets.reduce((sum, s) => sum + s.length, 0);
  const sheets = geometry.sheets.length;
  const many = `${pieces === 1 ? 'one piece' : `${pieces} pieces`} on ${sheets === 1 ? 'one sheet' : `${sheets} sheets`}`;
  if (job.discarded) return `${job.label} was thrown away: ${many}.`;
  if (job.stage === 'closed') return `${job.label} is closed: ${many}.`;
  if (job.stage === 'frozen')
    return `${job.label} is frozen: print it at 100 %, then cut it. ${capital(many)}.`;
  const stop = findings.find((f) => f.severity === 'stop');
  if (stop) return `${capital(many)}, and it would be spoiled: ${stop.message}`;
  const [piece] = geometry.sheets[0] ?? [];
  const alone = geometry.pieces.filter((p) => p.copies !== 0).length === 1;
  const size =
    piece && alone
      ? ` Each takes ${lengthText(piece.box.x1 - piece.box.x0, unit)} × ${lengthText(piece.box.y1 - piece.box.y0, unit)}.`
      : '';
  return `${capital(many)}.${size} Look at it, then freeze it for printing.`;
}

/** What share of the sheets is neither piece nor bleed. */
export function wasteShare({ sheets, sheet, pieces }: JobGeometry): number {
  const areas = new Map(
    pieces.map((p) => [
      p.id,
      unionOf(occupied(p), 'non-zero').reduce((sum, l) => sum + (l.hole ? -l.areaMm2 : l.areaMm2), 0),
    ]),
  );
  const used = sheets.flat().reduce((sum, p) => sum + areas.get(p.piece)!, 0);
  return sheets.length === 0 ? 1 : 1 - used / (sheets.length * sheet.sheetWidthMm * sheet.sheetHeightMm);
}
