import { leastSquares } from '../fit';
import { accept, refuse, type Outcome } from '../outcome';

/** A length that would sharpen less than this share is not proposed. */
const NO_GAIN = 1e-6;

/** A step of Gauss–Newton under this is the last. */
const STEP_DONE = 1e-13;

/*
 * The school of long lengths and diagonals: measured distances between known features, on the cut and on the print, say
 * the scales and the lean. They say nothing of shift and turn.
 */

export interface Feature {
  readonly id: string;
  readonly x: number;
  readonly y: number;
}

export interface MeasuredLength {
  readonly from: string;
  readonly to: string;
  readonly lengthMm: number;
  /** Standard uncertainty, mm. */
  readonly u: number;
}

interface Told {
  readonly value: number;
  readonly se: number;
}

export interface LengthsAnswer {
  /** Factors: 1 is true to size. */
  readonly scaleAcross: Told;
  readonly scaleAlong: Told;
  readonly leanRad: Told;
  /** Root mean square of what the lengths leave unexplained. */
  readonly rmsMm: number;
  /** Lengths of the cut that would tell most, best first: by which share the worst feature's uncertainty falls. */
  readonly sharpen: readonly { readonly from: string; readonly to: string; readonly gain: number }[];
}

export type LengthsRefusal =
  | { readonly code: 'cannot-tell'; readonly term: 'scaleAcross' | 'scaleAlong' | 'leanRad' }
  | { readonly code: 'unknown-feature'; readonly id: string }
  | { readonly code: 'same-place'; readonly from: string; readonly to: string }
  | { readonly code: 'no-size' };

const TERMS = ['scaleAcross', 'scaleAlong', 'leanRad'] as const;
type Shape = readonly [sx: number, sy: number, lean: number];

interface Row {
  readonly dx: number;
  readonly dy: number;
  readonly lengthMm: number;
  readonly u: number;
}

const STEPS = 30;
const SHARPEN_SHOWN = 5;
const MOST_FEATURES_FOR_ADVICE = 60;
/** A column of the design this much below the others tells nothing; no length of a metre has a part in 10⁷. */
const TELLS_NOTHING = 1e-7;

/**
 * Scales and lean of the cut, or of the cut against the print when both were measured.
 *
 * Method   |A·(q − p)| with A = [[1, tan lean], [0, 1]]·diag(sx, sy) fitted by weighted non-linear least squares; for a
 *          rectangle with two diagonals sin(lean) = (D1² − D2²)/(4 W H). Lengths that lie alike (the two sides of a
 *          rectangle) round alike: together they count once.
 * Units    mm, rad; scales as factors.
 * Refuses  cannot-tell (names the term), unknown-feature, same-place, no-size (a length that is no length).
 */
export function readLengths(
  features: readonly Feature[],
  cut: readonly MeasuredLength[],
  print: readonly MeasuredLength[] | null,
): Outcome<LengthsAnswer, LengthsRefusal> {
  const byId = new Map(features.map((f) => [f.id, f]));
  const ofCut = fitShape(byId, cut);
  if (!ofCut.ok) return ofCut;
  const ofPrint = print === null ? null : fitShape(byId, print);
  if (ofPrint && !ofPrint.ok) return ofPrint;
  const p = ofPrint?.value ?? null;
  const c = ofCut.value;
  const ratio = (i: 0 | 1): Told => ({
    value: c.shape[i] / (p?.shape[i] ?? 1),
    se: Math.hypot(c.se[i] / c.shape[i], p ? p.se[i] / p.shape[i] : 0) * (c.shape[i] / (p?.shape[i] ?? 1)),
  });
  const count = cut.length + (print?.length ?? 0);
  return accept({
    scaleAcross: ratio(0),
    scaleAlong: ratio(1),
    leanRad: { value: c.shape[2] - (p?.shape[2] ?? 0), se: Math.hypot(c.se[2], p?.se[2] ?? 0) },
    rmsMm: Math.sqrt((c.squares + (p?.squares ?? 0)) / count),
    sharpen: sharpest(features, cut, c),
  });
}

