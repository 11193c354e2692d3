import type { NormalPart } from './mixture';
import type { DriftNode } from './types';

/** How a piece is registered along its length. */
export type MarkWay = 'start' | 'both-ends';

/** A place on a piece: `tM` from the registration at `y0M` of the run; `lengthM` to the marks at its far end. */
export interface PlaceOnPiece {
  readonly tM: number;
  readonly y0M: number;
  readonly lengthM: number;
}

/** Creep and bow that the cut file takes out; null when it is cut as drawn. */
export type TakenOut = { readonly creepMmPerM: number; readonly bowMmPerM2: number } | null;

/**
 * Predicted misregistration on one axis at a distance from the last registration, if the node were true.
 *
 * Units    m, mm, mm².
 * Method   docs/maths.md, “Long rolls”: start only: (rate + 2·bow·y0)·t + bow·t², σr² + q·t;
 *          both ends: −bow·t·(L − t), σr²·((1 − t/L)² + (t/L)²) + q·t·(L − t)/L (Brownian bridge).
 *          The uncertainty of creep and bow, and the creep’s spread from run to run, are added.
 */
export function missAt(node: DriftNode, way: MarkWay, at: PlaceOnPiece, takenOut: TakenOut): NormalPart {
  const { tM: t, y0M: y0, lengthM: length } = at;
  const creep = node.creepMmPerM - (takenOut?.creepMmPerM ?? 0);
  const bow = node.bowMmPerM2 - (takenOut?.bowMmPerM2 ?? 0);
  if (way === 'start') {
    const square = 2 * y0 * t + t * t;
    return {
      weight: node.weight,
      mean: creep * t + bow * square,
      variance:
        node.registrationVarMm2 +
        node.wanderMm2PerM * t +
        (node.creepVarMm2PerM2 + node.creepVar) * t * t +
        node.bowVar * square * square +
        2 * node.creepBowCov * t * square,
    };
  }
  const share = length > 0 ? t / length : 0;
  const bridge = t * (length - t);
  return {
    weight: node.weight,
    mean: -bow * bridge,
    variance:
      node.registrationVarMm2 * ((1 - share) ** 2 + share ** 2) +
      (length > 0 ? (node.wanderMm2PerM * bridge) / length : 0) +
      node.bowVar * bridge * bridge,
  };
}
