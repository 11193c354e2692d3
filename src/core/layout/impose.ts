import { accept, refuse, type Outcome } from '../outcome';
import { EXACT_FIT_GUARD_MM } from '../tolerance';

/** What is to be laid out on a roll. Lengths in mm; width is across the media, height along the feed. */
export interface RollItems {
  readonly itemWidthMm: number;
  readonly itemHeightMm: number;
  readonly copies: number;
  /** Between neighbours, both ways. */
  readonly gapMm: number;
  /** The width that can be printed and cut, not the media’s overall width. */
  readonly printableWidthMm: number;
  /** Whether items may lie turned by 90°. */
  readonly mayTurn: boolean;
  /** Strips side by side that are cut apart, with this much between them. */
  readonly lanes: number;
  readonly laneGapMm: number;
  /** A last row that is not full stands in the middle instead of at the left; of one lane only. */
  readonly centreLastRow: boolean;
}

export interface Imposition {
  readonly columns: number;
  readonly columnsPerLane: number;
  readonly rows: number;
  readonly turned: boolean;
  /** As they lie: swapped when turned. */
  readonly itemWidthMm: number;
  readonly itemHeightMm: number;
  readonly gapMm: number;
  readonly copies: number;
  readonly copiesInLastRow: number;
  /** Copies that would fill the last row. */
  readonly leftoverCopies: number;
  readonly usedWidthMm: number;
  /** Left edges of the columns from the printable area’s left, mm. */
  readonly columnsAtMm: readonly number[];
  /** How far the copies of the last row are moved to the right. */
  readonly lastRowShiftMm: number;
}

export type ImposeRefusal =
  | {
      readonly code: 'too-wide';
      readonly itemWidthMm: number;
      readonly laneWidthMm: number;
      readonly fitsTurned: boolean;
    }
  | { readonly code: 'too-many-rows'; readonly rows: number; readonly most: number };

/** A sixty-metre roll of items of 3 mm; more is a slip of the finger. */
const MOST_ROWS = 20_000;

/**
 * Columns and rows of a roll.
 *
 * Method   columns = ⌊(W + g)/(w + g)⌋ with a guard so that an exact fit counts; rows = ⌈copies/columns⌉.
 *          Turned by 90° when allowed and it takes less length, or when only then it fits.
 * Refuses  too-wide, too-many-rows.
 * Example  46 copies, 4 across → 12 rows, 2 in the last (common practice, no source).
 */
export function impose(items: RollItems): Outcome<Imposition, ImposeRefusal> {
  const upright = layOut(items, false);
  const turned = items.mayTurn ? layOut(items, true) : null;
  const best =
    turned && (!upright || lengthOf(turned) < lengthOf(upright) - EXACT_FIT_GUARD_MM) ? turned : upright;
  if (!best)
    return refuse({
      code: 'too-wide',
      itemWidthMm: items.itemWidthMm,
      laneWidthMm: laneWidth(items),
      fitsTurned: !items.mayTurn && layOut(items, true) !== null,
    });
  return best.rows > MOST_ROWS
    ? refuse({ code: 'too-many-rows', rows: best.rows, most: MOST_ROWS })
    : accept(best);
}

const laneWidth = (i: RollItems): number => (i.printableWidthMm - (i.lanes - 1) * i.laneGapMm) / i.lanes;

/** Length of so many rows with the gaps between them, mm. */
export const rowsLengthMm = (rows: number, itemHeightMm: number, gapMm: number): number =>
  rows > 0 ? rows * itemHeightMm + (rows - 1) * gapMm : 0;

const lengthOf = (i: Imposition): number => rowsLengthMm(i.rows, i.itemHeightMm, i.gapMm);

function layOut(items: RollItems, turned: boolean): Imposition | null {
  const w = turned ? items.itemHeightMm : items.itemWidthMm;
  const h = turned ? items.itemWidthMm : items.itemHeightMm;
  const { gapMm: g, lanes, copies } = items;
  const lane = laneWidth(items);
  const columnsPerLane = Math.floor((lane + g + EXACT_FIT_GUARD_MM) / (w + g));
  if (!(columnsPerLane >= 1)) return null;
  const columns = columnsPerLane * lanes;
  const rows = Math.ceil(copies / columns);
  const copiesInLastRow = copies - (rows - 1) * columns;
  return {
    columns,
    columnsPerLane,
    rows,
    turned,
    itemWidthMm: w,
    itemHeightMm: h,
    gapMm: g,
    copies,
    copiesInLastRow,
    leftoverCopies: columns - copiesInLastRow,
    usedWidthMm: (lanes - 1) * (lane + items.laneGapMm) + columnsPerLane * (w + g) - g,
    lastRowShiftMm: items.centreLastRow && lanes === 1 ? ((columns - copiesInLastRow) * (w + g)) / 2 : 0,
    columnsAtMm: Array.from(
      { length: columns },
      (_, c) => Math.floor(c / columnsPerLane) * (lane + items.laneGapMm) + (c % columnsPerLane) * (w + g),
    ),
  };
}

/** Left edge of a copy from the printable area's left, mm. Rows and columns from 0, rows over the whole run. */
export const copyAtMm = (i: Imposition, row: number, column: number): number =>
  i.columnsAtMm[column]! + (row === i.rows - 1 ? i.lastRowShiftMm : 0);

export function planRefusalText(refusal: ImposeRefusal): string {
  switch (refusal.code) {
    case 'too-wide':
      return `The item is ${refusal.itemWidthMm.toFixed(1)} mm wide and only ${refusal.laneWidthMm.toFixed(1)} mm can be printed.${refusal.fitsTurned ? ' Turned by 90° it would fit: allow turning.' : ' Check that width and height are not swapped, or take wider media.'}`;
    case 'too-many-rows':
      return `That makes ${refusal.rows} rows; at most ${refusal.most} can be planned in one run. Check copies and sizes, or split the job.`;
    default:
      return refusal satisfies never;
  }
}
