import type { NoiseUsed } from './types';

/** The given u, or the residual scatter when that is larger (maths.md, Fitting). */
export function noiseUsed(chi2: number, dof: number): NoiseUsed {
  const factor = dof > 0 ? Math.sqrt(chi2 / dof) : 1;
  return factor > 1 ? { kind: 'residual-scatter', factor } : { kind: 'given-u', factor: 1 };
}

/** Degrees of freedom for intervals: Student's when the scatter was used, the normal's when u was given. */
export const intervalDof = (noise: NoiseUsed, dof: number): number =>
  noise.kind === 'residual-scatter' ? dof : Infinity;
