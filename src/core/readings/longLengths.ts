import { leastSquares, type FieldEstimate, type Observation } from '../fit';
import type { Point } from '../geometry';
import { type Feature, type MeasuredLength } from './measuredLengths';
import { lengthsRefusalText, readLengths, type LengthsAnswer, type LengthsRefusal } from './measuredLengths';

/*
 * Long lengths between the stations of a sheet: how long the print is there and how long the cut. They say the scales and
 * the lean, and join what the stations say; shift and turn they cannot tell.
 */

/** A length as a ruler said it. */
export interface KeptLength {
  /** Two stations of the set: middle to middle. */
  readonly from: string;
  readonly to: string;
  /** Null: not measured, the print is taken to be true. */
  readonly printMm: number | null;
  readonly cutMm: number;
  readonly resolutionMm: number;
}

/** Of a figure rounded to the ruler's step (JCGM 100:2008, F.2.2.1). */
const ROUNDED = 1 / Math.sqrt(12);

/** How much longer the cut is than the print between two places. */
export interface LengthRow {
  /** From one to the other, mm. */
  readonly dx: number;
  readonly dy: number;
  readonly longerMm: number;
  readonly uMm: number;
}

/** Kept lengths as rows; those that lie alike round alike and count once, as their mean. */
export function lengthRows(stations: readonly Feature[], kept: readonly KeptLength[]): LengthRow[] {
  const at = new Map(stations.map((s) => [s.id, s]));
  const alike = new Map<string, LengthRow[]>();
  for (const { from, to, printMm, cutMm, resolutionMm } of kept) {
    const [a, b] = [at.get(from), at.get(to)];
    if (!a || !b) continue;
    // One and the same length whichever end it is measured from.
    const sense = b.x < a.x || (b.x === a.x && b.y < a.y) ? -1 : 1;
    const [dx, dy] = [sense * (b.x - a.x), sense * (b.y - a.y)];
    const longerMm = cutMm - (printMm ?? Math.hypot(dx, dy));
    const uMm = resolutionMm * ROUNDED * (printMm === null ? 1 : Math.SQRT2);
    const key = [dx.toFixed(6), dy.toFixed(6), uMm].join(' ');
    alike.set(key, [...(alike.get(key) ?? []), { dx, dy, longerMm, uMm }]);
  }
  return [...alike.values()].map((same) => ({
    ...same[0]!,
    longerMm: same.reduce((sum, r) => sum + r.longerMm, 0) / same.length,
  }));
}

/**
 * How far an untouched rig's turn, scales and lean may be off, as standard deviations: what is assumed of a term that
 * neither stations nor lengths tell (common practice, no source: some millimetres over a metre).
 */
const UNTOLD = 3e-3;

/**
 * What stations and lengths say together, as an affine estimate about the middle of the work area. Stations that tell
 * fewer terms are joined by what an untouched rig may be off in the others, so that no term is taken to be nought.
 *
 * Method  weighted least squares: a row a reading, a row a length (its direction through B·(q − p)), a row a term untold.
 */
export function joinLengths(
  estimate: FieldEstimate,
  observations: readonly Observation[],
  rows: readonly LengthRow[],
): FieldEstimate {
  if (rows.length === 0 || estimate.model === 'projective') return estimate;
  return joined(estimate, observations, rows);
}

/** The same of stations alone: what one place leaves untold is what an untouched rig may be off. */
export const joinUntold = (estimate: FieldEstimate, observations: readonly Observation[]): FieldEstimate =>
  joined(estimate, observations, []);

function joined(
  estimate: FieldEstimate,
  observations: readonly Observation[],
  rows: readonly LengthRow[],
): FieldEstimate {
  const { origin } = estimate.field;
  const reach = Math.max(
    1,
    ...observations.map((o) => Math.hypot(o.xMm - origin.x, o.yMm - origin.y)),
    ...rows.map((r) => Math.hypot(r.dx, r.dy)),
  );
  const told = estimate.model === 'affine';
  const all = [
    ...observations.map((o) => stationRow(o, origin, reach, estimate.noise.factor)),
    ...rows.map((r) => lengthRow(r, reach)),
    ...(told ? [] : priorRows(reach)),
  ];
  const solved = leastSquares(
    all.map((r) => r.row),
    all.map((r) => r.value),
  );
  if (!solved.ok) return estimate;
  const [b11, b12, b21, b22, exMm, eyMm] = solved.value.coefficients as [
    ...[number, number, number, number, number, number],
  ];
  const scale = (i: number): number => (i < 4 ? 1 / reach : 1);
  return {
    model: 'affine',
    field: {
      ...{ origin, exMm, eyMm },
      ...{ b11: b11 / reach, b12: b12 / reach, b21: b21 / reach, b22: b22 / reach },
    },
    covarianceKnownU: solved.value.inverseGram
      .to2DArray()
      .map((row, i) => row.map((v, j) => v * scale(i) * scale(j))),
    noise: { kind: 'given-u', factor: 1 },
  };
}

