import type { OffsetAxis } from '../units';

import type { DiagnosedRig, DiagnosedSheet, FaultKind } from './kinds';

/** One offset of one axis. */
export interface Reading {
  readonly axis: OffsetAxis;
  readonly x: number;
  readonly y: number;
  readonly mm: number;
  readonly u: number;
  /** Index of its sheet. */
  readonly sheet: number;
}

/** A way in which a kind may show: its weight among them, and its effects on the readings. */
export interface Hypothesis {
  readonly weight: number;
  readonly columns: readonly (readonly number[])[];
}

/** What an effect does to a place of a sheet, mm. */
type Effect = (r: Reading) => { readonly x: number; readonly y: number };

/** Sizes are told by mixtures: a fault may be small or large. Standard deviations of shifts, mm, and of shares and angles. */
const SHIFTS_MM = [0.15, 0.5, 1.5] as const;
const LINEAR = [0.0006, 0.002, 0.006] as const;
const SKEWS_RAD = [0.0015, 0.005, 0.015] as const;
const SCALES = [0.003, 0.008, 0.025] as const;
const SLIPS_MM = [0.2, 0.6, 1.5] as const;
const MISREADS_MM = [0.4, 1.2, 3] as const;
const SCATTERS_MM = [0.12, 0.3, 0.8] as const;
/** Loads that differ by most of a millimetre are met seldom, by a tenth often (common practice, no source). */
const SCATTERS_MET = [0.45, 0.4, 0.15] as const;
/** What a rig in order still has left: a small shift and shares. */
const REST_MM = 0.03;
const REST_LINEAR = 0.00008;
/** A sheet laid in by hand on a one-mark rig, as usual. */
const USUAL_SKEW_RAD = 0.0004;

/** Effects that are there always, and those of each kind. */
export function patternsOf(
  rig: DiagnosedRig,
  sheets: readonly DiagnosedSheet[],
  readings: readonly Reading[],
): {
  readonly always: readonly (readonly number[])[];
  readonly kinds: Readonly<Record<FaultKind, readonly Hypothesis[]>>;
} {
  const box = boxOf(readings);
  const loads = [...new Set(sheets.map((s) => s.load))];
  const loadOf = (r: Reading): string => sheets[r.sheet]!.load;
  const column = (effect: Effect, sd: number, where: (r: Reading) => boolean = () => true): number[] =>
    readings.map((r) => (where(r) ? sd * (r.axis === 'across' ? effect(r).x : effect(r).y) : 0));
  const inLoad =
    (load: string) =>
    (r: Reading): boolean =>
      loadOf(r) === load;
  const hold = holdPoint(rig.marks, box);
  const linear = linearEffects(box);
  const shiftsOf = (sd: number, where: (r: Reading) => boolean): number[][] => [
    column(RIGHT, sd, where),
    column(FURTHER, sd, where),
  ];
  const always = [
    ...loads.flatMap((load) => [
      ...shiftsOf(rig.registrationSdMm, inLoad(load)),
      ...(rig.marks <= 1 ? [column(turnAbout(hold), USUAL_SKEW_RAD, inLoad(load))] : []),
    ]),
    ...shiftsOf(REST_MM, () => true),
    ...linear.map((effect) => column(effect, REST_LINEAR)),
  ];
  /** A mixture of sizes, equally likely unless they are weighted. */
  const sizes = <T extends number>(
    list: readonly T[],
    of: (sd: T, i: number) => number[][],
    weights: readonly number[] = list.map(() => 1 / list.length),
  ): Hypothesis[] => list.map((sd, i) => ({ weight: weights[i]!, columns: of(sd, i) }));
  return {
    always,
    kinds: {
      none: [{ weight: 1, columns: [] }],
      calibration: calibrations(column, linear),
      'load-scatter': sizes(
        SCATTERS_MM,
        (sd) => loads.flatMap((load) => shiftsOf(sd, inLoad(load))),
        SCATTERS_MET,
      ),
      'art-moved': artMoved(sheets, shiftsOf),
      'print-scaled': sizes(SCALES, (sd) => [
        column(scaleFrom(hold, 'x'), sd),
        column(scaleFrom(hold, 'y'), sd),
      ]),
      'skewed-load':
        rig.marks > 1
          ? []
          : sizes(SKEWS_RAD, (sd) => loads.map((load) => column(turnAbout(hold), sd, inLoad(load)))),
      slip: slips(readings, loads, loadOf, column),
      misread: misreads(rig.marks, box, loads, inLoad, column),
    },
  };
}

