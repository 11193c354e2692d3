import { placeName, rectLattice, type Point, type Rect } from '../geometry';
import { fieldPrediction, type AffineField } from '../fit';
import { radialQuantile, type Misregistration } from '../statistics';

/** What is known about the rig's misregistration: bias left, its doubt, and the scatter of single loads. */
export interface RigPrediction {
  readonly bias: AffineField;
  /** 6 × 6 covariance of the bias, noise factor included. */
  readonly covariance: readonly (readonly number[])[];
  readonly loadScatterMm: number;
}

/** bias + parameter covariance + load-to-load scatter at a place (maths.md, Prediction). */
export function misregistrationAt(prediction: RigPrediction, p: Point): Misregistration {
  const m = fieldPrediction(prediction.bias, prediction.covariance, p);
  const scatter = prediction.loadScatterMm ** 2;
  return { ...m, varX: m.varX + scatter, varY: m.varY + scatter };
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
    .reduce((worst, here) => (here.r95Mm > worst.r95Mm + 1e-9 ? here : worst));
}
