import type { Terms } from '../fit';
import type { Point } from '../geometry';
import type { OffsetAxis } from '../units';

import { watchShift, type Watch, type WatchedLoad } from './watchShift';

/** What a read set of combs found. */
export interface FoundLoad {
  readonly at: Date;
  readonly terms: Pick<Terms, 'shiftXMm' | 'shiftYMm'>;
  /** What the machine's settings showed. */
  readonly shown: Readonly<Record<string, number>>;
  /** What its cut file undid in the middle of the work area, mm. */
  readonly fileMm: Point;
}

export interface WatchedAxis {
  readonly axis: OffsetAxis;
  readonly watch: Watch | null;
}

/** The loads of a setup, oldest first, watched across and along from where it was last corrected. */
export const watched = (
  found: readonly FoundLoad[],
  events: readonly { readonly at: Date }[],
  toleranceMm: number,
): WatchedAxis[] =>
  (['across', 'along'] as const).map((axis) => ({
    axis,
    watch: watchShift(
      found.map((f, i): WatchedLoad => ({
        at: f.at,
        mm: axis === 'across' ? f.terms.shiftXMm : f.terms.shiftYMm,
        anew: newSince(found[i - 1], f, events),
      })),
      toleranceMm,
    ),
  }));

function newSince(
  before: FoundLoad | undefined,
  f: FoundLoad,
  events: readonly { readonly at: Date }[],
): WatchedLoad['anew'] {
  if (!before) return null;
  const typed = Object.keys(f.shown).some((id) => f.shown[id] !== before.shown[id]);
  const file = Math.hypot(f.fileMm.x - before.fileMm.x, f.fileMm.y - before.fileMm.y) > SAME_FILE_MM;
  if (typed || file) return 'corrected';
  return events.some((e) => e.at > before.at && e.at <= f.at) ? 'event' : null;
}

/** Files that differ by less carry the same correction. */
const SAME_FILE_MM = 1e-6;
