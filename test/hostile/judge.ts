import { CUT_FORMATS, type CutFormat } from '@/core/drawing/formats';

import { correctFile, fileRefusalText, formatOf, readCutFile } from '../../src/core/drawing/file';
import { affineMap, type PlaneMap } from '../../src/core/geometry';

const SLIGHT = affineMap({ a11: 1.0012, a12: -0.0008, a21: 0.0011, a22: 0.9991, tx: 0.42, ty: -0.31 });
const PERSPECTIVE: PlaneMap = {
  kind: 'projective',
  ...{ h11: 1.001, h12: 0, h13: 0.2, h21: 0, h22: 0.999, h23: -0.1, h31: 1e-6, h32: -2e-6 },
};

/** What is wrong with how a hostile file was taken; null when it was corrected soundly or refused with a sentence. */
export function fault(text: string, to: CutFormat | null, projective = false): string | null {
  try {
    const done = correctFile(text, projective ? PERSPECTIVE : SLIGHT, to);
    if (!done.ok) {
      const words = fileRefusalText(done.refusal);
      return /[.?]$/.test(words) && words.length < 400 ? null : `refused with “${words.slice(0, 80)}”`;
    }
    const { content, report } = done.value;
    // Words of the file’s own (a colour, a note) are kept as they are: figures of ours are what is asked about.
    const figures = report.to === 'svg' ? [...content.matchAll(OWN_FIGURES)].join(' ') : content;
    const none = report.to === 'dxf' ? /^-?(?:NaN|Infinity)$/m : /NaN|Infinity/;
    if (none.test(figures)) return 'NaN or Infinity in the file';
    if (/null/.test(JSON.stringify(report))) return 'a figure of the report is none';
    const format = formatOf(content);
    if (!format.ok || format.value !== report.to) return 'what was written is not told as its format';
    const again = readCutFile(content);
    return again.ok ? null : `own output refused: ${again.refusal.code}`;
  } catch (error) {
    return `thrown: ${error instanceof Error ? (error.stack ?? error.message).slice(0, 400) : String(error)}`;
  }
}

const OWN_FIGURES = / (?:d|transform|viewBox|width|height)="[^"]*"/g;

export const FORMATS_TO: readonly (CutFormat | null)[] = [null, ...CUT_FORMATS];
