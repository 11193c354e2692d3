import { nestings, type NestJob } from '../src/core/layout/nest';
import { planSheet } from '../src/core/layout/sheet';
import { seededRandom } from '../src/core/random/random';
import type { Point } from '../src/core/geometry';
import { NEST_SET } from '../test/nestSet';

/* True shapes nested beside their rectangles: what a sheet of 210 × 297 mm holds, gap 3 mm, two corners taken by marks. */

const rectangle = (x: number, y: number): Point[] => [
  { x: 0, y: 0 },
  { x, y: 0 },
  { x, y },
  { x: 0, y },
];
const SET: typeof NEST_SET = {
  ...NEST_SET,
  'rectangle of 60 × 40': rectangle(60, 40),
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