interface FittedShape {
  readonly shape: Shape;
  readonly se: readonly [number, number, number];
  /** Sum of squared residuals, mm². */
  readonly squares: number;
  readonly covariance: readonly (readonly number[])[];
}

function fitShape(
  byId: ReadonlyMap<string, Feature>,
  lengths: readonly MeasuredLength[],
): Outcome<FittedShape, LengthsRefusal> {
  const rows: Row[] = [];
  for (const m of lengths) {
    const [a, b] = [byId.get(m.from), byId.get(m.to)];
    if (!a || !b) return refuse({ code: 'unknown-feature', id: a ? m.to : m.from });
    if (Math.hypot(b.x - a.x, b.y - a.y) === 0) return refuse({ code: 'same-place', from: m.from, to: m.to });
    rows.push({ dx: b.x - a.x, dy: b.y - a.y, lengthMm: m.lengthMm, u: m.u });
  }
  const joined = joinAlike(rows);
  let shape: Shape = [1, 1, 0];
  for (let step = 0; ; step += 1) {
    const { design, values } = system(joined, shape);
    const missing = untold(design);
    if (missing !== null) return refuse({ code: 'cannot-tell', term: TERMS[missing]! });
    const solved = leastSquares(design, values);
    if (!solved.ok) return refuse({ code: 'cannot-tell', term: 'leanRad' });
    const [a, b, c] = solved.value.coefficients as [number, number, number];
    shape = [shape[0] + a, shape[1] + b, shape[2] + c];
    if (!(shape[0] > 0 && shape[1] > 0 && Math.abs(shape[2]) < 1.5)) return refuse({ code: 'no-size' });
    if (Math.max(Math.abs(a), Math.abs(b), Math.abs(c)) > STEP_DONE && step < STEPS) continue;
    const covariance = solved.value.inverseGram.to2DArray();
    const se = [0, 1, 2].map((i) => Math.sqrt(covariance[i]![i]!)) as [number, number, number];
    const squares = rows.reduce((sum, r) => sum + (r.lengthMm - lengthOf(r, shape)) ** 2, 0);
    return accept({ shape, se, squares, covariance });
  }
}

/** Lengths that lie alike and are as sure: their mean, no surer than one of them. */
function joinAlike(rows: readonly Row[]): Row[] {
  const groups = new Map<string, Row[]>();
  for (const r of rows) {
    const sense = Math.sign(r.dx * r.dy);
    const key = [Math.abs(r.dx).toFixed(6), Math.abs(r.dy).toFixed(6), sense, r.u].join(' ');
    const same = groups.get(key);
    if (same) same.push(r);
    else groups.set(key, [r]);
  }
  return [...groups.values()].map((same) => ({
    ...same[0]!,
    lengthMm: same.reduce((sum, r) => sum + r.lengthMm, 0) / same.length,
  }));
}

const lengthOf = ({ dx, dy }: Pick<Row, 'dx' | 'dy'>, [sx, sy, lean]: Shape): number =>
  Math.hypot(sx * dx + sy * dy * Math.tan(lean), sy * dy);

/** ∂length/∂(sx, sy, lean). */
function slopes({ dx, dy }: Pick<Row, 'dx' | 'dy'>, shape: Shape): [number, number, number] {
  const [sx, sy, lean] = shape;
  const tan = Math.tan(lean);
  const x = sx * dx + sy * dy * tan;
  const y = sy * dy;
  const length = Math.hypot(x, y);
  return [(x * dx) / length, (x * dy * tan + y * dy) / length, (x * sy * dy * (1 + tan * tan)) / length];
}

function system(rows: readonly Row[], shape: Shape): { design: number[][]; values: number[] } {
  return {
    design: rows.map((r) => slopes(r, shape).map((v) => v / r.u)),
    values: rows.map((r) => (r.lengthMm - lengthOf(r, shape)) / r.u),
  };
}

