import { WHOLE_STEP_GUARD } from '../tolerance';
import type { Point, Rect } from '../geometry';

import { CORNERS, type Corner, type MarkKit, type MarkPlace, type MarkShape, type Side } from './types';

export interface SheetSize {
  readonly sheetWidthMm: number;
  readonly sheetHeightMm: number;
}

/** The leading mark is drawn this much larger when its size is its sign. */
const LEAD_SCALE = 1.5;

const flipAcross = (c: Corner): Corner =>
  c.replace(/left|right/, (s) => (s === 'left' ? 'right' : 'left')) as Corner;
const flipAlong = (c: Corner): Corner =>
  c.replace(/near|far/, (s) => (s === 'near' ? 'far' : 'near')) as Corner;

/** One mark: the leading corner. Two: along the feed. Three: the leading corner and both neighbours. Four: all. */
function cornersOf(kit: MarkKit): Corner[] {
  const { leading } = kit;
  switch (kit.count) {
    case 1:
      return [leading];
    case 2:
      return [leading, flipAlong(leading)];
    case 3:
      return [leading, flipAlong(leading), flipAcross(leading)];
    case 4:
      return [...CORNERS];
    default:
      return kit.count satisfies never;
  }
}

/** Where the marks stand on a sheet, the leading one first. */
export function markPlaces(kit: MarkKit, sheet: SheetSize): MarkPlace[] {
  const corners = cornersOf(kit).map((corner) => placeAt(corner, kit, sheet));
  const between = kit.count === 4 && kit.everyMm !== null ? alongSides(kit, sheet, kit.everyMm) : [];
  return [...corners, ...between].sort((a, b) => Number(b.leading) - Number(a.leading));
}

function placeAt(corner: Corner, kit: MarkKit, sheet: SheetSize): MarkPlace {
  const left = corner.endsWith('left');
  const near = corner.startsWith('near');
  return {
    name: corner,
    centre: {
      x: left ? kit.insetLeftMm : sheet.sheetWidthMm - kit.insetRightMm,
      y: near ? kit.insetNearMm : sheet.sheetHeightMm - kit.insetFarMm,
    },
    leading: corner === kit.leading,
    inward: { x: left ? 1 : -1, y: near ? 1 : -1 },
  };
}

function alongSides(kit: MarkKit, sheet: SheetSize, everyMm: number): MarkPlace[] {
  const from = kit.insetNearMm;
  const to = sheet.sheetHeightMm - kit.insetFarMm;
  const parts = Math.max(1, Math.ceil((to - from) / everyMm - WHOLE_STEP_GUARD));
  return Array.from({ length: parts - 1 }, (_, i) => from + ((to - from) * (i + 1)) / parts).flatMap((y) =>
    (['left', 'right'] as const).map((side) => ({
      name: `${side}, ${y.toFixed(0)} mm along`,
      centre: { x: side === 'left' ? kit.insetLeftMm : sheet.sheetWidthMm - kit.insetRightMm, y },
      leading: false,
      inward: { x: side === 'left' ? 1 : -1, y: 1 },
    })),
  );
}

/** Size of one mark as drawn. */
export const drawnSizeMm = (kit: MarkKit, place: MarkPlace): number =>
  kit.sizeMm * (place.leading && kit.leadSign === 'larger' ? LEAD_SCALE : 1);

/** The mark's outline, its sign included. */
export function markOutline(kit: MarkKit, place: MarkPlace): Rect {
  const shape = shapeAt(kit, place);
  const half = drawnSizeMm(kit, place) / 2 + (shape === 'disc' || shape === 'square' ? 0 : kit.lineMm / 2);
  const { centre: c, inward } = place;
  const second = place.leading && kit.leadSign === 'doubled' ? 1.5 * kit.sizeMm : 0;
  const under =
    place.leading && kit.leadSign === 'underlined' ? underlineDropMm(kit) + kit.lineMm / 2 - half : 0;
  return {
    x0: c.x - half + Math.min(0, inward.x * second),
    x1: c.x + half + Math.max(0, inward.x * second),
    y0: c.y - half + Math.min(0, inward.y * Math.max(0, under)),
    y1: c.y + half + Math.max(0, inward.y * Math.max(0, under)),
  };
}

