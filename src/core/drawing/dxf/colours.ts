/** The nine colours whose numbers every DXF reader shows alike (DXF reference, colour index; memory). */
const BASIC: readonly (readonly [number, string])[] = [
  [1, '#ff0000'],
  [2, '#ffff00'],
  [3, '#00ff00'],
  [4, '#00ffff'],
  [5, '#0000ff'],
  [6, '#ff00ff'],
  [7, '#000000'],
  [8, '#808080'],
  [9, '#c0c0c0'],
];

/** `#rrggbb` of a colour number; the numbers above 9 are kept by number, not by shade. */
export const colourOfIndex = (index: number): string | null =>
  BASIC.find(([number]) => number === index)?.[1] ?? null;

/** The nearest of the basic colours. */
export function indexOfColour(colour: string): number {
  const channels = (hex: string): number[] => [1, 3, 5].map((i) => Number.parseInt(hex.slice(i, i + 2), 16));
  const wanted = channels(colour);
  const distance = (hex: string): number =>
    channels(hex).reduce((sum, c, i) => sum + (c - wanted[i]!) ** 2, 0);
  return BASIC.reduce((best, next) => (distance(next[1]) < distance(best[1]) ? next : best))[0];
}
