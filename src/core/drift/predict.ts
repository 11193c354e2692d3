import { radialQuantile, type Precision } from '../statistics';

import { asOneNode } from './compress';
import {
  missesAt,
  nodeColumns,
  type MarkWay,
  type NodeColumns,
  type PlaceOnPiece,
  type TakenOut,
} from './miss';
import { gathered, outsideBand, outsideDisc } from './mixture';
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

/** Parts that tell the tails of a prediction: within a few percent of what all of them tell. */
const TAIL_PARTS = 16;

const expected = (nodes: readonly DriftNode[]): TakenOut => ({
  creepMmPerM: nodes.reduce((sum, n) => sum + n.weight * n.creepMmPerM, 0),
  bowMmPerM2: nodes.reduce((sum, n) => sum + n.weight * n.bowMmPerM2, 0),
});

/** One axis, as predictions need it. */
interface AxisColumns {
  readonly all: NodeColumns;
  /** All nodes as one of the same mean and variance. */
  readonly whole: NodeColumns;
}

function axisColumns(nodes: readonly DriftNode[], corrected: boolean): AxisColumns {
  const known = corrected ? CORRECTED : AS_DRAWN;
  let columns = known.get(nodes);
  if (!columns) {
    const takenOut = corrected ? expected(nodes) : null;
    columns = { all: nodeColumns(nodes, takenOut), whole: nodeColumns([asOneNode(nodes)], takenOut) };
    known.set(nodes, columns);
  }
  return columns;
}

/** One plan asks the same nodes again and again. */
const CORRECTED = new WeakMap<readonly DriftNode[], AxisColumns>();
const AS_DRAWN = new WeakMap<readonly DriftNode[], AxisColumns>();

/** Predictions for one rig and way of registering; what does not change with the place is worked out once. */
export class Predictor {
  private readonly axes: { readonly along: AxisColumns; readonly across: AxisColumns };

  constructor(
    { along, across }: DriftKnowledge,
    private readonly registered: Registered,
  ) {
    const { takenOut } = registered;
    this.axes = { along: axisColumns(along, takenOut), across: axisColumns(across, takenOut) };
  }

  /** Mean (mm) and variance (mm²) on one axis, the uncertainty of every parameter included. */
  moments(axis: 'along' | 'across', at: PlaceOnPiece): { readonly mean: number; readonly variance: number } {
    const { mean, variance } = missesAt(this.axes[axis].whole, this.registered.way, at);
    return { mean: mean[0]!, variance: variance[0]! };
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
    const tails = (axis: 'along' | 'across') =>
      gathered(missesAt(this.axes[axis].all, this.registered.way, at), TAIL_PARTS);
    const along = tails('along');
    const across = tails('across');
    if (outline === 'round') return outsideDisc(across, along, toleranceMm);
    const missed = outsideBand(along, toleranceMm);
    return missed + (1 - missed) * outsideBand(across, toleranceMm);
  }
}