/** The first term that these lengths cannot tell: nothing moves with it, or another moves them just so. */
function untold(design: readonly (readonly number[])[]): number | null {
  const norms = TERMS.map((_, j) => Math.hypot(...design.map((row) => row[j]!)));
  const most = Math.max(...norms);
  const still = norms.findIndex((n) => !(n > TELLS_NOTHING * most));
  if (still >= 0) return still;
  if (
    design.length >= 3 &&
    leastSquares(
      design,
      design.map(() => 0),
    ).ok
  )
    return null;
  // Told apart one by one: the last that still needs another is the one that is missing.
  for (const j of [2, 1, 0]) {
    const without = design.map((row) => row.filter((_, i) => i !== j));
    if (
      leastSquares(
        without,
        without.map(() => 0),
      ).ok
    )
      return j;
  }
  return 2;
}

/** Which length to measure next: by how much the place that is known worst would be known better. */
function sharpest(
  features: readonly Feature[],
  cut: readonly MeasuredLength[],
  fitted: FittedShape,
): LengthsAnswer['sharpen'] {
  if (features.length < 2 || features.length > MOST_FEATURES_FOR_ADVICE) return [];
  const u = [...cut].sort((a, b) => a.u - b.u)[Math.floor(cut.length / 2)]!.u;
  const before = worstVariance(features, fitted.covariance, fitted.shape);
  const done = new Set(cut.flatMap((m) => [`${m.from} ${m.to}`, `${m.to} ${m.from}`]));
  const tried = features.flatMap((a, i) =>
    features.slice(i + 1).flatMap((b) => {
      const row = { dx: b.x - a.x, dy: b.y - a.y };
      if (Math.hypot(row.dx, row.dy) === 0 || done.has(`${a.id} ${b.id}`)) return [];
      const after = worstVariance(
        features,
        updated(fitted.covariance, slopes(row, fitted.shape), u),
        fitted.shape,
      );
      return [{ from: a.id, to: b.id, gain: 1 - Math.sqrt(after / before) }];
    }),
  );
  return tried
    .filter((t) => t.gain > NO_GAIN)
    .sort((a, b) => b.gain - a.gain)
    .slice(0, SHARPEN_SHOWN);
}

/** Covariance once one more length is measured (Sherman–Morrison). */
function updated(c: readonly (readonly number[])[], s: readonly number[], u: number): number[][] {
  const cs = c.map((row) => row.reduce((sum, v, j) => sum + v * s[j]!, 0));
  const scale = u * u + s.reduce((sum, v, i) => sum + v * cs[i]!, 0);
  return c.map((row, i) => row.map((v, j) => v - (cs[i]! * cs[j]!) / scale));
}

/** Variance of where a feature is cut, about the features' middle, at the worst of them; mm². */
function worstVariance(
  features: readonly Feature[],
  c: readonly (readonly number[])[],
  [, sy, lean]: Shape,
): number {
  const middle = (of: (f: Feature) => number): number =>
    (Math.min(...features.map(of)) + Math.max(...features.map(of))) / 2;
  const [cx, cy] = [middle((f) => f.x), middle((f) => f.y)];
  const quadratic = (s: readonly number[]): number =>
    s.reduce((sum, v, i) => sum + v * c[i]!.reduce((inner, w, j) => inner + w * s[j]!, 0), 0);
  return Math.max(
    ...features.map((f) => {
      const [x, y] = [f.x - cx, f.y - cy];
      return quadratic([x, y * Math.tan(lean), (sy * y) / Math.cos(lean) ** 2]) + quadratic([0, y, 0]);
    }),
  );
}

const TERM_WORDS = {
  scaleAcross: 'the scale across',
  scaleAlong: 'the scale along',
  leanRad: 'the lean',
} as const;
const TELL = {
  scaleAcross: 'measure a length that lies across',
  scaleAlong: 'measure a length that lies along the feed',
  leanRad: 'measure both diagonals',
} as const;

/** What is wrong and what would be right. */
export function lengthsRefusalText(refusal: LengthsRefusal): string {
  switch (refusal.code) {
    case 'cannot-tell':
      return `These lengths cannot tell ${TERM_WORDS[refusal.term]}: ${TELL[refusal.term]}.`;
    case 'unknown-feature':
      return `No feature is called “${refusal.id}”.`;
    case 'same-place':
      return `“${refusal.from}” and “${refusal.to}” are at one place: there is no length between them.`;
    case 'no-size':
      return 'These lengths belong to no figure of these features: check them for a slip of the pen.';
    default:
      return refusal satisfies never;
  }
}
