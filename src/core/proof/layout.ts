import { COARSE_REACH_MM } from '../tolerance';
import { cutPitchMm, extraLengths, halfLinesOf, printPitchMm, type LineComb } from '../comb';
import { toMm, type LengthUnit } from '../units';

/** The station's drawing, relative to the disc's centre; mm. One place for print, cut and preview. */
export const STATION = {
  discRadiusMm: 4,
  windowRadiusMm: 2.5,
  /** Printed comb lines start this far from the disc's centre and run outward. */
  lineFromMm: 9.6,
  lineToMm: 14.6,
  cutFromMm: 12.6,
  cutToMm: 18.6,
  /** The coarse cross lies to the left of the disc by this much beyond its own half size. */
  crossGapMm: 5,
  crossArmMm: COARSE_REACH_MM + 0.5,
  crossCutMm: COARSE_REACH_MM + 1.5,
} as const;

/** The reach of an unrotated station about its disc: how much room it takes. */
export interface StationReach {
  readonly left: number;
  readonly right: number;
  readonly near: number;
  readonly far: number;
}

const EDGE_MM = 0.7;
const NAME_MM = 3;

/** How much room a station takes; two rows of rings lie under it, about its middle. */
export function stationReach(
  stepMm: number,
  rings: { readonly widthMm: number; readonly heightMm: number } | null = null,
): StationReach {
  const bare = combReach(stepMm);
  if (!rings) return bare;
  const wider = Math.max(0, rings.widthMm + RING_SIDES_MM - bare.left - bare.right) / 2;
  return {
    left: bare.left + wider,
    right: bare.right + wider,
    near: bare.near + rings.heightMm,
    far: bare.far,
  };
}

/** Beside a row of rings stands which way it measures. */
const RING_SIDES_MM = 6;

/** How far a comb reaches each way along what it measures, mm. */
export function combHalfMm(stepMm: number): number {
  const halfLines = halfLinesOf(stepMm);
  const comb: Pick<LineComb, 'stepMm' | 'halfLines'> = { stepMm, halfLines };
  const halfCut =
    (halfLines + extraLengths(stepMm, halfLines, COARSE_REACH_MM)) * cutPitchMm(comb as LineComb);
  return Math.max(halfCut, halfLines * printPitchMm(comb as LineComb)) + EDGE_MM;
}

function combReach(stepMm: number): StationReach {
  const half = combHalfMm(stepMm);
  const cross = STATION.crossGapMm + 2 * STATION.crossCutMm + 2;
  return {
    left: Math.max(half, STATION.discRadiusMm + cross),
    right: STATION.cutToMm + EDGE_MM,
    near: Math.max(half, STATION.crossCutMm + NAME_MM),
    far: Math.max(half, STATION.cutToMm + EDGE_MM),
  };
}

/** Room at the sheet's edges for title, check bars, QR code and the orientation corner; mm. */
export const TITLE_STRIP_MM = 23;
export const BAR_STRIP_MM = 8;

/** Comb steps on offer, in the label unit, finest first. */
export const COMB_STEPS: Readonly<Record<LengthUnit, readonly number[]>> = {
  mm: [0.05, 0.1, 0.2],
  in: [0.002, 0.004, 0.008],
};

/** Labels are whole multiples of this, so that what is printed is exact. */
export const labelGrainMm = (unit: LengthUnit): number => toMm(unit === 'mm' ? 0.01 : 0.0005, unit);
