import type { MixtureColumns } from './mixture';
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

/** What a place makes of a node: its mean and variance there are these times what the node says. */
interface PlaceFactors {
  readonly creep: number;
  readonly bow: number;
  readonly registrationVar: number;
  readonly wander: number;
  readonly creepVar: number;
  readonly bowVar: number;
  readonly creepBowCov: number;
}

/**
 * The factors of a place.
 *
 * Method   docs/maths.md, “Long rolls”: start only: (rate + 2·bow·y0)·t + bow·t², σr² + q·t;
 *          both ends: −bow·t·(L − t), σr²·((1 − t/L)² + (t/L)²) + q·t·(L − t)/L (Brownian bridge).
 *          The uncertainty of creep and bow, and the creep’s spread from run to run, are added.
 */
function factorsAt(way: MarkWay, { tM: t, y0M: y0, lengthM: length }: PlaceOnPiece): PlaceFactors {
  if (way === 'start') {
    const square = 2 * y0 * t + t * t;
    return {
      creep: t,
      bow: square,
      registrationVar: 1,
      wander: t,
      creepVar: t * t,
      bowVar: square * square,
      creepBowCov: 2 * t * square,
    };
  }
  const share = length > 0 ? t / length : 0;
  const bridge = t * (length - t);
  return {
    creep: 0,
    bow: -bridge,
    registrationVar: (1 - share) ** 2 + share ** 2,
    wander: length > 0 ? bridge / length : 0,
    creepVar: 0,
    bowVar: bridge * bridge,
    creepBowCov: 0,
  };
}

/** Nodes by column, less what the cut file takes out: many places are asked of the same nodes. */
export interface NodeColumns {
  readonly count: number;
  readonly weight: Float64Array;
  readonly creep: Float64Array;
  readonly bow: Float64Array;
  readonly registrationVar: Float64Array;
  readonly wander: Float64Array;
  readonly creepVar: Float64Array;
  readonly bowVar: Float64Array;
  readonly creepBowCov: Float64Array;
}

export function nodeColumns(nodes: readonly DriftNode[], takenOut: TakenOut): NodeColumns {
  const column = (of: (node: DriftNode) => number): Float64Array => Float64Array.from(nodes, of);
  return {
    count: nodes.length,
    weight: column((n) => n.weight),
    creep: column((n) => n.creepMmPerM - (takenOut?.creepMmPerM ?? 0)),
    bow: column((n) => n.bowMmPerM2 - (takenOut?.bowMmPerM2 ?? 0)),
    registrationVar: column((n) => n.registrationVarMm2),
    wander: column((n) => n.wanderMm2PerM),
    creepVar: column((n) => n.creepVarMm2PerM2 + n.creepVar),
    bowVar: column((n) => n.bowVar),
    creepBowCov: column((n) => n.creepBowCov),
  };
}

/**
 * Predicted misregistration on one axis at a distance from the last registration, were each node true: a part a node.
 *
 * Units    m, mm, mm².
 */
export function missesAt(c: NodeColumns, way: MarkWay, at: PlaceOnPiece): MixtureColumns {
  const f = factorsAt(way, at);
  const mean = new Float64Array(c.count);
  const variance = new Float64Array(c.count);
  for (let i = 0; i < c.count; i += 1) {
    mean[i] = f.creep * c.creep[i]! + f.bow * c.bow[i]!;
    variance[i] =
      f.registrationVar * c.registrationVar[i]! +
      f.wander * c.wander[i]! +
      f.creepVar * c.creepVar[i]! +
      f.bowVar * c.bowVar[i]! +
      f.creepBowCov * c.creepBowCov[i]!;
  }
  return { weight: c.weight, mean, variance };
}
