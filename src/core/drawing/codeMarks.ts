import type { Point } from '../geometry';

import type { Mark } from './scene';

/** A square code as filled squares: its modules row by row from the top, true = dark. */
export function codeMarks(qr: readonly (readonly boolean[])[], corner: Point, sizeMm: number): Mark[] {
  const cell = sizeMm / qr.length;
  return qr.flatMap((row, r) =>
    row.flatMap((dark, c): Mark[] => {
      if (!dark) return [];
      const [x, y] = [corner.x + c * cell, corner.y + sizeMm - (r + 1) * cell];
      const points = [
        { x, y },
        { x: x + cell, y },
        { x: x + cell, y: y + cell },
        { x, y: y + cell },
      ];
      return [{ kind: 'polygon', points, filled: true, widthMm: 0, ink: 'text' }];
    }),
  );
}