/* Rows of (b11, b12, b21, b22) · reach, ex, ey; divided by their uncertainty. */

function stationRow(o: Observation, origin: Point, reach: number, factor: number) {
  const u = o.uMm * factor;
  const [x, y] = [(o.xMm - origin.x) / reach / u, (o.yMm - origin.y) / reach / u];
  const row = o.axis === 'across' ? [x, y, 0, 0, 1 / u, 0] : [0, 0, x, y, 0, 1 / u];
  return { row, value: o.offsetMm / u };
}

function lengthRow({ dx, dy, longerMm, uMm }: LengthRow, reach: number) {
  const length = Math.hypot(dx, dy);
  const [ex, ey] = [dx / length, dy / length];
  const row = [ex * dx, ex * dy, ey * dx, ey * dy, 0, 0].map((v) => v / reach / uMm);
  return { row, value: longerMm / uMm };
}

/** Scales, turn (of the across axis) and lean as an untouched rig has them. */
const priorRows = (reach: number) =>
  [
    [1, 0, 0, 0, 0, 0],
    [0, 0, 0, 1, 0, 0],
    [0, 0, 1, 0, 0, 0],
    [0, 1, 1, 0, 0, 0],
  ].map((row) => ({ row: row.map((v) => v / reach / UNTOLD), value: 0 }));

export interface LengthsTold {
  /** What the lengths alone say; null while they cannot tell a term. */
  readonly answer: LengthsAnswer | null;
  /** What they cannot tell yet, in a sentence; empty when they tell all. */
  readonly missing: string;
  /** The most useful length to measure next; null when no other would sharpen anything. */
  readonly next: { readonly from: string; readonly to: string } | null;
}

/** What kept lengths say by themselves, and which to measure next. */
export function lengthsTold(stations: readonly Feature[], kept: readonly KeptLength[]): LengthsTold {
  const measured = (of: (k: KeptLength) => number | null): MeasuredLength[] =>
    kept.flatMap((k) => {
      const lengthMm = of(k);
      return lengthMm === null ? [] : [{ from: k.from, to: k.to, lengthMm, u: k.resolutionMm * ROUNDED }];
    });
  const cut = measured((k) => k.cutMm);
  const whole = kept.length > 0 && kept.every((k) => k.printMm !== null);
  const answer = readLengths(stations, cut, whole ? measured((k) => k.printMm) : null);
  if (answer.ok) return { answer: answer.value, missing: '', next: answer.value.sharpen[0] ?? null };
  const { refusal } = answer;
  if (refusal.code !== 'cannot-tell')
    return { answer: null, missing: lengthsRefusalText(refusal), next: null };
  return {
    answer: null,
    missing: kept.length === 0 ? '' : lengthsRefusalText(refusal),
    next: longestFor(refusal.term, stations, kept),
  };
}

/** How much a length moves with a term, per unit of it: of a true rectangle. */
const MOVES: Readonly<
  Record<Extract<LengthsRefusal, { code: 'cannot-tell' }>['term'], (dx: number, dy: number) => number>
> = {
  scaleAcross: (dx, dy) => (dx * dx) / Math.hypot(dx, dy),
  scaleAlong: (dx, dy) => (dy * dy) / Math.hypot(dx, dy),
  leanRad: (dx, dy) => Math.abs(dx * dy) / Math.hypot(dx, dy),
};

/** Of the lengths not measured yet, the one that moves most with a term; null when none does. */
function longestFor(
  term: keyof typeof MOVES,
  stations: readonly Feature[],
  kept: readonly Pick<KeptLength, 'from' | 'to'>[],
): { readonly from: string; readonly to: string } | null {
  const open = stations.flatMap((a, i) =>
    stations.slice(i + 1).flatMap((b) => {
      const ends = [a.id, b.id];
      if (kept.some((k) => ends.includes(k.from) && ends.includes(k.to))) return [];
      const by = MOVES[term](b.x - a.x, b.y - a.y);
      return by > 0 ? [{ from: a.id, to: b.id, by }] : [];
    }),
  );
  const best = open.sort((a, b) => b.by - a.by)[0];
  return best ? { from: best.from, to: best.to } : null;
}