/** The underline stands this far from the mark's centre, towards the middle of the sheet. */
export const underlineDropMm = (kit: MarkKit): number => 0.5 * kit.sizeMm + 1.5 * kit.lineMm + 0.5;

/** What a mark looks like: a corner may have a shape of its own. */
export const shapeAt = (kit: MarkKit, place: MarkPlace): MarkShape =>
  kit.shapes?.[place.name as Corner] ?? kit.shape;

/** How much has to be clear on one side of a mark, mm. */
export const clearOnMm = (kit: Pick<MarkKit, 'clearMm' | 'clearSidesMm'>, side: Side): number =>
  kit.clearSidesMm?.[side] ?? kit.clearMm;

/** Where nothing else may be printed. */
export function clearZone(kit: MarkKit, place: MarkPlace): Rect {
  const o = markOutline(kit, place);
  return {
    x0: o.x0 - clearOnMm(kit, 'left'),
    y0: o.y0 - clearOnMm(kit, 'near'),
    x1: o.x1 + clearOnMm(kit, 'right'),
    y1: o.y1 + clearOnMm(kit, 'far'),
  };
}

/** The line of a closed frame, through the middle of its stroke. */
export function frameLine(kit: MarkKit, sheet: SheetSize): Rect {
  return {
    x0: kit.insetLeftMm,
    y0: kit.insetNearMm,
    x1: sheet.sheetWidthMm - kit.insetRightMm,
    y1: sheet.sheetHeightMm - kit.insetFarMm,
  };
}

/** Inside a closed frame, clear of its line: what its right side needs on the right is kept inside its left line too. */
function insideFrame(kit: MarkKit, sheet: SheetSize): Rect {
  const f = frameLine(kit, sheet);
  const half = kit.lineMm / 2;
  return {
    x0: f.x0 + half + clearOnMm(kit, 'right'),
    y0: f.y0 + half + clearOnMm(kit, 'far'),
    x1: f.x1 - half - clearOnMm(kit, 'left'),
    y1: f.y1 - half - clearOnMm(kit, 'near'),
  };
}

/** The part of an area that stays clear of every mark: each zone is cut off at the side that costs least. */
export function clearOfMarks(area: Rect, kit: MarkKit, sheet: SheetSize): Rect {
  if (kit.frame) {
    const inside = insideFrame(kit, sheet);
    return {
      x0: Math.max(area.x0, inside.x0),
      y0: Math.max(area.y0, inside.y0),
      x1: Math.min(area.x1, inside.x1),
      y1: Math.min(area.y1, inside.y1),
    };
  }
  return markPlaces(kit, sheet)
    .map((place) => clearZone(kit, place))
    .reduce((rest, zone) => {
      if (zone.x0 >= rest.x1 || zone.x1 <= rest.x0 || zone.y0 >= rest.y1 || zone.y1 <= rest.y0) return rest;
      const cuts: Rect[] = [
        { ...rest, x0: zone.x1 },
        { ...rest, x1: zone.x0 },
        { ...rest, y0: zone.y1 },
        { ...rest, y1: zone.y0 },
      ];
      const size = (r: Rect): number => Math.max(0, r.x1 - r.x0) * Math.max(0, r.y1 - r.y0);
      return cuts.reduce((best, cut) => (size(cut) > size(best) ? cut : best));
    }, area);
}

/** Towards the anchor of a turn that one mark leaves free. */
export const leadingPlace = (kit: MarkKit, sheet: SheetSize): Point => markPlaces(kit, sheet)[0]!.centre;
