import type { ToldByLog } from '../correction';
import { addFields, fieldToTransform, transformToField, type AffineField, type FieldEstimate } from '../fit';
import { compose, invertAffine, type Affine } from '../geometry';
import { withLog, type LogPrior } from '../record';

/** What the log expects of a rig, and what stood on its machine and in its file when the load at hand was cut. */
export interface LogAtHand {
  readonly prior: LogPrior;
  /** What the typed settings do together, about the middle of the work area. */
  readonly typed: AffineField;
  /** T that the file undid. */
  readonly file: Affine;
}

/** What came of the log in an assessment. */
export interface FromLog extends ToldByLog {
  readonly version: string;
  readonly loads: number;
  readonly sinceEvent: number;
  /** The chance that the rig has moved since its last load on record although nobody logged it. */
  readonly moved: number;
}

/** Above this chance it is said that the rig has moved. */
export const MOVED_FROM = 0.5;

/**
 * Joins what a load told with what the log expects: the rig's own is compared, with what was typed and what the file undid
 * taken out, and put back in afterwards. The maps are near one, so that the doubt is carried over as it is.
 */
export function joinLog(estimate: FieldEstimate, { prior, typed, file }: LogAtHand): FromLog {
  const { origin } = typed;
  const asDrawn = transformToField(compose(fieldToTransform(estimate.field), file), origin);
  const { own, covariance, moved } = withLog(prior, {
    own: addFields(asDrawn, typed, -1),
    covariance: estimate.covarianceKnownU.map((row) => row.map((v) => v * estimate.noise.factor ** 2)),
  });
  const machine = fieldToTransform(addFields(own, typed));
  const { version, loads, sinceEvent } = prior;
  const field = transformToField(compose(machine, invertAffine(file)), origin);
  return { field, covariance, moved, version, loads, sinceEvent };
}
