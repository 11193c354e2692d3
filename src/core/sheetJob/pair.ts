import type { Affine, Point, Rect } from '../geometry';
import { nestingHolds } from '../layout/nest';
import { planSheet, type SheetLayout } from '../layout/sheet';
import { clearZone, markPlaces } from '../marks';
import { accept, refuse, type Outcome } from '../outcome';
import { JobGeometry, JobLayout, JobPiece, JobSheet, PlacedPiece } from './job';

import { nestedPlace, nestJobOf } from './nested';
import { witnessPlace } from './witness';

/* A sheet job: pieces of artwork with their cut lines, laid out by rule, and the pair of print and cut file made of them. */

/** From 2 on what runs round is cut in curves (`jobDrawing.ts`). */
export const PAIR_VERSION = 'pair-2';

/** Room for the job's number and its code, mm; it may stand upright. */
export const LABEL = { widthMm: 40, heightMm: 9, codeMm: 8.6 } as const;

export type PairRefusal =
  | { readonly code: 'no-room'; readonly widthMm: number; readonly heightMm: number; readonly room: Rect }
  | { readonly code: 'no-line' }
  | { readonly code: 'no-copies' }
  | { readonly code: 'no-label' }
  | { readonly code: 'nested-off' }
  | { readonly code: 'nudged-off'; readonly sheet: number; readonly index: number };

/** How much room a piece takes: its lines with their bleed, its second line, and its ink. */
export function boxOf({
  lines,
  ink,
  bleedMm,
  second,
}: Pick<JobPiece, 'lines' | 'ink' | 'bleedMm' | 'second'>): Rect {
  const of = (paths: readonly (readonly Point[])[], by: number): Rect[] =>
    paths.map((points) => {
      const box = { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity };
      for (const p of points) {
        box.x0 = Math.min(box.x0, p.x - by);
        box.y0 = Math.min(box.y0, p.y - by);
        box.x1 = Math.max(box.x1, p.x + by);
        box.y1 = Math.max(box.y1, p.y + by);
      }
      return box;
    });
  const all = [
    ...of(
      lines.map((l) => l.points),
      Math.max(0, bleedMm),
    ),
    ...of(second?.lines.map((l) => l.points) ?? [], 0),
    ...of(ink, 0),
  ];
  return all.reduce((a, b) => ({
    x0: Math.min(a.x0, b.x0),
    y0: Math.min(a.y0, b.y0),
    x1: Math.max(a.x1, b.x1),
    y1: Math.max(a.y1, b.y1),
  }));
}

/**
 * Lays pieces out on the sheets of a setup, clear of its marks and of the job's own label.
 * Refuses  no-line (nothing to cut), no-copies (every piece is left out), no-label (no corner is free for number and code),
 *          no-room (a piece is larger than what is free), nudged-off (a piece was put over a mark, the label or the edge).
 */
export function layOutJob(
  pieces: readonly JobPiece[],
  layout: JobLayout,
  sheet: JobSheet,
): Outcome<JobGeometry, PairRefusal> {
  if (pieces.length === 0 || pieces.some((p) => p.lines.length === 0)) return refuse({ code: 'no-line' });
  const marks = sheet.marks ? markPlaces(sheet.marks, sheet).map((m) => clearZone(sheet.marks!, m)) : [];
  const wanted = pieces.filter((p) => p.copies !== 0);
  if (wanted.length === 0) return refuse({ code: 'no-copies' });
  const boxes = new Map(pieces.map((p) => [p.id, boxOf(p)]));
  const items = wanted.map((p) => {
    const box = boxes.get(p.id)!;
    return {
      id: p.id,
      ...{ widthMm: box.x1 - box.x0, heightMm: box.y1 - box.y0 },
      ...{ copies: p.copies, mayTurn: layout.mayTurn },
    };
  });
  // The label stands where it costs the fewest pieces.
  const ways = labelPlaces(sheet.area, marks).map((label) => ({
    label,
    plan: planSheet({
      ...{ usable: sheet.area, zones: [...marks, label], items },
      ...{ gapMm: layout.gapMm, centre: layout.centre },
    }),
  }));
  if (ways.length === 0) return refuse({ code: 'no-label' });
  const { label, plan } = ways.reduce((a, b) => (costsLess(b.plan, a.plan) ? b : a));
  const { sheets, tooLarge } = plan;
  const large = boxes.get(tooLarge[0] ?? '');
  if (large)
    return refuse({
      code: 'no-room',
      ...{ widthMm: large.x1 - large.x0, heightMm: large.y1 - large.y0, room: sheet.area },
    });
  if (layout.nested && !nestingHolds(nestJobOf(wanted, layout, sheet, label), layout.nested))
    return refuse({ code: 'nested-off' });
  const laid = layout.nested
    ? layout.nested.map((list) => list.map((p) => nestedPlace(p, boxes.get(p.item)!)))
    : sheets.map((list) =>
        list.map((p): PlacedPiece => {
          const at = { x0: p.x, y0: p.y, x1: p.x + p.widthMm, y1: p.y + p.heightMm };
          return { piece: p.item, map: placing(boxes.get(p.item)!, p, p.turnDeg), box: at };
        }),
      );
  const placed = laid.map((list, s) =>
    list.map((p, index) => {
      const by = layout.nudged?.find((n) => n.sheet === s && n.index === index);
      return by ? shifted(p, by.dxMm, by.dyMm) : p;
    }),
  );
  const off = (layout.nudged ?? []).find(({ sheet: s, index }) => {
    const box = placed[s]?.[index]?.box;
    return box && !(inside(box, sheet.area) && ![...marks, label].some((z) => meets(box, z)));
  });
  if (off) return refuse({ code: 'nudged-off', sheet: off.sheet, index: off.index });
  const witness = layout.witness
    ? placed.map((list) => witnessPlace(sheet.area, [...marks, label, ...list.map((p) => p.box)]))
    : undefined;
  return accept({
    version: PAIR_VERSION,
    sheet,
    layout,
    pieces,
    label,
    sheets: placed,
    ...(witness && { witness }),
  });
}

