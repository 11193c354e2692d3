import { misregistrationAt, type RigPrediction } from '../correction';
import { fieldPrediction } from '../fit';
import type { Point } from '../geometry';
import { radialProbability, type Misregistration } from '../statistics';

/** What a proof says of the cuts to come, with the chance of being wrong either way. */
export interface Acceptance {
  /** Proved: true within what is allowed; failed: not; open: the readings do not decide. */
  readonly says: 'proved' | 'failed' | 'open';
  /** Chance that fewer than 95 of 100 cuts of loads to come stay within what is allowed: wrongly passed. */
  readonly outChance: number;
  /** How far the rig may be off on average at that place before fewer than 95 do; null when its scatter alone is too much. */
  readonly mayBeOffMm: number | null;
  /** What would decide it, if it says the same as what was read: so many stations more, or so many loads. */
  readonly wouldDecide: { readonly stations: number | null; readonly loads: number | null };
}

/** The chance of being wrong that a decision may have. */
export const ACCEPTED_RISK = 0.05;
const MOST_STATIONS = 60;
const MOST_LOADS = 12;
const SHARE = 0.95;

/**
 * Passes a proof when the predictive chance that the next loads are out is under 5 % (maths.md, Acceptance).
 *
 * Place     where the misregistration is largest, as in every other promise.
 * Truth     the rig's own offset there is normal about what was found, with the doubt of the readings and the scatter of
 *           the one load that told it. Loads to come scatter about it; where their scatter is longer one way than the
 *           other, it counts as that long both ways: the chance is then said too high rather than too low.
 *           Told by the log, the scatter of its loads is in its doubt; a load like it then counts as one more of them.
 * More      stations on this load shrink the doubt of the readings, loads like it that and the load's own scatter.
 */
export function acceptance(
  prediction: RigPrediction,
  at: Point,
  toleranceMm: number,
  stationsRead: number,
): Acceptance {
  const { covariance, load } = prediction;
  const next = misregistrationAt({ ...prediction, covariance: NOTHING }, at, { shift: 1, turn: 1 });
  const scatterVar = longest(next);
  const mayBeOffMm = largestBias(scatterVar, toleranceMm);
  const told = fieldPrediction(prediction.bias, covariance, at);
  const scatter = load.shiftMm ** 2;
  // What the log told has the scatter of its loads in its doubt already; one load told has it beside.
  const byLog = prediction.shares?.shift === 1;
  const loadVar = byLog ? 0 : scatter;
  /** With the readings' and the load's part of the doubt shrunk to so much. */
  const chance = (readings: number, loads: number): number =>
    mayBeOffMm === null
      ? 1
      : 1 -
        radialProbability(
          {
            ...told,
            varX: told.varX * readings + loadVar * loads,
            varY: told.varY * readings + loadVar * loads,
            covXY: told.covXY * readings,
          },
          mayBeOffMm,
        );
  const outChance = chance(1, 1);
  const decides = (p: number): boolean => p < ACCEPTED_RISK || p > 1 - ACCEPTED_RISK;
  const first = (most: number, of: (n: number) => number): number | null => {
    for (let n = 1; n <= most; n += 1) if (decides(of(n))) return n;
    return null;
  };
  const open = !decides(outChance);
  return {
    says: open ? 'open' : outChance < ACCEPTED_RISK ? 'proved' : 'failed',
    outChance,
    mayBeOffMm,
    wouldDecide: open
      ? {
          // Beside a log one more station of this load says next to nothing.
          stations: byLog ? null : first(MOST_STATIONS, (n) => chance(stationsRead / (stationsRead + n), 1)),
          loads: first(MOST_LOADS, (n) =>
            chance(1 / (1 + n * (byLog ? told.varX / (told.varX + scatter) : 1)), 1 / (1 + n)),
          ),
        }
      : { stations: null, loads: null },
  };
}

const NOTHING = Array.from({ length: 6 }, () => [0, 0, 0, 0, 0, 0]);

const longest = ({ varX, varY, covXY }: Misregistration): number =>
  (varX + varY) / 2 + Math.hypot((varX - varY) / 2, covXY);

/** The offset at which just 95 of 100 cuts stay within: by halving, as the share falls with the offset. */
function largestBias(scatterVar: number, toleranceMm: number): number | null {
  const share = (offMm: number): number =>
    radialProbability({ meanX: offMm, meanY: 0, varX: scatterVar, varY: scatterVar, covXY: 0 }, toleranceMm);
  if (share(0) < SHARE) return null;
  let [low, high] = [0, toleranceMm];
  for (let i = 0; i < 50; i += 1) {
    const middle = (low + high) / 2;
    if (share(middle) >= SHARE) low = middle;
    else high = middle;
  }
  return low;
}
