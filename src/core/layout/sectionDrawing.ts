import { affineMap, invertMap, type Affine, type PlaneMap, type Rect } from '../geometry';
import type { Outline } from '../drift';
import { mapPath, type Drawing, type DrawnPath } from '../drawing';

import { copyAtMm, type Imposition } from './impose';
import type { Section, SectionRoom } from './sections';

const LAYER = 'cut';
const STYLE = { layer: LAYER, colour: null, pen: null } as const;

/** The outline of an item about its own lower-left corner, when no cut file of it was given. */
export function outlineDrawing(widthMm: number, heightMm: number, outline: Outline): Drawing {
  const path: DrawnPath =
    outline === 'round'
      ? {
          ...STYLE,
          start: { x: widthMm, y: heightMm / 2 },
          segments: [
            {
              kind: 'arc',
              centre: { x: widthMm / 2, y: heightMm / 2 },
              u: { x: widthMm / 2, y: 0 },
              v: { x: 0, y: heightMm / 2 },
              from: 0,
              sweep: 2 * Math.PI,
            },
          ],
          closed: true,
        }
      : {
          ...STYLE,
          start: { x: 0, y: 0 },
          segments: [{ kind: 'lines', xy: [widthMm, 0, widthMm, heightMm, 0, heightMm] }],
          closed: true,
        };
  return { paths: [path], layers: [{ name: LAYER, colour: null }], page: null, unitMm: 1 };
}

/** An item's own cut lines moved so that their bounds begin at (0, 0), turned by 90° when the run lays it so. */
export function placedItem(item: Drawing, bounds: Rect, turned: boolean): Drawing {
  const home = affineMap(
    turned
      ? { a11: 0, a12: -1, a21: 1, a22: 0, tx: bounds.y1, ty: -bounds.x0 }
      : { a11: 1, a12: 0, a21: 0, a22: 1, tx: -bounds.x0, ty: -bounds.y0 },
  );
  return { ...item, paths: item.paths.map((p) => mapPath(p, home)), page: null };
}

/**
 * The cut lines of one section: every copy in its place, corrected.
 *
 * Frame    mm; x from the printable area's left, y from the section's start (its leading mark).
 * Method   each copy is moved to its place, then taken through T⁻¹ so that it lands there.
 */
export function sectionDrawing(
  imposition: Imposition,
  section: Section,
  room: SectionRoom,
  item: Drawing,
  printableWidthMm: number,
  map: Affine | null,
  /** Lines beside the items, section frame: cut with them and corrected like them. */
  beside: readonly DrawnPath[] = [],
): Drawing {
  const correction: PlaneMap | null = map && invertMap(affineMap(map));
  const paths: DrawnPath[] = [];
  for (let copy = 0; copy < section.copies; copy += 1) {
    const row = Math.floor(copy / imposition.columns);
    const place = affineMap({
      a11: 1,
      a12: 0,
      a21: 0,
      a22: 1,
      tx: copyAtMm(imposition, section.firstRow - 1 + row, copy % imposition.columns),
      ty: room.markRoomMm + row * (imposition.itemHeightMm + imposition.gapMm),
    });
    for (const path of item.paths) {
      const placed = mapPath(path, place);
      paths.push(correction ? mapPath(placed, correction) : placed);
    }
  }
  const strip = beside.map((path) => (correction ? mapPath(path, correction) : path));
  return {
    paths: [...strip, ...paths],
    layers: [
      ...(beside.length > 0 ? [{ name: beside[0]!.layer, colour: beside[0]!.colour }] : []),
      ...item.layers,
    ],
    page: { widthMm: printableWidthMm, heightMm: section.endMm - section.startMm },
    unitMm: item.unitMm,
  };
}