const RIGHT: Effect = () => ({ x: 1, y: 0 });
const FURTHER: Effect = () => ({ x: 0, y: 1 });

interface Place {
  readonly x: number;
  readonly y: number;
}
interface Box {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
  readonly cx: number;
  readonly cy: number;
}

function boxOf(readings: readonly Reading[]): Box {
  const [xs, ys] = [readings.map((r) => r.x), readings.map((r) => r.y)];
  const least = (v: readonly number[]): number => v.reduce((a, b) => Math.min(a, b), Infinity);
  const most = (v: readonly number[]): number => v.reduce((a, b) => Math.max(a, b), -Infinity);
  const [x0, x1, y0, y1] = [least(xs), most(xs), least(ys), most(ys)];
  return { x0, x1, y0, y1, cx: (x0 + x1) / 2, cy: (y0 + y1) / 2 };
}

/** Marks stand outside the work, a tenth of it or so. */
function cornersOf({ x0, y0, x1, y1 }: Box): Place[] {
  const [w, h] = [0.08 * Math.max(1, x1 - x0), 0.08 * Math.max(1, y1 - y0)];
  return [
    { x: x0 - w, y: y0 - h },
    { x: x1 + w, y: y0 - h },
    { x: x0 - w, y: y1 + h },
    { x: x1 + w, y: y1 + h },
  ];
}

/** Where a print is held: at its one mark, or its corner; with more marks in their middle. */
const holdPoint = (marks: number, box: Box): Place =>
  marks <= 1 ? cornersOf(box)[0]! : { x: box.cx, y: box.cy };

const turnAbout =
  ({ x, y }: Place): Effect =>
  (r) => ({ x: -(r.y - y), y: r.x - x });

const scaleFrom =
  (from: Place, axis: 'x' | 'y'): Effect =>
  (r) =>
    axis === 'x' ? { x: r.x - from.x, y: 0 } : { x: 0, y: r.y - from.y };

/** Turn, both scales and lean about the middle. */
function linearEffects({ cx, cy }: Box): Effect[] {
  const middle = { x: cx, y: cy };
  return [turnAbout(middle), scaleFrom(middle, 'x'), scaleFrom(middle, 'y'), (r) => ({ x: r.y - cy, y: 0 })];
}

type Column = (effect: Effect, sd: number, where?: (r: Reading) => boolean) => number[];

/** The same in every load: mostly a shift, mostly shares, or all of them. */
function calibrations(column: Column, linear: readonly Effect[]): Hypothesis[] {
  const shapes = SHIFTS_MM.flatMap((shift, i) => [
    { shift, share: LINEAR[i]!, weight: 0.45 },
    { shift, share: REST_LINEAR, weight: 0.45 },
    { shift: REST_MM, share: LINEAR[i]!, weight: 0.1 },
  ]);
  return shapes.map(({ shift, share, weight }) => ({
    weight: weight / SHIFTS_MM.length,
    columns: [column(RIGHT, shift), column(FURTHER, shift), ...linear.map((effect) => column(effect, share))],
  }));
}

/** One shift for all sheets of the pair that was not made anew; none when every sheet was. */
function artMoved(
  sheets: readonly DiagnosedSheet[],
  shiftsOf: (sd: number, where: (r: Reading) => boolean) => number[][],
): Hypothesis[] {
  const jobs = [...new Set(sheets.filter((s) => !s.fresh).map((s) => s.job))];
  return jobs.flatMap((job) =>
    SHIFTS_MM.map((sd) => ({
      weight: 1 / (jobs.length * SHIFTS_MM.length),
      columns: shiftsOf(sd, (r) => sheets[r.sheet]!.job === job && !sheets[r.sheet]!.fresh),
    })),
  );
}

/** So many places of a slip are tried, over all loads. */
const MOST_SLIP_PLACES = 120;

