import type { Label, Line } from './readers';

/*
 * An eye over a printed sheet: finds combs by their labels, and reads where the cut lines run into printed ones, from the
 * lines alone. Knows of a sheet what is printed on it.
 */

export interface Sight {
  readonly x: number;
  readonly y: number;
  readonly axis: 'across' | 'along';
  /** What the labels say, with whole comb lengths counted along the cut lines, mm. */
  readonly offsetMm: number;
  /** How far apart the two lines are that were taken for one, mm. */
  readonly gapMm: number;
}

const LABEL_MM = 1.85;
/** Middle of a figure above its base line, as a share of its size. */
const MIDDLE = 0.36;

interface Place {
  /** Along the comb, and across it. */
  readonly s: number;
  readonly t: number;
}

const place = (axis: 'across' | 'along', x: number, y: number): Place =>
  axis === 'across' ? { s: x, t: y } : { s: y, t: x };

/** Lines that run across a comb: their middles along it, and from where to where. */
function strokes(lines: readonly Line[], axis: 'across' | 'along') {
  return lines.flatMap(([x0, y0, x1, y1]) => {
    const [a, b] = [place(axis, x0, y0), place(axis, x1, y1)];
    const length = Math.abs(b.t - a.t);
    if (Math.abs(b.s - a.s) > 0.1 || length < 3 || length > 8) return [];
    return [{ s: (a.s + b.s) / 2, t: (a.t + b.t) / 2 }];
  });
}

/** Reads every comb that the cut lines reach. */
export function readCombs(labels: readonly Label[], print: readonly Line[], cut: readonly Line[]): Sight[] {
  return (['across', 'along'] as const).flatMap((axis) => {
    // Figures across are turned, so that they stand beside their lines.
    const figures = labels
      .filter((l) => l.sizeMm === LABEL_MM && l.upright === (axis === 'along') && /^[-+]?\d+$/.test(l.text))
      .map((l) => ({
        ...place(axis, l.x - (l.upright ? 0 : MIDDLE * LABEL_MM), l.y + (l.upright ? MIDDLE * LABEL_MM : 0)),
        mm: Number(l.text) / 100,
      }));
    const combs = new Map<string, typeof figures>();
    for (const f of figures) {
      const near = [...combs.values()].find(
        (c) => Math.abs(c[0]!.t - f.t) < 1 && c.some((o) => Math.abs(o.s - f.s) < 6),
      );
      if (near) near.push(f);
      else combs.set(`${f.s} ${f.t}`, [f]);
    }
    const [printed, landed] = [strokes(print, axis), strokes(cut, axis)];
    return [...combs.values()].flatMap((comb): Sight[] => {
      const middle = comb.reduce((sum, f) => sum + f.s, 0) / comb.length;
      const own = printed
        .filter((p) => Math.abs(p.s - middle) < 9 && Math.abs(p.t - comb[0]!.t) < 9)
        .sort((a, b) => a.s - b.s);
      const cuts = landed
        .filter((c) => Math.abs(c.s - middle) < 17 && Math.abs(c.t - comb[0]!.t) < 16)
        .sort((a, b) => a.s - b.s);
      if (cuts.length === 0) return [];
      const [halfPrinted, halfCut] = [(own.length - 1) / 2, (cuts.length - 1) / 2];
      const cutPitch = (cuts.at(-1)!.s - cuts[0]!.s) / (cuts.length - 1);
      const valueAt = (s: number): number => {
        const sorted = [...comb].sort((a, b) => Math.abs(a.s - s) - Math.abs(b.s - s));
        const [a, b] = [sorted[0]!, sorted[1]!];
        return a.mm + ((b.mm - a.mm) * (s - a.s)) / (b.s - a.s);
      };
      let best = { i: 0, j: 0, gap: Infinity };
      own.forEach((p, i) =>
        cuts.forEach((c, j) => {
          const gap = Math.abs(p.s - c.s);
          if (gap < best.gap) best = { i, j, gap };
        }),
      );
      const lengths = best.i - halfPrinted - (best.j - halfCut);
      const offsetMm = valueAt(own[best.i]!.s) + lengths * cutPitch;
      const at = own[best.i]!;
      return [
        {
          ...(axis === 'across' ? { x: at.s, y: at.t } : { x: at.t, y: at.s }),
          ...{ axis, offsetMm, gapMm: best.gap },
        },
      ];
    });
  });
}
