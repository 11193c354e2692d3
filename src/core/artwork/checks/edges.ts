import type { Point, Rect } from '../../geometry';
import { encloses } from '../trace';

import type { Ink } from './ink';
import { along, boundsOf, lengthOf } from './segments';
import type { CheckedLine, Finding } from './types';

/* What is printed along a line: whether colour goes far enough past it, or stays far enough away. */

/** So much of a line may be out of order before it is told: corners of coarse pictures. */
const SHARE = 0.03;
/** … and no less than so many places: one may be a grain of a photograph. */
const LEAST_WRONG = 2;
/** How far apart a line is looked at, mm; small ones at so many places at least. */
const APART_MM = 0.7;
const LEAST_PLACES = 40;
/** Fainter than this share of what it lies beside, a pixel is a ring of its compression. */
const RINGS = 0.15;

/** A length as it is told: up to the next hundredth. */
const told = (mm: number): number => Math.ceil(100 * mm - 1e-9) / 100;

export const tooLittleBleed = (what: string, neededMm: number, where: Rect | null): Finding => ({
  ...{ code: 'bleed-too-small', severity: 'stop', where },
  message: `${what}: a white edge will show.`,
  fix: `Grow the print ${told(neededMm)} mm past the cut.`,
});

export const tooNarrow = (what: string, neededMm: number, where: Rect | null): Finding => ({
  ...{ code: 'border-too-small', severity: 'stop', where },
  message: `${what}: the cut will run into the print.`,
  fix: `Make the border at least ${told(neededMm)} mm.`,
});

export function holdsInk(line: CheckedLine, ink: Ink): boolean {
  const b = boundsOf(line);
  const steps = 24;
  for (let i = 0; i < steps; i += 1)
    for (let j = 0; j < steps; j += 1) {
      const p = {
        x: b.x0 + ((i + 0.5) / steps) * (b.x1 - b.x0),
        y: b.y0 + ((j + 0.5) / steps) * (b.y1 - b.y0),
      };
      if (ink.at(p) > ink.printedFrom && encloses(line.points, p)) return true;
    }
  return false;
}

/** Whether colour that reaches the cut goes on past it, and what does not reach it stays away: into a hole, away from it. */
export function edges(line: CheckedLine, hole: boolean, ink: Ink, neededMm: number): Finding[] {
  const places = along(line, Math.min(APART_MM, lengthOf(line) / LEAST_PLACES));
  const outward = signedArea(line) > 0 === hole ? -1 : 1;
  const at = (p: Point & { readonly nx: number; readonly ny: number }, mm: number): number =>
    ink.at({ x: p.x + outward * p.nx * mm, y: p.y + outward * p.ny * mm });
  // Of a pixel that is wider than what is needed no more can be seen than where it lies.
  const blur = Math.min(1.2 * ink.pixelMm, neededMm / 2);
  let [bleed, border] = [0, 0];
  for (const p of places) {
    const [own, near] = [at(p, -blur), Math.max(at(p, -(neededMm - blur)), at(p, -neededMm / 2))];
    // Rings of a compressed picture round a strong edge are no ink that goes on.
    const from = Math.max(ink.printedFrom, RINGS * Math.max(own, near));
    if (at(p, neededMm - blur) > from) continue;
    if (own > from) bleed += 1;
    else if (near > from) border += 1;
  }
  const where = boundsOf(line);
  return [
    ...(bleed > Math.max(LEAST_WRONG, SHARE * places.length)
      ? [tooLittleBleed(`Colour ends less than ${told(neededMm)} mm past the cut`, neededMm, where)]
      : []),
    ...(border > Math.max(LEAST_WRONG, SHARE * places.length)
      ? [tooNarrow(`The print comes nearer than ${told(neededMm)} mm to the cut`, neededMm, where)]
      : []),
  ];
}

function signedArea({ points }: CheckedLine): number {
  return points.reduce((sum, p, i) => {
    const q = points[(i + 1) % points.length]!;
    return sum + (p.x * q.y - q.x * p.y) / 2;
  }, 0);
}
