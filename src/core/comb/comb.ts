import { WHOLE_STEP_GUARD } from '../tolerance';
import type { Point } from '../geometry';
import type { OffsetAxis } from '../units';

/**
 * A line comb: printed lines at pitch P = (2n + 2)·δ, cut lines at P − δ = (2n + 1)·δ about the same centre.
 *
 * Printed line k (−n … n) is labelled k·δ + φ; the cut comb is displaced by −φ, so the label of the
 * pair that coincides is the offset. The cut comb is longer, so that the pairs go on when the offset is
 * out of the comb's own range: then the offset is the label plus m·(P − δ), with m from the coarse scale.
 *
 * P = (2n + 2)·δ is the one pitch at which the pairs neither leave a gap nor repeat (maths.md).
 */
export interface LineComb {
  readonly axis: OffsetAxis;
  /** Middle of the printed comb, sheet frame. */
  readonly centre: Point;
  readonly stepMm: number;
  /** n: printed lines each side of the middle one. */
  readonly halfLines: number;
  /** φ, in (−δ/2, δ/2]. */
  readonly phaseMm: number;
}

/** Below this step a comb of five half lines is as long as a coarse graduation, which then cannot tell its lengths. */
const FINE_STEP_MM = 0.07;

/** Printed lines each side of the middle one: a comb of 1.1 mm at a step of 0.1, of 0.75 mm at 0.05. */
export const halfLinesOf = (stepMm: number): number => (stepMm < FINE_STEP_MM ? 7 : 5);

export const printPitchMm = (comb: LineComb): number => (2 * comb.halfLines + 2) * comb.stepMm;

export const cutPitchMm = (comb: LineComb): number => combLengthMm(comb);

/** How far apart offsets lie that a comb shows alike, mm: its whole length. */
export const combLengthMm = ({ stepMm, halfLines }: Pick<LineComb, 'stepMm' | 'halfLines'>): number =>
  (2 * halfLines + 1) * stepMm;

/** The offset that printed line k is labelled with. */
export const lineLabelMm = (comb: LineComb, line: number): number => line * comb.stepMm + comb.phaseMm;

/** Where the printed line stands, relative to the comb's centre, on the measured axis. */
export const printedLineMm = (comb: LineComb, line: number): number => line * printPitchMm(comb);

/** Where a cut line is commanded, by its index from the middle one, relative to the comb's centre. */
export const cutLineMm = (comb: LineComb, index: number): number => index * cutPitchMm(comb) - comb.phaseMm;

/** How many whole comb lengths the cut comb must reach beyond the printed one for `reachMm`. */
export const extraLengths = (stepMm: number, halfLines: number, reachMm: number): number =>
  Math.max(
    0,
    Math.ceil((reachMm - (halfLines + 0.5) * stepMm) / ((2 * halfLines + 1) * stepMm) - WHOLE_STEP_GUARD),
  );
