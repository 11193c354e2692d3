import { codeMarks, type Mark, type Scene } from '../drawing';
import { markScene } from '../marks';

import { LABEL } from './pair';
import { type JobGeometry } from './job';
import { witnessMarks, witnessStation } from './witness';

/** What stands in a job's label. */
export interface JobLabel {
  readonly number: string;
  readonly name: string;
  readonly date: string;
  /** Modules of its code, true = dark, row by row from the top. */
  readonly qr: readonly (readonly boolean[])[];
}

/** Marks and label of one of its sheets; the pictures come under them. */
export function jobScene(geometry: JobGeometry, words: JobLabel, index: number): Scene {
  const { sheet, label, sheets } = geometry;
  const station = witnessStation(geometry, index);
  const of = sheets.length > 1 ? `, sheet ${index + 1} of ${sheets.length}` : '';
  const upright = label.y1 - label.y0 > label.x1 - label.x0;
  const along = LABEL.codeMm + 1.2;
  const text = (up: number, said: string, sizeMm: number, bold = false): Mark => ({
    ...{ kind: 'text', text: said, sizeMm, bold, ink: 'text', anchor: 'start' },
    ...(upright
      ? { at: { x: label.x1 - up, y: label.y0 + along }, turnDeg: 90 }
      : { at: { x: label.x0 + along, y: label.y0 + up } }),
  });
  return {
    ...{ widthMm: sheet.sheetWidthMm, heightMm: sheet.sheetHeightMm },
    title: `Red Plumb job ${words.number}${of}`,
    marks: [
      ...(sheet.marks ? markScene(sheet.marks, sheet) : []),
      ...(station ? witnessMarks(station) : []),
      ...codeMarks(words.qr, { x: label.x0 + 0.2, y: label.y0 + 0.2 }, LABEL.codeMm),
      text(5.9, `${words.number}${of}`, 2.9, true),
      text(3.1, words.name.slice(0, 24), 2),
      text(0.6, `${words.date}. Print at 100 %.`, 1.7),
    ],
  };
}
