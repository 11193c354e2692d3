import type { Mark } from '../drawing';
import type { Point } from '../geometry';

import { drawnSizeMm, frameLine, markPlaces, shapeAt, underlineDropMm, type SheetSize } from './markPlaces';
import type { MarkKit, MarkPlace, MarkShape } from './types';

/** The marks as ink on the print layer; none where the machine or another program lays them. */
export function markScene(kit: MarkKit, sheet: SheetSize): Mark[] {
  return (kit.laidBy ?? 'us') === 'us' ? markPicture(kit, sheet) : [];
}

/** How the marks look, whoever lays them. */
export function markPicture(kit: MarkKit, sheet: SheetSize): Mark[] {
  if (kit.frame) return frame(kit, sheet);
  return markPlaces(kit, sheet).flatMap((place) => [
    ...drawn(kit, shapeAt(kit, place), place.centre, drawnSizeMm(kit, place), place.inward),
    ...(place.leading ? leadSign(kit, place) : []),
  ]);
}

function frame(kit: MarkKit, sheet: SheetSize): Mark[] {
  const { x0, y0, x1, y1 } = frameLine(kit, sheet);
  const points = [
    { x: x0, y: y0 },
    { x: x1, y: y0 },
    { x: x1, y: y1 },
    { x: x0, y: y1 },
  ];
  const ink = { ink: 'mark', colour: kit.colour } as const;
  return [{ kind: 'polygon', points, filled: false, widthMm: kit.lineMm, ...ink }];
}

function drawn(kit: MarkKit, shape: MarkShape, c: Point, sizeMm: number, inward: Point): Mark[] {
  const half = sizeMm / 2;
  const ink = { ink: 'mark', colour: kit.colour } as const;
  const line = (x0: number, y0: number, x1: number, y1: number): Mark => ({
    kind: 'line',
    from: { x: c.x + x0, y: c.y + y0 },
    to: { x: c.x + x1, y: c.y + y1 },
    widthMm: kit.lineMm,
    ...ink,
  });
  switch (shape) {
    case 'disc':
      return [{ kind: 'disc', centre: c, radiusMm: half, ...ink }];
    case 'ring':
      return [{ kind: 'ring', centre: c, radiusMm: half, widthMm: kit.lineMm, ...ink }];
    case 'cross':
      return [line(-half, 0, half, 0), line(0, -half, 0, half)];
    case 'bracket':
      // Its corner points outward; both arms are half a line longer there, so that the corner is square.
      return [
        line((-half - kit.lineMm / 2) * inward.x, -half * inward.y, half * inward.x, -half * inward.y),
        line(-half * inward.x, -half * inward.y, -half * inward.x, half * inward.y),
      ];
    case 'square':
      return [{ kind: 'polygon', points: box(c, half, half), filled: true, widthMm: 0, ...ink }];
    case 'bar':
      return [line(-half, 0, half, 0)];
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

function leadSign(kit: MarkKit, place: MarkPlace): Mark[] {
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
      return [
        {
          kind: 'line',
          from: { x: centre.x - half, y },
          to: { x: centre.x + half, y },
          widthMm: kit.lineMm,
          ink: 'mark',
          colour: kit.colour,
        },
      ];
    }
    case 'larger':
    case 'none':
      return [];
    default:
      return kit.leadSign satisfies never;
  }
}
