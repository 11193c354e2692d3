import { nestings, type NestJob } from '../src/core/layout/nest';
import { planSheet } from '../src/core/layout/sheet';
import { seededRandom } from '../src/core/random/random';
import type { Point } from '../src/core/geometry';

/* True shapes nested beside their rectangles: what a sheet of 210 × 297 mm holds, gap 3 mm, two corners taken by marks. */

const at = (...xy: number[][]): Point[] => xy.map(([x, y]) => ({ x: x!, y: y! }));
const round = (count: number, radius: (i: number) => number): Point[] =>
  Array.from({ length: count }, (_, i) => {
    const t = (2 * Math.PI * i) / count;
    return { x: radius(i) * Math.cos(t), y: radius(i) * Math.sin(t) };
  });
const SET: Readonly<Record<string, readonly Point[]>> = {
  'right triangle of 60 × 50': at([0, 0], [60, 0], [0, 50]),
  'L of 50, arms of 15': at([0, 0], [50, 0], [50, 15], [15, 15], [15, 50], [0, 50]),
  'disc of 40': round(48, () => 20),
  'star of five, 60 and 24 across': round(10, (i) => (i % 2 ? 12 : 30)),
  'arrow of 70 × 40': at([0, 13], [40, 13], [40, 0], [70, 20], [40, 40], [40, 27], [0, 27]),
  'rectangle of 60 × 40': at([0, 0], [60, 0], [60, 40], [0, 40]),
};
const WAYS = 20;

export function nestBench(): void {
  const usable = { x0: 8, y0: 8, x1: 202, y1: 289 };
  const zones = [
    { x0: 8, y0: 8, x1: 30, y1: 30 },
    { x0: 180, y0: 267, x1: 202, y1: 289 },
  ];
  console.log('shape                            rectangles   one way   twenty ways   seconds');
  for (const [name, outline] of Object.entries(SET)) {
    const span = (of: (p: Point) => number): number =>
      Math.max(...outline.map(of)) - Math.min(...outline.map(of));
    const item = {
      id: 'A',
      widthMm: span((p) => p.x),
      heightMm: span((p) => p.y),
      copies: null,
      mayTurn: true,
    };
    const grid = planSheet({ usable, zones, items: [item], gapMm: 3, centre: false }).sheets[0]!.length;
    const job: NestJob = {
      ...{ usable, zones, gapMm: 3 },
      shapes: [{ id: 'A', outlines: [outline], copies: null, mayTurn: true }],
    };
    const search = nestings(job, seededRandom(1));
    const from = performance.now();
    const counts = Array.from({ length: WAYS }, () => search.next().value[0]!.length);
    const seconds = (performance.now() - from) / 1000;
    console.log(
      `${name.padEnd(32)} ${String(grid).padStart(10)} ${String(counts[0]).padStart(9)} ${String(counts.at(-1)).padStart(13)} ${seconds.toFixed(1).padStart(9)}`,
    );
  }
}
