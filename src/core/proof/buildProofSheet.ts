import { SAME, EXACT_FIT_GUARD_MM } from '../tolerance';
import { rectCentre, rectHeight, rectWidth, type Point, type Rect } from '../geometry';
import { clearOfMarks, type MarkKit } from '../marks';
import { accept, refuse, type Outcome } from '../outcome';
import { combLengthMm, halfLinesOf } from '../comb';
import { OFFSET_AXES } from '../units';

import { barsFor } from './bars';
import {
  BAR_STRIP_MM,
  STATION,
  TITLE_STRIP_MM,
  labelGrainMm,
  combHalfMm,
  stationReach,
  type StationReach,
} from './layout';
import { gapShapeAt, gapShapeFits } from './gapShape';
import { RING, ringsRoom, type RingChoice, type RingRowDrawn } from './rings';
import type { ProofRefusal, ProofSheet, ProofSpec, Station, StationSet } from './types';

/** Kept with every sheet; a change of geometry makes a new version. */
export const PROOF_VERSION = 'proof-6';

/**
 * Lays out a proof sheet: stations on a grid over the work area, two staggered combs and a coarse cross each.
 *
 * The second set interleaves with the first row by row, so that both span the work area.
 * Refuses  area-outside-sheet, area-too-small (for one station), too-many-stations (says how many fit).
 */
export function buildProofSheet(spec: ProofSpec): Outcome<ProofSheet, ProofRefusal> {
  const { workArea } = spec;
  if (
    !(workArea.x0 >= 0 && workArea.y0 >= 0) ||
    workArea.x1 > spec.sheetWidthMm + SAME ||
    workArea.y1 > spec.sheetHeightMm + SAME
  )
    return refuse({ code: 'area-outside-sheet' });
  const layoutArea = layoutAreaOf(spec);
  const short = spec.readBy === 'short';
  const fits = stationsThatFit(layoutArea, spec.stepMm, spec.secondSet, spec.rings);
  if (fits.columns < 1 || fits.rows < 1) return refuse(tooSmall(spec));
  if (spec.columns > fits.columns || spec.rows > fits.rows)
    return refuse({ code: 'too-many-stations', columnsAtMost: fits.columns, rowsAtMost: fits.rows });

  const sets = spec.secondSet ? 2 : 1;
  const reach = reachOf(spec.stepMm, spec.rings);
  const field = stationField(layoutArea);
  const xs = spaced(field.x0 + reach.left, field.x1 - reach.right, spec.columns);
  const ys = short
    ? closeTogether(field, reach, rectCentre(workArea).y, sets)
    : spaced(field.y0 + reach.near, field.y1 - reach.far, spec.rows * sets);
  const stations: Station[] = [];
  for (let set = 1; set <= sets; set += 1)
    for (let row = 0; row < spec.rows; row += 1)
      for (let column = 0; column < spec.columns; column += 1) {
        const index = row * spec.columns + column;
        const centre = { x: xs[column]!, y: ys[row * sets + set - 1]! };
        stations.push(station(spec, set as StationSet, index, centre));
      }
  return accept({
    version: PROOF_VERSION,
    spec,
    layoutArea,
    bars: barsFor(layoutArea, spec.unit),
    stations,
  });
}

/** The work area less what the rig's marks and their clear zones need. */
export const layoutAreaOf = (
  spec: Pick<ProofSpec, 'workArea' | 'sheetWidthMm' | 'sheetHeightMm'> & { readonly marks: MarkKit | null },
): Rect => (spec.marks === null ? spec.workArea : clearOfMarks(spec.workArea, spec.marks, spec));

/** How many stations an area takes, by columns and rows of one set. */
export function stationsThatFit(
  layoutArea: Rect,
  stepMm: number,
  secondSet: boolean,
  rings: ProofSpec['rings'] = null,
): { readonly columns: number; readonly rows: number } {
  const reach = reachOf(stepMm, rings);
  const field = stationField(layoutArea);
  const count = (room: number, one: number): number =>
    Math.max(0, Math.floor((room + EXACT_FIT_GUARD_MM) / one));
  return {
    columns: count(rectWidth(field), reach.left + reach.right),
    rows: Math.floor(count(rectHeight(field), reach.near + reach.far) / (secondSet ? 2 : 1)),
  };
}

/** What of a sheet its stations go by. */
type OfStation = Pick<
  ProofSpec,
  'stepMm' | 'unit' | 'seed' | 'columns' | 'rows' | 'bothWays' | 'rings' | 'readBy'
> &
  Partial<Pick<ProofSpec, 'secondSet'>>;

