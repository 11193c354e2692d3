import type { Point } from '@/core/geometry';

const at = (...xy: number[][]): Point[] => xy.map(([x, y]) => ({ x: x!, y: y! }));
export const round = (count: number, radius: (i: number) => number): Point[] =>
  Array.from({ length: count }, (_, i) => {
    const t = (2 * Math.PI * i) / count;
    return { x: radius(i) * Math.cos(t), y: radius(i) * Math.sin(t) };
  });
/** A plainly stated set: what stickers look like that do not fill their rectangle. */
export const NEST_SET: Readonly<Record<string, readonly Point[]>> = {
  'right triangle of 60 × 50': at([0, 0], [60, 0], [0, 50]),
  'L of 50, arms of 15': at([0, 0], [50, 0], [50, 15], [15, 15], [15, 50], [0, 50]),
  'disc of 40': round(24, () => 20),
  'star of five, 60 and 24 across': round(10, (i) => (i % 2 ? 12 : 30)),
  'crescent of 50': [
    ...round(24, () => 25).slice(0, 19),
    ...at([4, -10], [10, 0], [4, 10], [14, 14]).toReversed(),
  ],
  'arrow of 70 × 40': at([0, 13], [40, 13], [40, 0], [70, 20], [40, 40], [40, 27], [0, 27]),
};
