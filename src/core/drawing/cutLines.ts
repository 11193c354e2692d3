import { POINT_LIMIT } from './limits';
import type { Notes } from './notes';

import { pointsWorth } from './curves';
import { LeftUncut, NotCut } from './leftUncut';
import type { DrawnPath } from './model';

const REASONS: Readonly<Record<NotCut, string>> = {
  hidden: 'hidden',
  'see-through': 'fully see-through',
  unpainted: 'drawn with neither line nor fill',
  'layer-off': 'its layer is switched off',
  'layer-frozen': 'its layer is frozen',
  'layer-not-plotted': 'its layer is not plotted',
  invisible: 'made invisible',
};

/*
 * The one rule of what a reader may hand out as a cut line, for every format: what whoever drew it would see on the screen
 * and on paper. What is switched off, hidden, invisible or drawn with nothing stays in the file, and is named.
 */

/** “on “Guides”: its layer is switched off, so it is not cut”. */
const leftUncutText = ({ layer, why }: LeftUncut): string =>
  `on “${layer.slice(0, 40)}”: ${REASONS[why]}, so it is not cut`;

/** Collects what a reader draws: cut lines, and what is there but not cut. */
export class CutLines {
  readonly paths: DrawnPath[] = [];
  /** Kept for formats that can write it back as it was. */
  readonly uncut: DrawnPath[] = [];
  private readonly left = new Map<string, { layer: string; why: NotCut; lines: number }>();
  private points = 0;

  /** False when the drawing has more points than a file may have. */
  add(path: DrawnPath, why: NotCut | null): boolean {
    this.points += pointsWorth(path);
    if (this.points > POINT_LIMIT) return false;
    if (why === null) this.paths.push(path);
    else {
      this.uncut.push(path);
      const key = `${why} ${path.layer}`;
      const same = this.left.get(key);
      if (same) same.lines += 1;
      else this.left.set(key, { layer: path.layer, why, lines: 1 });
    }
    return true;
  }

  /** What was not cut, a line for each layer and reason, said in the report too. */
  leftUncut(notes: Notes): LeftUncut[] {
    const all = [...this.left.values()];
    for (const left of all) notes.add(leftUncutText(left), left.lines);
    return all.slice(0, MOST_TOLD);
  }
}

/** A file of ten thousand layers makes no report of ten thousand lines. */
const MOST_TOLD = 40;
