/* Equal rectangles in a rectangle: grids, and guillotine patterns of two and three blocks of them. */

/** A grid of equal pieces with its lower-left corner, as it is placed; mm. */
export interface Block {
  readonly x: number;
  readonly y: number;
  readonly columns: number;
  readonly rows: number;
  readonly turned: boolean;
}

export interface Piece {
  readonly widthMm: number;
  readonly heightMm: number;
}

interface Pattern {
  readonly count: number;
  readonly blocks: readonly Block[];
}

/** An exact fit counts, whatever the last binary digit says. */
const GUARD_MM = 1e-6;
const NONE: Pattern = { count: 0, blocks: [] };
/** With more pieces along a side a third block is worth less than the time to look for it. */
const MOST_FOR_THREE = 60;
/** Patterns of so many cuts: two make three blocks. */
const CUTS = 2;

/** How many lengths with gaps between them go into another. */
export const fitting = (along: number, length: number, gap: number): number =>
  Math.max(0, Math.floor((along + gap) / (length + gap) + GUARD_MM));

/**
 * The best of the two plain grids and the patterns of two and three blocks: as many pieces as any of them holds, for a
 * rectangle of `width` × `height` with its lower-left corner at (0, 0).
 *
 * Method   cuts only where a block of whole columns or rows ends (guillotine patterns; Steudel 1979, Smith & De Cani 1980
 *          for pallets; from memory).
 */
export function bestBlocks(
  width: number,
  height: number,
  piece: Piece,
  gap: number,
  mayTurn: boolean,
): Pattern {
  const turns = mayTurn && piece.widthMm !== piece.heightMm;
  const small = Math.min(piece.widthMm, piece.heightMm);
  const many = Math.max(fitting(width, small, gap), fitting(height, small, gap)) > MOST_FOR_THREE;
  return best(width, height, piece, gap, turns, turns ? (many ? 1 : CUTS) : 0, 0);
}

/** The best pattern of more than `least` pieces; none when there is no such one. */
function best(
  w: number,
  h: number,
  piece: Piece,
  gap: number,
  turns: boolean,
  cuts: number,
  least: number,
): Pattern {
  let found: Pattern = { ...NONE, count: least };
  for (const turned of turns ? [false, true] : [false])
    if (inGrid(w, h, piece, gap, turned) > found.count) found = grid(w, h, piece, gap, turned);
  if (cuts > 0)
    for (const turned of [false, true]) {
      const [pw, ph] = sizeOf(piece, turned);
      const tall = fitting(h, ph, gap);
      for (let i = 1; i < fitting(w, pw, gap); i += 1) {
        const used = i * (pw + gap);
        const rest = best(w - used, h, piece, gap, true, cuts - 1, found.count - i * tall);
        if (rest.blocks.length > 0) found = beside(grid(used - gap, h, piece, gap, turned), rest, used, 0);
      }
      const wide = fitting(w, pw, gap);
      for (let i = 1; i < tall; i += 1) {
        const used = i * (ph + gap);
        const rest = best(w, h - used, piece, gap, true, cuts - 1, found.count - i * wide);
        if (rest.blocks.length > 0) found = beside(grid(w, used - gap, piece, gap, turned), rest, 0, used);
      }
    }
  return found.blocks.length > 0 ? found : NONE;
}

const inGrid = (w: number, h: number, piece: Piece, gap: number, turned: boolean): number => {
  const [pw, ph] = sizeOf(piece, turned);
  return fitting(w, pw, gap) * fitting(h, ph, gap);
};

export const sizeOf = ({ widthMm, heightMm }: Piece, turned: boolean): [number, number] =>
  turned ? [heightMm, widthMm] : [widthMm, heightMm];

function grid(w: number, h: number, piece: Piece, gap: number, turned: boolean): Pattern {
  const [pw, ph] = sizeOf(piece, turned);
  const [columns, rows] = [fitting(w, pw, gap), fitting(h, ph, gap)];
  return { count: columns * rows, blocks: [{ x: 0, y: 0, columns, rows, turned }] };
}

const beside = (one: Pattern, other: Pattern, dx: number, dy: number): Pattern => ({
  count: one.count + other.count,
  blocks: [...one.blocks, ...other.blocks.map((b) => ({ ...b, x: b.x + dx, y: b.y + dy }))],
});
