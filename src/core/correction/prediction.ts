import { SAME } from '../tolerance';
import { placeName, rectLattice, type Point, type Rect } from '../geometry';
import { fieldPrediction, type AffineField } from '../fit';
import { radialQuantile, type Misregistration } from '../statistics';

/** What differs from load to load: a shift, and a turn about where the one mark registers. */
export interface LoadScatter {
  /** Standard deviation per axis, mm. */
  readonly shiftMm: number;
  /** Standard deviation, rad. */
  readonly turnRad: number;
  readonly pivot: Point;
}

/** A rig whose loads differ by a shift alone. */
export const shiftScatter = (shiftMm: number): LoadScatter => ({
  shiftMm,
  turnRad: 0,
  pivot: { x: 0, y: 0 },
});

/** What is known about the rig's misregistration: bias left, its doubt, and the scatter of single loads. */
export interface RigPrediction {
  readonly bias: AffineField;
  /** 6 × 6 covariance of the bias, noise factor included. */
  readonly covariance: readonly (readonly number[])[];
  readonly load: LoadScatter;
  /** How often the scatter of loads counts for loads to come; left out: as often as when one load told the bias. */
  readonly shares?: ScatterShares;
}

/** How often a load's scatter counts. */
export interface ScatterShares {
  readonly shift: number;
  readonly turn: number;
}

/**
 * Cuts of loads to come: the load that told the bias had a shift of its own, and the next one has another. A turn that
 * comes anew at every load is never corrected, so it counts once.
 */
export const NEXT_LOADS: ScatterShares = { shift: 2, turn: 1 };
/** The same where the log told the bias: its loads' scatter is in the covariance, and the next one has its own. */
export const NEXT_LOADS_BY_LOG: ScatterShares = { shift: 1, turn: 1 };
/** What one load tells of the rig: its own scatter is in it once. The turn is no part of what would be corrected. */
export const TOLD_BY_ONE_LOAD: ScatterShares = { shift: 1, turn: 0 };

/** bias + parameter covariance + load-to-load scatter at a place (maths.md, Prediction). */
export function misregistrationAt(
  prediction: RigPrediction,
  p: Point,
  shares: ScatterShares = prediction.shares ?? NEXT_LOADS,
): Misregistration {
  const m = fieldPrediction(prediction.bias, prediction.covariance, p);
  const { pivot } = prediction.load;
  const shiftMm = Math.sqrt(shares.shift) * prediction.load.shiftMm;
  const turnRad = Math.sqrt(shares.turn) * prediction.load.turnRad;
  const armX = turnRad * (p.x - pivot.x);
  const armY = turnRad * (p.y - pivot.y);
  return {
    ...m,
    varX: m.varX + shiftMm ** 2 + armY ** 2,
    varY: m.varY + shiftMm ** 2 + armX ** 2,
    covXY: m.covXY - armX * armY,
  };
}

export interface WorstPlace {
  readonly r95Mm: number;
  readonly at: Point;
  readonly name: string;
}

/** Bias and spread of an affine map grow outwards, so the corners hold the worst; the middle is kept for ties. */
const LATTICE = 3;

/** The radius that holds 95 of 100 cuts at the worst place of the work area. */
export function worstR95(prediction: RigPrediction, workArea: Rect): WorstPlace {
  return rectLattice(workArea, LATTICE, LATTICE)
    .map((at) => ({
      r95Mm: radialQuantile(misregistrationAt(prediction, at), 0.95),
      at,
      name: placeName(at, workArea),
    }))
    .reduce((worst, here) => (here.r95Mm > worst.r95Mm + SAME ? here : worst));
}

/** How much bleed or border hides the misregistration of 95, 99 and 99.9 of 100 cuts at the worst place, mm. */
export function bleedNeeded(
  prediction: RigPrediction,
  workArea: Rect,
): { readonly of95Mm: number; readonly of99Mm: number; readonly of999Mm: number } {
  const at = (share: number): number =>
    rectLattice(workArea, LATTICE, LATTICE).reduce(
      (most, p) => Math.max(most, radialQuantile(misregistrationAt(prediction, p), share)),
      0,
    );
  return { of95Mm: at(0.95), of99Mm: at(0.99), of999Mm: at(0.999) };
}
