import { determinant, type Affine } from '../geometry';

export interface LinearTerms {
  readonly turnRad: number;
  readonly scaleAcross: number;
  readonly scaleAlong: number;
  readonly leanRad: number;
}

/** Rows: turn, scale across, scale along, lean; columns: a11, a12, a21, a22. */
export type LinearJacobian = readonly (readonly [number, number, number, number])[];

/**
 * A = R(turn)·[[1, tan lean], [0, 1]]·diag(scaleAcross, scaleAlong).
 * Positive turn: counter-clockwise. Positive lean: the feed axis leans towards +x. Needs det A > 0.
 * Source: QR (Gram–Schmidt) factorisation of a 2×2; maths.md names the convention.
 */
export function decompose(m: Affine): LinearTerms {
  const det = determinant(m);
  const scaleAcross = Math.hypot(m.a11, m.a21);
  return {
    turnRad: Math.atan2(m.a21, m.a11),
    scaleAcross,
    scaleAlong: det / scaleAcross,
    leanRad: Math.atan2(m.a11 * m.a12 + m.a21 * m.a22, det),
  };
}

/** The linear part with the given terms; the inverse of `decompose`. */
export function composeTerms(terms: LinearTerms): Affine {
  const cos = Math.cos(terms.turnRad);
  const sin = Math.sin(terms.turnRad);
  const tan = Math.tan(terms.leanRad);
  return {
    a11: cos * terms.scaleAcross,
    a21: sin * terms.scaleAcross,
    a12: (cos * tan - sin) * terms.scaleAlong,
    a22: (sin * tan + cos) * terms.scaleAlong,
    tx: 0,
    ty: 0,
  };
}

/** First derivatives of the terms: for standard errors by the delta method (JCGM 100:2008, 5.2.2). */
export function decomposeJacobian(m: Affine): LinearJacobian {
  const { a11: a, a12: b, a21: c, a22: d } = m;
  const det = determinant(m);
  const sx = Math.hypot(a, c);
  const dot = a * b + c * d;
  const tan = dot / det;
  const dDet = [d, -c, -b, a] as const;
  const dDot = [b, a, d, c] as const;
  const dSx = [a / sx, 0, c / sx, 0] as const;
  const along = [0, 1, 2, 3].map((i) => dDet[i]! / sx - (det * dSx[i]!) / sx ** 2);
  const lean = [0, 1, 2, 3].map((i) => (dDot[i]! / det - (dot * dDet[i]!) / det ** 2) / (1 + tan ** 2));
  return [
    [-c / sx ** 2, 0, a / sx ** 2, 0],
    [...dSx],
    along as unknown as [number, number, number, number],
    lean as unknown as [number, number, number, number],
  ];
}
