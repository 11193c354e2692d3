import { inverse, Matrix } from 'ml-matrix';

import { fieldToTransform, transformToField, type AffineField } from '../fit';
import type { Point } from '../geometry';

import { DECLARED_EFFECT_U, type MachineSetting } from './setting';

/** One sheet cut before and after something was typed, on one load: what the typing did. */
export interface ChangeOnRecord {
  /** By how much each setting was changed, in its own unit; none where it stayed. */
  readonly by: Readonly<Record<string, number>>;
  /** How the cut moved, what files undid taken out; about the middle of the area. */
  readonly moved: AffineField;
  /** 6 × 6, of the coefficients of `moved` in the order b11, b12, b21, b22, ex, ey: reading before and after. */
  readonly covariance: readonly (readonly number[])[];
}

/** What a setting was seen to do. */
export interface ProvedEffect {
  readonly settingId: string;
  /** Of what it is declared to do. */
  readonly share: number;
  /** Standard uncertainty of the share. */
  readonly shareU: number;
  /** Sheets that told. */
  readonly times: number;
}

/**
 * What settings were seen to do, as shares of what they are declared to do.
 *
 * Method   moved = Σ share·by·effect + reading errors, joined with 1 ± 5 % before anything was seen: the posterior of a
 *          linear Gaussian model (Rasmussen & Williams 2006, eq. 2.8; from memory).
 * Refuses  nothing: settings that were never typed and read again are left out.
 */
export function provedEffects(
  settings: readonly Pick<MachineSetting, 'id' | 'effect'>[],
  record: readonly ChangeOnRecord[],
): ProvedEffect[] {
  const told = settings.filter((s) => record.some((r) => (r.by[s.id] ?? 0) !== 0));
  if (told.length === 0) return [];
  let information = Matrix.eye(told.length).mul(1 / DECLARED_EFFECT_U ** 2);
  let right = Matrix.ones(told.length, 1).mul(1 / DECLARED_EFFECT_U ** 2);
  for (const { by, moved, covariance } of record) {
    const does = new Matrix(
      told.map((s) => effectVector(s.effect, moved.origin).map((v) => v * (by[s.id] ?? 0))),
    ).transpose();
    const weighted = does.transpose().mmul(inverse(new Matrix(covariance.map((row) => [...row]))));
    information = information.add(weighted.mmul(does));
    right = right.add(weighted.mmul(Matrix.columnVector(vectorOf(moved))));
  }
  const posterior = inverse(information);
  const shares = posterior.mmul(right);
  return told.map((s, i) => ({
    settingId: s.id,
    share: shares.get(i, 0),
    shareU: Math.sqrt(posterior.get(i, i)),
    times: record.filter((r) => (r.by[s.id] ?? 0) !== 0).length,
  }));
}

/** Doubt of a declared effect that was seen to be `share` of it: its own and what it is off by. */
export const effectUOf = ({ share, shareU }: ProvedEffect): number => Math.hypot(shareU, share - 1);

const vectorOf = (f: AffineField): number[] => [f.b11, f.b12, f.b21, f.b22, f.exMm, f.eyMm];

/** What +1 does, as a field about a place. */
export const effectVector = (effect: AffineField, centre: Point): number[] =>
  vectorOf(transformToField(fieldToTransform(effect), centre));
