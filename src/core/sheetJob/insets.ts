import { markOutline, markPlaces, type MarkKit } from '../marks';

import { layOutJob } from './pair';
import { type JobSheet } from './job';
import { byRule } from './job';
import { type JobLayout } from './job';
import { type JobPiece } from './job';

/** What moving the marks closer to the edge would give, and how close they may come. */
export interface InsetCost {
  /** The largest of the present insets, and what it would be, mm from the sheet's edge to the mark's middle. */
  readonly fromMm: number;
  readonly toMm: number;
  /** How much closer all of them come. */
  readonly byMm: number;
  /** Pieces a sheet now, and then. */
  readonly pieces: number;
  readonly then: number;
  /** No closer than this: who says so. */
  readonly leastMm: number;
  readonly because: 'printer' | 'sensor';
}

const closer = (kit: MarkKit, byMm: number): MarkKit => ({
  ...kit,
  insetLeftMm: kit.insetLeftMm - byMm,
  insetRightMm: kit.insetRightMm - byMm,
  insetNearMm: kit.insetNearMm - byMm,
  insetFarMm: kit.insetFarMm - byMm,
});

/** Whole steps in which marks are moved, mm. */
const STEP_MM = 1;

/**
 * What the insets of the marks cost: the smallest move towards the edge that gives the most pieces a sheet, as far as printer
 * and sensor let marks come. Null where nothing would be gained, or nothing may move.
 */
export function insetCost(pieces: readonly JobPiece[], layout: JobLayout, sheet: JobSheet): InsetCost | null {
  const { marks } = sheet;
  if (!marks) return null;
  const edges = markPlaces(marks, sheet).map((place) => {
    const o = markOutline(marks, place);
    return Math.min(o.x0, o.y0, sheet.sheetWidthMm - o.x1, sheet.sheetHeightMm - o.y1);
  });
  const limit = Math.max(marks.printerEdgeMm, marks.sensorEdgeMm);
  const most = Math.floor((Math.min(...edges) - limit) / STEP_MM + 1e-6);
  if (most < 1) return null;
  const holds = (by: number): number => {
    const laid = layOutJob(
      pieces.map((p) => ({ ...p, copies: p.copies === 0 ? 0 : null })),
      { ...byRule(layout), witness: false },
      { ...sheet, marks: closer(marks, by) },
    );
    return laid.ok ? (laid.value.sheets[0]?.length ?? 0) : 0;
  };
  const now = holds(0);
  const then = holds(most * STEP_MM);
  if (then <= now) return null;
  // The least move that gives as many.
  let [low, high] = [0, most];
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (holds(middle * STEP_MM) >= then) high = middle;
    else low = middle;
  }
  const byMm = high * STEP_MM;
  const fromMm = Math.max(marks.insetLeftMm, marks.insetRightMm, marks.insetNearMm, marks.insetFarMm);
  return {
    ...{ fromMm, toMm: fromMm - byMm, byMm, pieces: now, then },
    leastMm: fromMm - (Math.min(...edges) - limit),
    because: marks.printerEdgeMm >= marks.sensorEdgeMm ? 'printer' : 'sensor',
  };
}
