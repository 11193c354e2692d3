import type { Point } from '../geometry';

import { area } from './ink';
import type { DrawnPath } from './model';

/** A square code as filled squares: its modules row by row from the top, true = dark. */
export function codeMarks(qr: readonly (readonly boolean[])[], corner: Point, sizeMm: number): DrawnPath[] {
  const cell = sizeMm / qr.length;
  return qr.flatMap((row, r) =>
    row.flatMap((dark, c): DrawnPath[] => {
      if (!dark) return [];
      const [x, y] = [corner.x + c * cell, corner.y + sizeMm - (r + 1) * cell];
      const points = [
        { x, y },
        { x: x + cell, y },
        { x: x + cell, y: y + cell },
        { x, y: y + cell },
      ];
      return [area(points, 'text')];
    }),
  );
}
