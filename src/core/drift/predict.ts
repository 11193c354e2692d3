import { normalCdf, radialProbability, radialQuantile, type Precision } from '../statistics';

import { missAt, type MarkWay, type PlaceOnPiece, type TakenOut } from './miss';
import { mixtureMoments, type NormalPart } from './mixture';
import type { DriftNode } from './types';

/** What is known of a rig’s drift on both axes. */
export interface DriftKnowledge {
  readonly along: readonly DriftNode[];
  readonly across: readonly DriftNode[];
}

/** How an item’s outline judges a miss: every way alike, or by its sides. */
export type Outline = 'round' | 'rectangle';

export interface Registered {
  readonly way: MarkWay;
  /** Whether the cut files take the expected creep and bow out. */
  readonly takenOut: boolean;
}

const expected = (nodes: readonly DriftNode[]): TakenOut => ({
  creepMmPerM: nodes.reduce((sum, n) => sum + n.weight * n.creepMmPerM, 0),
  bowMmPerM2: nodes.reduce((sum, n) => sum + n.weight * n.bowMmPerM2, 0),
});

/** Predictions for one rig and way of registering; what does not change with the place is worked out once. */
export class Predictor {
  private readonly takenOut: { readonly along: TakenOut; readonly across: TakenOut };

  constructor(
    private readonly knowledge: DriftKnowledge,
    private readonly registered: Registered,
  ) {
    this.takenOut = registered.takenOut
      ? { along: expected(knowledge.along), across: expected(knowledge.across) }
      : { along: null, across: null };
  }

  private parts(axis: 'along' | 'across', at: PlaceOnPiece): NormalPart[] {
    return this.knowledge[axis].map((n) => missAt(n, this.registered.way, at, this.takenOut[axis]));
  }

  /** Mean (mm) and variance (mm²) on one axis, the uncertainty of every parameter included. */
  moments(axis: 'along' | 'across', at: PlaceOnPiece) {
    return mixtureMoments(this.parts(axis, at));
  }

  /** The radius that 95 of 100 cuts stay within; of the normal with the predictive mean and variance. */
  r95Mm(at: PlaceOnPiece, precision: Precision = 'exact'): number {
    const along = this.moments('along', at);
    const across = this.moments('across', at);
    return radialQuantile(
      { meanX: across.mean, meanY: along.mean, varX: across.variance, varY: along.variance, covXY: 0 },
      0.95,
      precision,
    );
  }

  /** The chance that an item here is spoiled; of the whole mixture, not of its moments. */
  spoiledChance(at: PlaceOnPiece, toleranceMm: number, outline: Outline): number {
    const along = this.parts('along', at);
    if (outline === 'rectangle')
      return 1 - within(along, toleranceMm) * within(this.parts('across', at), toleranceMm);
    const across = this.moments('across', at);
    return (
      1 -
      along.reduce(
        (sum, p) =>
          sum +
          p.weight *
            radialProbability(
              { meanX: across.mean, meanY: p.mean, varX: across.variance, varY: p.variance, covXY: 0 },
              toleranceMm,
            ),
        0,
      )
    );
  }
}

function within(parts: readonly NormalPart[], toleranceMm: number): number {
  let sum = 0;
  for (const { weight, mean, variance } of parts) {
    const sd = Math.sqrt(variance);
    sum += weight * (normalCdf((toleranceMm - mean) / sd) - normalCdf((-toleranceMm - mean) / sd));
  }
  return sum;
}
