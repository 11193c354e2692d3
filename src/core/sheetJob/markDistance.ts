import { compose, invertAffine, scaling, translation, type Affine, type Point } from '../geometry';
import { markPlaces, type MarkKit, type SheetSize } from '../marks';

/* Before a printed sheet is loaded: is it as large as it should be? The distance between two marks by a rule tells. */

/** The two marks that lie farthest apart. */
export interface MarkDistance {
  readonly from: string;
  readonly to: string;
  readonly mm: number;
  /** The mark that the machine finds first: a scaled print grows from there. */
  readonly leading: Point;
}

/** Which two marks to lay the rule along; null with fewer than two. */
export function markDistance(kit: MarkKit | null, sheet: SheetSize): MarkDistance | null {
  const places = kit ? markPlaces(kit, sheet) : [];
  const pairs = places.flatMap((a, i) =>
    places.slice(i + 1).map((b) => ({
      ...{ from: a.name, to: b.name, leading: places[0]!.centre },
      mm: Math.hypot(a.centre.x - b.centre.x, a.centre.y - b.centre.y),
    })),
  );
  return pairs.reduce<MarkDistance | null>((far, p) => (far && far.mm >= p.mm ? far : p), null);
}

/** A rule of half millimetres, read at both ends, is in doubt by so much (common practice, no source). */
export const RULE_DOUBT_MM = 0.3;
/** A print that is off by more is no scaled one: other marks were measured, or in another unit. */
export const MOST_SCALED = 0.1;

/** Measured over what it should be; null while it is within the rule's doubt. */
export const printScaleOf = (nominalMm: number, measuredMm: number): number | null =>
  Math.abs(measuredMm - nominalMm) <= RULE_DOUBT_MM ? null : measuredMm / nominalMm;

/**
 * What a cut file undoes for a print that came out scaled: `correction` as the rig has it, seen from a print that is so much
 * larger about its leading mark. Cut with it, lines land where the scaled print has them.
 */
export function forScaledPrint(correction: Affine, scale: number, leading: Point): Affine {
  const about = compose(
    translation(leading.x, leading.y),
    compose(scaling(scale, scale), translation(-leading.x, -leading.y)),
  );
  return compose(invertAffine(about), correction);
}