function station(spec: OfStation, set: StationSet, index: number, centre: Point): Station {
  const perSet = spec.columns * spec.rows;
  const serial = 2 * ((set - 1) * perSet + index);
  const comb = { stepMm: spec.stepMm, halfLines: halfLinesOf(spec.stepMm) };
  const crossLeft = STATION.discRadiusMm + STATION.crossGapMm + STATION.crossCutMm;
  return {
    id: `${set === 1 ? 'A' : 'B'}${index + 1}`,
    set,
    centre,
    across: { ...comb, axis: 'across', centre, phaseMm: staggered(spec, set, serial) },
    along: { ...comb, axis: 'along', centre, phaseMm: staggered(spec, set, serial + 1) },
    ...(spec.readBy === 'short' ? { bandMm: combLengthMm(comb) } : {}),
    scaleCentre: { x: centre.x - crossLeft, y: centre.y },
    // Like the squares of a chess board, so that no term of the sheet looks like it.
    ...(spec.bothWays
      ? { fromHigh: (Math.floor(index / spec.columns) + (index % spec.columns)) % 2 === 1 }
      : {}),
    ...(spec.readBy === 'gaps' && gapShapeFits(combHalfMm(spec.stepMm))
      ? { gapShape: gapShapeAt(centre, (k) => golden(spec.seed, 4 * serial + k)) }
      : {}),
    ...(spec.rings ? { rings: ringRows(spec, spec.rings, serial, centre) } : {}),
  };
}

/** One station by itself, wherever it stands: the only one of its set. */
export const loneStation = (centre: Point, of: Pick<ProofSpec, 'stepMm' | 'unit' | 'seed'>): Station =>
  station({ ...of, columns: 1, rows: 1 }, 1, 0, centre);

/** How much room it takes about its middle. */
export const loneStationReach = (stepMm: number): StationReach => stationReach(stepMm);

/** The two rows under a station, staggered like its combs and apart from them. */
function ringRows(spec: OfStation, rings: RingChoice, serial: number, centre: Point): RingRowDrawn[] {
  const reach = reachOf(spec.stepMm, rings);
  const combs = spec.columns * spec.rows * (spec.secondSet ? 4 : 2);
  return OFFSET_AXES.map((axis, i) => ({
    ...{ ...rings, axis, phaseMm: phaseMm({ ...spec, stepMm: rings.stepMm }, combs + serial + i) },
    centre: {
      x: centre.x + (reach.right - reach.left) / 2,
      y: centre.y - reach.near + (OFFSET_AXES.length - 1 - i) * RING.rowMm + RING.discMm + RING.labelMm + 0.8,
    },
  }));
}

const reachOf = (stepMm: number, rings: ProofSpec['rings']) =>
  stationReach(stepMm, rings ? ringsRoom(rings) : null);

const GOLDEN = (Math.sqrt(5) - 1) / 2;
/** A staggered share in [0, 1). */
const golden = (seed: number, serial: number): number => (seed * GOLDEN * GOLDEN + serial * GOLDEN) % 1;

/**
 * φ of comb `serial` (2·station + axis): a golden-ratio sequence, on the grain of the labels, in (−δ/2, δ/2].
 * Staggering is subtractive dither (Schuchman 1964; from memory): without it a nearly plumb rig shows
 * the same rounding error at every station, and averaging does not help.
 */
function phaseMm(spec: Pick<ProofSpec, 'unit' | 'stepMm' | 'seed'>, serial: number): number {
  const grain = labelGrainMm(spec.unit);
  const levels = Math.round(spec.stepMm / grain);
  return (Math.floor(golden(spec.seed, serial) * levels) - Math.ceil(levels / 2) + 1) * grain;
}

/** What is confirmed by a yes or no has its middle pair at nought: straight through is plumb. */
const staggered = (spec: OfStation, set: StationSet, serial: number): number =>
  spec.readBy === 'short' && set === 2 ? 0 : phaseMm(spec, serial);

function stationField(layoutArea: Rect): Rect {
  return { ...layoutArea, x0: layoutArea.x0 + BAR_STRIP_MM, y0: layoutArea.y0 + TITLE_STRIP_MM };
}

function tooSmall(spec: ProofSpec): ProofRefusal {
  const reach = reachOf(spec.stepMm, spec.rings);
  const sets = spec.secondSet ? 2 : 1;
  return {
    code: 'area-too-small',
    needsWidthMm: Math.ceil(reach.left + reach.right + BAR_STRIP_MM),
    needsHeightMm: Math.ceil(sets * (reach.near + reach.far) + TITLE_STRIP_MM),
  };
}

/** The sets of a short sheet, the first one further along, as near the middle as they fit. */
function closeTogether(field: Rect, { near, far }: StationReach, middle: number, sets: number): number[] {
  const all = sets * (near + far);
  const from = Math.max(field.y0, Math.min(field.y1 - all, middle - all / 2));
  return Array.from({ length: sets }, (_, i) => from + (sets - 1 - i) * (near + far) + near);
}

function spaced(from: number, to: number, count: number): number[] {
  if (count === 1) return [(from + to) / 2];
  return Array.from({ length: count }, (_, i) => from + ((to - from) * i) / (count - 1));
}

/** What is wrong with the asked sheet and what would be right. */
export function proofRefusalText(refusal: ProofRefusal): string {
  switch (refusal.code) {
    case 'area-outside-sheet':
      return 'The work area reaches beyond the sheet. Make the sheet larger or the margins and the work area smaller.';
    case 'area-too-small':
      return `One station needs at least ${refusal.needsWidthMm} × ${refusal.needsHeightMm} mm of work area clear of the marks with this comb step. Use a finer step, leave out the second set or enlarge the work area.`;
    case 'too-many-stations':
      return `This work area takes at most ${refusal.columnsAtMost} columns and ${refusal.rowsAtMost} rows of stations in each set.`;
    default:
      return refusal satisfies never;
  }
}
