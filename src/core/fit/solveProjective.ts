import { GAUSS_NEWTON_STEP } from '../tolerance';
import { keepsSense, tangentAt, type Homography, type Point } from '../geometry';
import { accept, refuse, type Outcome } from '../outcome';

import { fieldToTransform, transformToField } from './field';
import { leastSquares } from './leastSquares';
import { scaled, undetermined, type Frame, type Solution } from './modelFrame';
import type { AffineField, FitRefusal, Observation } from './types';

/** A step is not halved further than to this share of itself. */
const LEAST_SHARE = 1e-6;

/** h11, h12, h13, h21, h22, h23, h31, h32 in the fit frame, where everything is about 1. */
type Eight = readonly number[];

const MAX_STEPS = 40;

/**
 * T as a homography, by Gauss–Newton with halved steps from the affine fit.
 *
 * Method   minimises Σ ((offset − (T(p) − p))/u)²: the geometric error on the landing side, not the algebraic one
 *          (Hartley & Zisserman, Multiple View Geometry, 2nd ed., 4.2.3; memory).
 * Errors   of h11 … h32 in raw mm by the delta method (JCGM 100:2008, 5.2.2).
 * Refuses  not-determined; folded, when the sheet would turn over or reach its own horizon.
 */
export function solveProjective(
  observations: readonly Observation[],
  frame: Frame,
  start: AffineField,
  workAreaCentre: Point,
): Outcome<Solution, FitRefusal> {
  const t = fieldToTransform(transformToField(fieldToTransform(start), frame.centre));
  const c = frame.centre;
  const moved = {
    x: (t.a11 * c.x + t.a12 * c.y + t.tx - c.x) / frame.reachMm,
    y: (t.a21 * c.x + t.a22 * c.y + t.ty - c.y) / frame.reachMm,
  };
  let at: Eight = [t.a11, t.a12, moved.x, t.a21, t.a22, moved.y, 0, 0];
  let system = linearised(observations, frame, at);
  for (let count = 0; ; count += 1) {
    const solved = leastSquares(system.rows, system.values);
    if (!solved.ok) return refuse(undetermined(solved.refusal));
    const step = solved.value.coefficients;
    const done = Math.max(...step.map(Math.abs)) <= GAUSS_NEWTON_STEP || count === MAX_STEPS;
    const next = done ? null : better(observations, frame, at, step, system.chi2);
    if (next) {
      at = next.at;
      system = next.system;
      continue;
    }
    const raw = rawHomography(frame, at);
    const places = observations.map((o) => ({ x: o.xMm, y: o.yMm }));
    if (!raw || !keepsSense(raw.homography, [...places, workAreaCentre]))
      return refuse({ code: 'folded', determinant: 0 });
    const gram = solved.value.inverseGram;
    const se = Object.keys(raw.homography).map((name, i) => {
      const row = raw.jacobian[i]!;
      const variance = row.reduce(
        (sum, left, a) => sum + left * row.reduce((s, right, b) => s + right * gram.get(a, b), 0),
        0,
      );
      return [name, Math.sqrt(Math.max(0, variance))] as const;
    });
    return accept({
      solved: solved.value,
      field: tangentField(frame, at, workAreaCentre)!,
      jacobian: fieldJacobian(frame, at, workAreaCentre),
      projective: { homography: raw.homography, se: Object.fromEntries(se) },
    });
  }
}

/** Below this, in scaled parameters, χ² is too flat to tell better from worse: the step itself is trusted. */
const TRUSTED_STEP = 1e-6;

/** The longest halved step that lowers χ², or null. */
function better(
  observations: readonly Observation[],
  frame: Frame,
  at: Eight,
  step: readonly number[],
  chi2: number,
): { readonly at: Eight; readonly system: Linearised } | null {
  for (let share = 1; share > LEAST_SHARE; share /= 2) {
    const tried = at.map((v, i) => v + share * step[i]!);
    const system = linearised(observations, frame, tried);
    const trusted = Math.max(...step.map(Math.abs)) < TRUSTED_STEP && Number.isFinite(system.chi2);
    if (trusted || system.chi2 < chi2) return { at: tried, system };
  }
  return null;
}

