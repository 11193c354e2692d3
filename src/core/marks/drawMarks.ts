import { area, disc, line, outline, ring, type DrawnPath } from '../drawing';
import type { Point } from '../geometry';

import { drawnSizeMm, frameLine, markPlaces, shapeAt, underlineDropMm, type SheetSize } from './markPlaces';
import type { MarkKit, MarkPlace, MarkShape } from './types';

/** The marks as ink on the print layer; none where the machine or another program lays them. */
export function drawMarks(kit: MarkKit, sheet: SheetSize): DrawnPath[] {
  return (kit.laidBy ?? 'us') === 'us' ? markPicture(kit, sheet) : [];
}

/** How the marks look, whoever lays them. */
export function markPicture(kit: MarkKit, sheet: SheetSize): DrawnPath[] {
  if (kit.frame) return frame(kit, sheet);
  return markPlaces(kit, sheet).flatMap((place) => [
    ...drawn(kit, shapeAt(kit, place), place.centre, drawnSizeMm(kit, place), place.inward),
    ...(place.leading ? leadSign(kit, place) : []),
  ]);
}

function frame(kit: MarkKit, sheet: SheetSize): DrawnPath[] {
  const { x0, y0, x1, y1 } = frameLine(kit, sheet);
  const points = [
    { x: x0, y: y0 },
    { x: x1, y: y0 },
    { x: x1, y: y1 },
    { x: x0, y: y1 },
  ];
  return [outline(points, kit.lineMm, 'mark', kit.colour)];
}

function drawn(kit: MarkKit, shape: MarkShape, c: Point, sizeMm: number, inward: Point): DrawnPath[] {
  const half = sizeMm / 2;
  const stroke = (x0: number, y0: number, x1: number, y1: number): DrawnPath =>
    line({ x: c.x + x0, y: c.y + y0 }, { x: c.x + x1, y: c.y + y1 }, kit.lineMm, 'mark', kit.colour);
  switch (shape) {
    case 'disc':
      return [disc(c, half, 'mark', kit.colour)];
    case 'ring':
      return [ring(c, half, kit.lineMm, 'mark', kit.colour)];
    case 'cross':
      return [stroke(-half, 0, half, 0), stroke(0, -half, 0, half)];
    case 'bracket':
      // Its corner points outward; both arms are half a line longer there, so that the corner is square.
      return [
        stroke((-half - kit.lineMm / 2) * inward.x, -half * inward.y, half * inward.x, -half * inward.y),
        stroke(-half * inward.x, -half * inward.y, -half * inward.x, half * inward.y),
      ];
    case 'square':
      return [area(box(c, half, half), 'mark', kit.colour)];
    case 'bar':
      return [stroke(-half, 0, half, 0)];
    default:
      return shape satisfies never;
  }
}

const box = (c: Point, w: number, h: number): Point[] => [
  { x: c.x - w, y: c.y - h },
  { x: c.x + w, y: c.y - h },
  { x: c.x + w, y: c.y + h },
  { x: c.x - w, y: c.y + h },
];

function leadSign(kit: MarkKit, place: MarkPlace): DrawnPath[] {
  const { centre, inward } = place;
  switch (kit.leadSign) {
    case 'doubled':
      return drawn(
        kit,
        shapeAt(kit, place),
        { x: centre.x + 1.5 * kit.sizeMm * inward.x, y: centre.y },
        kit.sizeMm,
        inward,
      );
    case 'underlined': {
      const y = centre.y + inward.y * underlineDropMm(kit);
      const half = kit.sizeMm / 2;
      return [line({ x: centre.x - half, y }, { x: centre.x + half, y }, kit.lineMm, 'mark', kit.colour)];
    }
    case 'larger':
    case 'none':
      return [];
    default:
      return kit.leadSign satisfies never;
  }
}
