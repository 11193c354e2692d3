import { fieldAt, fitModel, type ModelFit, type Observation } from '../fit';
import { COARSE_BLUR_MM, COARSE_GRADUATION_MM } from '../tolerance';
import type { OffsetAxis } from '../units';

import type { PassReading } from '../readings/passReading';

interface CombName {
  readonly stationId: string;
  readonly axis: OffsetAxis;
}

/** What may have been misread on a pass. */
export interface Misread {
  /** Crosses that leave their comb's lengths open, or that do not go with what the combs together say. */
  readonly crosses: readonly CombName[];
  /** Combs that would go with the others if they were so many comb lengths different. */
  readonly lengths: readonly (CombName & { readonly by: number })[];
  /** The one comb without which the rest agrees. */
  readonly one: CombName | null;
}

/** A noise factor beyond which readings are not only coarse but wrong. */
const TOO_NOISY = 3;
/** … and up to which they go together. */
const AGREES = 2;
const MOST_MISCOUNTED = 4;
/** Fits as good as this, in χ², are told apart by their terms: small ones are likelier. */
const AS_GOOD = 1;

/**
 * Which combs to read again.
 *
 * Method   the crosses against the fit; and when the residuals scatter more than three times their u, the fewest changes
 *          by one comb length, else the one comb, that bring them to twice. Never applied: the operator looks again.
 */
export function misreadOf(readings: readonly PassReading[], fit: ModelFit): Misread {
  const crosses = readings
    .filter((r) => r.lengthsOpen || crossAgainst(fit, r))
    .map(({ observation: { stationId, axis } }) => ({ stationId, axis }));
  if (fit.noise.factor <= TOO_NOISY) return { crosses, lengths: [], one: null };
  const lengths = miscounted(readings, fit);
  return { crosses, lengths, one: lengths.length > 0 ? null : oddOne(readings, fit) };
}

/** Whether a coarse reading is further from what the fit expects there than an honest one would be. */
function crossAgainst(fit: ModelFit, { observation: o, coarseMm }: PassReading): boolean {
  if (coarseMm === null) return false;
  const d = fieldAt(fit.field, { x: o.xMm, y: o.yMm });
  const expected = o.axis === 'across' ? d.x : d.y;
  return Math.abs(coarseMm - expected) > COARSE_GRADUATION_MM / 2 + COARSE_BLUR_MM;
}

interface Change {
  readonly at: number;
  readonly by: number;
  readonly fit: ModelFit;
}

/** The change that fits best; of nearly equal ones that with the smaller turn, scales and lean. */
const bestOf = (changes: readonly Change[]): Change | undefined => {
  const least = Math.min(...changes.map((c) => c.fit.chi2));
  return changes
    .filter((c) => c.fit.chi2 <= least + AS_GOOD)
    .sort((a, b) => linearSize(a.fit) - linearSize(b.fit))[0];
};

const linearSize = ({ field: { b11, b12, b21, b22 } }: ModelFit): number => Math.hypot(b11, b12, b21, b22);

function miscounted(readings: readonly PassReading[], fit: ModelFit): Misread['lengths'] {
  let list: readonly Observation[] = readings.map((r) => r.observation);
  const found: { at: number; by: number }[] = [];
  for (let i = 0; i < MOST_MISCOUNTED; i += 1) {
    const current = list;
    const best = bestOf(
      readings.flatMap((r, at) =>
        found.some((f) => f.at === at) || r.lengthMm === 0
          ? []
          : [-1, 1].flatMap((by) => {
              const tried = fitted(
                fit,
                current.map((o, j) => (j === at ? { ...o, offsetMm: o.offsetMm + by * r.lengthMm } : o)),
              );
              return tried ? [{ at, by, fit: tried }] : [];
            }),
      ),
    );
    if (!best) return [];
    found.push(best);
    list = list.map((o, j) =>
      j === best.at ? { ...o, offsetMm: o.offsetMm + best.by * readings[j]!.lengthMm } : o,
    );
    if (best.fit.noise.factor <= AGREES) return found.map(({ at, by }) => ({ ...nameOf(readings[at]!), by }));
  }
  return [];
}

function oddOne(readings: readonly PassReading[], fit: ModelFit): CombName | null {
  const observations = readings.map((r) => r.observation);
  const best = bestOf(
    observations.flatMap((_, at) => {
      const tried = fitted(
        fit,
        observations.filter((__, j) => j !== at),
      );
      return tried ? [{ at, by: 0, fit: tried }] : [];
    }),
  );
  return best && best.fit.noise.factor <= AGREES ? nameOf(readings[best.at]!) : null;
}

const nameOf = ({ observation: { stationId, axis } }: PassReading): CombName => ({ stationId, axis });

function fitted(like: ModelFit, observations: readonly Observation[]): ModelFit | null {
  const outcome = fitModel(like.model, observations, like.field.origin);
  return outcome.status === 'ok' ? outcome : null;
}