/** A step at a place between two rows, in one load. */
function slips(
  readings: readonly Reading[],
  loads: readonly string[],
  loadOf: (r: Reading) => string,
  column: Column,
): Hypothesis[] {
  return loads.flatMap((load) => {
    const rows = [...new Set(readings.filter((r) => loadOf(r) === load).map((r) => r.y))].sort(
      (a, b) => a - b,
    );
    const gaps = rows.slice(1).map((y, i) => (y + rows[i]!) / 2);
    const every = Math.max(1, Math.ceil((gaps.length * loads.length) / MOST_SLIP_PLACES));
    const places = gaps.filter((_, i) => i % every === 0);
    return places.flatMap((y) =>
      SLIPS_MM.map((sd) => {
        const after = (r: Reading): boolean => loadOf(r) === load && r.y > y;
        return {
          weight: 1 / (loads.length * places.length * SLIPS_MM.length),
          columns: [column(FURTHER, sd, after), column(RIGHT, sd / 4, after)],
        };
      }),
    );
  });
}

/** One mark found at a wrong place, in one load: what that does to a placement on all of them. */
function misreads(
  marks: number,
  box: Box,
  loads: readonly string[],
  inLoad: (load: string) => (r: Reading) => boolean,
  column: Column,
): Hypothesis[] {
  const corners = cornersOf(box);
  const kits = KITS[marks] ?? [];
  const ways = kits.flatMap((kit) => {
    const places = kit.map((i) => corners[i]!);
    return places.flatMap((_, bad) => placementsOf(places).map((solve) => ({ places, bad, solve })));
  });
  return loads.flatMap((load) =>
    ways.flatMap(({ places, bad, solve }) =>
      MISREADS_MM.map((sd) => ({
        weight: 1 / (loads.length * ways.length * MISREADS_MM.length),
        columns: [
          column(solve(places, bad, { x: 1, y: 0 }), sd, inLoad(load)),
          column(solve(places, bad, { x: 0, y: 1 }), sd, inLoad(load)),
        ],
      })),
    ),
  );
}

/** Corners that hold a kit of so many marks: near left, near right, far left, far right. */
const KITS: Readonly<Record<number, readonly (readonly number[])[]>> = {
  1: [[0]],
  2: [
    [0, 1],
    [0, 2],
    [0, 3],
  ],
  3: [[0, 1, 2]],
  4: [[0, 1, 2, 3]],
};

/** How a cut is placed when one mark is taken to lie by `e` from where it is. */
type Placing = (marks: readonly Place[], bad: number, e: Place) => Effect;

function placementsOf(marks: readonly Place[]): Placing[] {
  if (marks.length === 1) return [(_m, _bad, e) => () => e];
  if (marks.length === 2) return [similar, rigid];
  return [affine, similar, rigid];
}

/** Least squares of shift, turn and scale; with two marks it is exact. */
const similar: Placing = (marks, bad, e) => aboutMiddle(marks, bad, e, true);

/** Least squares of shift and turn. */
const rigid: Placing = (marks, bad, e) => aboutMiddle(marks, bad, e, false);

function aboutMiddle(marks: readonly Place[], bad: number, e: Place, scale: boolean): Effect {
  const n = marks.length;
  const [cx, cy] = [marks.reduce((s, m) => s + m.x, 0) / n, marks.reduce((s, m) => s + m.y, 0) / n];
  const spread = marks.reduce((s, m) => s + (m.x - cx) ** 2 + (m.y - cy) ** 2, 0);
  const [qx, qy] = [marks[bad]!.x - cx, marks[bad]!.y - cy];
  const turn = (qx * e.y - qy * e.x) / spread;
  const grow = scale ? (qx * e.x + qy * e.y) / spread : 0;
  return (r) => ({
    x: e.x / n - turn * (r.y - cy) + grow * (r.x - cx),
    y: e.y / n + turn * (r.x - cx) + grow * (r.y - cy),
  });
}

/** Least squares of all six terms: each axis by itself, since marks of a sheet lie along its edges. */
const affine: Placing = (marks, bad, e) => {
  const n = marks.length;
  const [cx, cy] = [marks.reduce((s, m) => s + m.x, 0) / n, marks.reduce((s, m) => s + m.y, 0) / n];
  let [xx, xy, yy] = [0, 0, 0];
  for (const m of marks) {
    xx += (m.x - cx) ** 2;
    xy += (m.x - cx) * (m.y - cy);
    yy += (m.y - cy) ** 2;
  }
  const det = xx * yy - xy * xy;
  const [qx, qy] = [marks[bad]!.x - cx, marks[bad]!.y - cy];
  const [gx, gy] = [(qx * yy - qy * xy) / det, (qy * xx - qx * xy) / det];
  return (r) => {
    const share = 1 / n + gx * (r.x - cx) + gy * (r.y - cy);
    return { x: e.x * share, y: e.y * share };
  };
};
