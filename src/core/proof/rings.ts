import { line, ring, words, type Drawn, type DrawnPath } from '../drawing';
import type { Point } from '../geometry';
import { OFFSET_AXES, toMm, type LengthUnit, type OffsetAxis } from '../units';

import { COMB_STEPS } from './layout';

/*
 * The school of the even border on our own sheet: at each station two short rows of printed discs, one row for each axis,
 * each disc with a hole that is cut a known amount aside. Weeded, the ring that is even all round has the offset as its
 * label. Laid out the same way for print, cut and the picture beside the reading.
 */

/** How the rings of a sheet step: by so much, so many each way of the middle. */
export interface RingChoice {
  readonly stepMm: number;
  readonly half: number;
}

export interface RingRowDrawn extends RingChoice {
  readonly axis: OffsetAxis;
  /** φ: by how much the row is staggered, mm. */
  readonly phaseMm: number;
  /** Middle of the row; it runs across whichever axis it measures. */
  readonly centre: Point;
}

/** One ring's drawing, mm: ink from the hole to the disc's edge, so that a fifth of it is seen at a glance. */
export const RING = { pitchMm: 5.2, discMm: 2.2, holeMm: 1.5, rowMm: 7.2, labelMm: 1.5 } as const;

/** Rings each way of the middle one: with ±4 a row of 0.1 mm reaches ±0.4 mm. */
export const RINGS_HALF = 4;

/** Steps of rings on offer, in the label unit: as the combs’. */
export const RING_STEPS: Readonly<Record<LengthUnit, readonly number[]>> = COMB_STEPS;

export const ringChoice = (step: number, unit: LengthUnit): RingChoice => ({
  stepMm: toMm(step, unit),
  half: RINGS_HALF,
});

/** How wide and high the two rows of a station are, mm. */
export const ringsRoom = ({ half }: RingChoice) => ({
  widthMm: (2 * half + 1) * RING.pitchMm,
  heightMm: OFFSET_AXES.length * RING.rowMm + 1,
});

/** The offset that ring `j` of a row says when it is the even one, mm; half a ring: between two. */
export const ringLabelMm = (row: Pick<RingRowDrawn, 'stepMm' | 'phaseMm'>, j: number): number =>
  j * row.stepMm - row.phaseMm;

/** Where ring `j` of a row is printed. */
export const ringPlace = ({ centre }: Pick<RingRowDrawn, 'centre'>, j: number): Point => ({
  x: centre.x + j * RING.pitchMm,
  y: centre.y,
});

/** Where the hole of ring `j` is commanded: aside by just what its label says the cut is off. */
export function ringHole(row: RingRowDrawn, j: number): Point {
  const at = ringPlace(row, j);
  const by = -ringLabelMm(row, j);
  return row.axis === 'across' ? { x: at.x + by, y: at.y } : { x: at.x, y: at.y + by };
}

export const ringsOf = ({ half }: RingChoice): number[] =>
  Array.from({ length: 2 * half + 1 }, (_, i) => i - half);

/** What is printed of a row: discs, labels, and which way it measures. */
export function ringPrint(row: RingRowDrawn, labelOf: (mm: number) => string): Drawn[] {
  const ink = (RING.discMm + RING.holeMm * LEAST_HOLE) / 2;
  return [
    ...ringsOf(row).flatMap((j): Drawn[] => {
      const centre = ringPlace(row, j);
      return [
        ring(centre, ink, RING.discMm - RING.holeMm * LEAST_HOLE, 'print'),
        words(
          { x: centre.x, y: centre.y - RING.discMm - RING.labelMm - 0.3 },
          labelOf(ringLabelMm(row, j)),
          RING.labelMm,
          { anchor: 'middle', bold: j === 0 },
        ),
      ];
    }),
    ...axisMark(row),
  ];
}

/** Ink reaches in under the hole, so that a hole cut aside still has ink all round it. */
const LEAST_HOLE = 0.4;

/** A short double stroke before the row: lying for across, standing for along. */
function axisMark(row: RingRowDrawn): DrawnPath[] {
  const at = { x: row.centre.x - (row.half + 0.5) * RING.pitchMm - 1.2, y: row.centre.y };
  const arm = row.axis === 'across' ? { x: 1, y: 0 } : { x: 0, y: 1 };
  const stroke = (length: number, aside: number): DrawnPath =>
    line(
      { x: at.x - length * arm.x + aside * arm.y, y: at.y - length * arm.y + aside * arm.x },
      { x: at.x + length * arm.x + aside * arm.y, y: at.y + length * arm.y + aside * arm.x },
      0.2,
      'text',
    );
  return [stroke(1, 0.25), stroke(1, -0.25)];
}

/** The holes of a row, from one end to the other. */
export const ringCuts = (row: RingRowDrawn): DrawnPath[] =>
  ringsOf(row).map((j) => ring(ringHole(row, j), RING.holeMm, 0.1, 'cut'));