interface Linearised {
  readonly rows: number[][];
  readonly values: number[];
  readonly chi2: number;
}

/** Rows and what is still to be explained, both divided by u. */
function linearised(observations: readonly Observation[], frame: Frame, h: Eight): Linearised {
  const rows: number[][] = [];
  const values: number[] = [];
  let chi2 = 0;
  for (const o of observations) {
    const { x, y } = scaled(o, frame);
    const w = h[6]! * x + h[7]! * y + 1;
    const across = o.axis === 'across';
    const first = across ? 0 : 3;
    const z = (h[first]! * x + h[first + 1]! * y + h[first + 2]!) / w;
    const unit = frame.reachMm / o.uMm;
    const row = new Array<number>(8).fill(0);
    row[first] = (unit * x) / w;
    row[first + 1] = (unit * y) / w;
    row[first + 2] = unit / w;
    row[6] = (-unit * x * z) / w;
    row[7] = (-unit * y * z) / w;
    const value = o.offsetMm / o.uMm - unit * (z - (across ? x : y));
    rows.push(row);
    values.push(value);
    chi2 += w > 0 ? value * value : Infinity;
  }
  return { rows, values, chi2 };
}

type Three = readonly (readonly [number, number, number])[];

const product = (a: Three, b: Three): Three =>
  a.map(
    (row) =>
      [0, 1, 2].map((j) => row[0] * b[0]![j]! + row[1] * b[1]![j]! + row[2] * b[2]![j]!) as [
        number,
        number,
        number,
      ],
  );

/** The homography in raw mm, h33 = 1, and the derivative of its eight by the eight of the fit frame. */
function rawHomography(
  frame: Frame,
  h: Eight,
): { readonly homography: Homography; readonly jacobian: readonly (readonly number[])[] } | null {
  const { centre, reachMm: r } = frame;
  const into: Three = [
    [1 / r, 0, -centre.x / r],
    [0, 1 / r, -centre.y / r],
    [0, 0, 1],
  ];
  const outOf: Three = [
    [r, 0, centre.x],
    [0, r, centre.y],
    [0, 0, 1],
  ];
  const around = (m: Three): number[] => product(outOf, product(m, into)).flat();
  const matrix = (v: readonly number[], last: number): Three => [
    [v[0]!, v[1]!, v[2]!],
    [v[3]!, v[4]!, v[5]!],
    [v[6]!, v[7]!, last],
  ];
  const raw = around(matrix(h, 1));
  const w = raw[8]!;
  if (!(w > 0)) return null;
  const [h11, h12, h13, h21, h22, h23, h31, h32] = raw.map((v) => v / w) as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const homography = { h11, h12, h13, h21, h22, h23, h31, h32 };
  const columns = h.map((_, j) =>
    around(
      matrix(
        h.map((__, i) => Number(i === j)),
        0,
      ),
    ),
  );
  const values = Object.values(homography);
  const jacobian = values.map((value, i) => columns.map((d) => (d[i]! - value * d[8]!) / w));
  return { homography, jacobian };
}

function tangentField(frame: Frame, h: Eight, at: Point): AffineField | null {
  const raw = rawHomography(frame, h);
  return raw && transformToField(tangentAt(raw.homography, at), at);
}

/** Relative step of the differences below; their error is of its square. */
const DIFFERENCE = 1e-5;

/** 6 × 8: derivative of the tangent field at the work-area centre, by central differences. */
function fieldJacobian(frame: Frame, h: Eight, at: Point): number[][] {
  const columns = h.map((_, j) => {
    const near = (by: number): number[] => {
      const f = tangentField(
        frame,
        h.map((v, i) => (i === j ? v + by : v)),
        at,
      )!;
      return [f.b11, f.b12, f.b21, f.b22, f.exMm, f.eyMm];
    };
    const [plus, minus] = [near(DIFFERENCE), near(-DIFFERENCE)];
    return plus.map((v, i) => (v - minus[i]!) / (2 * DIFFERENCE));
  });
  return [0, 1, 2, 3, 4, 5].map((i) => columns.map((c) => c[i]!));
}