/** What puts the lower-left corner of a box, turned or not, to a place. */
const placing = (box: Rect, to: Point, turnDeg: 0 | 90): Affine =>
  turnDeg === 0
    ? { a11: 1, a12: 0, a21: 0, a22: 1, tx: to.x - box.x0, ty: to.y - box.y0 }
    : { a11: 0, a12: -1, a21: 1, a22: 0, tx: to.x + box.y1, ty: to.y - box.x0 };

const shifted = ({ piece, map, box }: PlacedPiece, dx: number, dy: number): PlacedPiece => ({
  piece,
  map: { ...map, tx: map.tx + dx, ty: map.ty + dy },
  box: { x0: box.x0 + dx, y0: box.y0 + dy, x1: box.x1 + dx, y1: box.y1 + dy },
});

/** Fewer sheets; of as many, more on the first. */
const costsLess = (a: SheetLayout, b: SheetLayout): boolean =>
  a.tooLarge.length - b.tooLarge.length < 0 ||
  (a.tooLarge.length === b.tooLarge.length &&
    (a.sheets.length < b.sheets.length ||
      (a.sheets.length === b.sheets.length && (a.sheets[0]?.length ?? 0) > (b.sheets[0]?.length ?? 0))));

/** Corners and middles of sides that no mark needs, lying or upright; near you first. */
export function labelPlaces(area: Rect, zones: readonly Rect[]): Rect[] {
  const sizes = [
    [LABEL.widthMm, LABEL.heightMm],
    [LABEL.heightMm, LABEL.widthMm],
  ] as const;
  const places = sizes.flatMap(([w, h]) => {
    const xs = [area.x0, area.x1 - w, (area.x0 + area.x1 - w) / 2];
    const ys = [area.y0, area.y1 - h, (area.y0 + area.y1 - h) / 2];
    return ys.flatMap((y0, row) =>
      xs.flatMap((x0, column) => (row === 2 && column === 2 ? [] : [{ x0, y0, x1: x0 + w, y1: y0 + h }])),
    );
  });
  return places.filter((r) => inside(r, area) && !zones.some((z) => meets(r, z)));
}

/** As near as this is not over it, mm. */
const TOUCH_MM = 1e-6;
const meets = (a: Rect, b: Rect): boolean =>
  a.x0 < b.x1 - TOUCH_MM && b.x0 < a.x1 - TOUCH_MM && a.y0 < b.y1 - TOUCH_MM && b.y0 < a.y1 - TOUCH_MM;
const inside = (r: Rect, area: Rect): boolean =>
  r.x0 >= area.x0 - TOUCH_MM &&
  r.x1 <= area.x1 + TOUCH_MM &&
  r.y0 >= area.y0 - TOUCH_MM &&
  r.y1 <= area.y1 + TOUCH_MM;

/** What is wrong and what would be right; lengths in mm. */
export function pairRefusalText(refusal: PairRefusal): string {
  const mm = (v: number): string => (Math.round(10 * v) / 10).toString();
  switch (refusal.code) {
    case 'no-line':
      return 'There is nothing to cut: the border goes farther in than the shape is wide.';
    case 'no-copies':
      return 'Every piece is left out: say how many copies of at least one of them, or nothing to fill the sheet.';
    case 'nested-off':
      return 'This nesting is not one of this job any more: nest it again.';
    case 'nudged-off':
      return `Piece ${refusal.index + 1} of sheet ${refusal.sheet + 1} would lie over a mark, over the job’s label, or beyond what may be printed and cut. Move it less far.`;
    case 'no-label':
      return `The sheet has no free corner of ${LABEL.widthMm} × ${LABEL.heightMm} mm for the job’s number and code. Set the marks closer to the edge, or take a larger sheet.`;
    case 'no-room':
      return `One piece needs ${mm(refusal.widthMm)} × ${mm(refusal.heightMm)} mm, bleed included; what may be printed and cut is ${mm(refusal.room.x1 - refusal.room.x0)} × ${mm(refusal.room.y1 - refusal.room.y0)} mm, less what the marks need. Make it smaller or take a larger sheet.`;
    default:
      return refusal satisfies never;
  }
}
