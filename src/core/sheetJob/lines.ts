import { offsetPaths, type ClosedPath } from '../artwork';

/** What bleed covers with colour: the lines grown by it. */
export const bleedArea = (lines: readonly ClosedPath[], bleedMm: number): ClosedPath[] =>
  offsetPaths(
    lines.map((l) => l.points),
    { distanceMm: bleedMm, join: 'round', toleranceMm: 0.02 },
  );

/** The line round all of a piece, `byMm` outside its outline: one for what lies so near that borders would meet. */
export const secondLine = (lines: readonly ClosedPath[], byMm: number): ClosedPath[] =>
  offsetPaths(
    lines.filter((l) => !l.hole).map((l) => l.points),
    { distanceMm: byMm, join: 'round', toleranceMm: 0.02 },
  ).filter((l) => !l.hole);
