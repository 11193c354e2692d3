import { radialQuantile, type Precision } from '../statistics';

import { missAt, type MarkWay, type PlaceOnPiece, type TakenOut } from './miss';
import { mixtureMoments, outsideBand, outsideDisc, type NormalPart } from './mixture';
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

  /** The chance that an item here is spoiled, the tails of the mixture included. */
  spoiledChance(at: PlaceOnPiece, toleranceMm: number, outline: Outline): number {
    const along = this.parts('along', at);
    const across = this.parts('across', at);
    if (outline === 'round') return outsideDisc(across, along, toleranceMm);
    const missed = outsideBand(along, toleranceMm);
    return missed + (1 - missed) * outsideBand(across, toleranceMm);
  }
}
