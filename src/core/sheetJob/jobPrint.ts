import { codeMarks, onPage, words, type DrawnWords, type PageDrawing } from '../drawing';
import { drawMarks } from '../marks';

import { LABEL } from './pair';
import { type JobGeometry } from './job';
import { witnessPrint, witnessStation } from './witness';

/** What stands in a job's label. */
export interface JobLabel {
  readonly number: string;
  readonly name: string;
  readonly date: string;
  /** Modules of its code, true = dark, row by row from the top. */
  readonly qr: readonly (readonly boolean[])[];
}

/** Marks and label of one of its sheets; the pictures come under them. */
export function jobPrint(geometry: JobGeometry, said: JobLabel, index: number): PageDrawing {
  const { sheet, label, sheets } = geometry;
  const station = witnessStation(geometry, index);
  const of = sheets.length > 1 ? `, sheet ${index + 1} of ${sheets.length}` : '';
  const upright = label.y1 - label.y0 > label.x1 - label.x0;
  const along = LABEL.codeMm + 1.2;
  const text = (up: number, line: string, sizeMm: number, bold = false): DrawnWords =>
    upright
      ? words({ x: label.x1 - up, y: label.y0 + along }, line, sizeMm, { bold, turnDeg: 90 })
      : words({ x: label.x0 + along, y: label.y0 + up }, line, sizeMm, { bold });
  return onPage(
    { widthMm: sheet.sheetWidthMm, heightMm: sheet.sheetHeightMm },
    `Red Plumb job ${said.number}${of}`,
    [
      ...(sheet.marks ? drawMarks(sheet.marks, sheet) : []),
      ...(station ? witnessPrint(station) : []),
      ...codeMarks(said.qr, { x: label.x0 + 0.2, y: label.y0 + 0.2 }, LABEL.codeMm),
      text(5.9, `${said.number}${of}`, 2.9, true),
      text(3.1, said.name.slice(0, 24), 2),
      text(0.6, `${said.date}. Print at 100 %.`, 1.7),
    ],
  );
}
