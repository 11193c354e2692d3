import { radialFactor } from '../statistics';

/** Where a medium's loads land on average at the middle of the work area, with nothing typed; mm. */
export interface MediumStands {
  readonly xMm: number;
  readonly yMm: number;
  /** Variance of an axis of that figure, mm². */
  readonly varMm2: number;
}

/** Media of a rig from which something is expected of a new one. */
export const MEDIA_TO_TELL = 2;

/**
 * Where a medium that is new to a rig is expected to stand: where the rig's others do, and within what 95 of 100 such media
 * would; its own loads' scatter included.
 *
 * Method   variance between media by moments, two axes together, what their own figures are unsure of taken out (for one
 *          level the same as restricted maximum likelihood when all are known alike); F with 2 degrees above while few.
 * Returns  null with fewer than two media.
 */
export function newMedium(
  others: readonly MediumStands[],
  loadMm: number,
): { readonly xMm: number; readonly yMm: number; readonly r95Mm: number } | null {
  const n = others.length;
  if (n < MEDIA_TO_TELL) return null;
  const mean = (of: (m: MediumStands) => number): number => others.reduce((sum, m) => sum + of(m), 0) / n;
  const [xMm, yMm, own] = [mean((m) => m.xMm), mean((m) => m.yMm), mean((m) => m.varMm2)];
  const squares = others.reduce((sum, m) => sum + (m.xMm - xMm) ** 2 + (m.yMm - yMm) ** 2, 0);
  const dof = 2 * (n - 1);
  const between = Math.max(0, squares / dof - own);
  // What few media tell is widened for being few, the scatter of loads is not.
  const told = radialFactor(0.95, dof) * Math.sqrt((between + own) * (1 + 1 / n));
  return { xMm, yMm, r95Mm: Math.hypot(told, radialFactor(0.95, Infinity) * loadMm) };
}
