/** A free rectangle of a sheet, lying or upright. */
export interface Room {
  readonly widthMm: number;
  readonly heightMm: number;
}

/**
 * The width of the picture with which one piece is as large as the sheet takes, turned or not; null when nothing is left
 * after its border. `ink`: how wide and high its outline without border is, in widths of the picture.
 */
export function largestWidthMm(
  rooms: readonly Room[],
  ink: { readonly width: number; readonly height: number },
  borderMm: number,
): number | null {
  const of = (along: number, length: number): number => (along - 2 * borderMm) / length;
  const widths = rooms.flatMap(({ widthMm: w, heightMm: h }) => [
    Math.min(of(w, ink.width), of(h, ink.height)),
    Math.min(of(w, ink.height), of(h, ink.width)),
  ]);
  const most = Math.max(0, ...widths);
  return most > 0 ? most : null;
}
