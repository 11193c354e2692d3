import { EXACT_FIT_GUARD_MM } from '@/core/tolerance';
import { z } from 'zod';

import type { Rect } from '@/core/geometry';
import { MOST_PIECES, planSheet, type Placement } from '@/core/layout/sheet';
import { clearZone, drawnSizeMm, markOutline, markPlaces, type MarkKit } from '@/core/marks';
import { coordinate, rectSchema } from '@/server/base/shapes';
import { markKitSchema } from '@/core/setup/kitShapes';

/* POST /api/plan/sheet; shape in docs/api.md. */

const side = (what: string) =>
  z
    .number(`“${what}” must be a number, in mm.`)
    .min(0.5, `“${what}” is at least 0.5 mm.`)
    .max(60_000, `“${what}” is at most 60 m.`);

const itemSchema = z
  .object({
    id: z.string('“id” is a text.').min(1, 'An “id” cannot be empty.').max(64, 'An “id” is at most 64 long.'),
    widthMm: side('widthMm'),
    heightMm: side('heightMm'),
    copies: z
      .int('“copies” is a whole number.')
      .min(1, '“copies” is at least 1.')
      .max(MOST_PIECES, `At most ${MOST_PIECES} copies.`)
      .optional(),
    fill: z.literal(true, '“fill” is true, or left out.').optional(),
    mayTurn: z.boolean('“mayTurn” is true or false.').default(true),
    outline: z
      .array(z.tuple([coordinate, coordinate]))
      .max(20_000, 'At most 20 000 points.')
      .optional(),
  })
  .refine((i) => (i.copies === undefined) !== (i.fill === undefined), {
    path: ['copies'],
    message: 'Give “copies”, or “fill”: true, one of them.',
  });

export const sheetRequestSchema = z
  .object({
    media: z.object(
      { widthMm: side('widthMm'), heightMm: side('heightMm') },
      '“media” is {"widthMm","heightMm"}.',
    ),
    printable: rectSchema,
    cuttable: rectSchema.optional(),
    marks: markKitSchema.optional(),
    items: z
      .array(itemSchema, '“items” is a list.')
      .min(1, 'Give at least one item.')
      .max(200, 'At most 200 items.'),
    gapMm: z
      .number('“gapMm” must be a number, in mm.')
      .min(0, 'A gap cannot be negative.')
      .max(1000, 'At most 1 m.'),
    centre: z.boolean('“centre” is true or false.').default(false),
  })
  .superRefine(({ items, media, printable, cuttable }, context) => {
    const seen = new Set<string>();
    items.forEach(({ id }, i) => {
      if (seen.has(id))
        context.addIssue({ code: 'custom', path: ['items', i, 'id'], message: `Item ${id} occurs twice.` });
      seen.add(id);
    });
    const copies = items.reduce((sum, i) => sum + (i.copies ?? 0), 0);
    if (copies > MOST_PIECES)
      context.addIssue({ code: 'custom', path: ['items'], message: `At most ${MOST_PIECES} copies in all.` });
    const onMedia = (r: Rect): boolean =>
      r.x0 >= -EXACT_FIT_GUARD_MM &&
      r.y0 >= -EXACT_FIT_GUARD_MM &&
      r.x1 <= media.widthMm + EXACT_FIT_GUARD_MM &&
      r.y1 <= media.heightMm + EXACT_FIT_GUARD_MM;
    if (!onMedia(printable))
      context.addIssue({
        code: 'custom',
        path: ['printable'],
        message: 'The printable area reaches beyond the media.',
      });
    if (
      cuttable &&
      (cuttable.x1 <= printable.x0 ||
        cuttable.x0 >= printable.x1 ||
        cuttable.y1 <= printable.y0 ||
        cuttable.y0 >= printable.y1)
    )
      context.addIssue({
        code: 'custom',
        path: ['cuttable'],
        message: 'What can be cut and what can be printed have nothing in common.',
      });
  });

interface SheetFinding {
  readonly code: string;
  readonly severity: 'stop' | 'look';
  readonly where: Rect | null;
  readonly message: string;
}

export function sheetForScript({
  media,
  printable,
  cuttable,
  marks: kit,
  items,
  gapMm,
  centre,
}: z.output<typeof sheetRequestSchema>) {
  const sheet = { sheetWidthMm: media.widthMm, sheetHeightMm: media.heightMm };
  // Where another program lays the marks ours prints none, and keeps their zones free all the same.
  const marks = kit ? marksOf(kit, sheet) : [];
  const usable = {
    x0: Math.max(printable.x0, cuttable?.x0 ?? printable.x0),
    y0: Math.max(printable.y0, cuttable?.y0 ?? printable.y0),
    x1: Math.min(printable.x1, cuttable?.x1 ?? printable.x1),
    y1: Math.min(printable.y1, cuttable?.y1 ?? printable.y1),
  };
  const { sheets, tooLarge } = planSheet({
    ...{ usable, gapMm, centre },
    zones: marks.map((m) => m.clear),
    items: items.map(({ copies = null, ...i }) => ({ ...i, copies })),
  });
  const findings: SheetFinding[] = [
    ...tooLarge.map((id) => ({
      ...{ code: 'too-large', severity: 'stop' as const, where: null },
      message: `${id} goes on no sheet: what may be printed and cut is ${round(usable.x1 - usable.x0)} × ${round(usable.y1 - usable.y0)} mm, less the clear zones of the marks.`,
    })),
    ...marks
      .filter((m) => !within(m.outline, printable))
      .map((m) => ({
        ...{ code: 'marks-clipped', severity: 'stop' as const, where: m.outline },
        message: `The mark at ${round(m.x)}, ${round(m.y)} mm reaches beyond what the printer prints: set it farther in.`,
      })),
  ];
  const area = (list: readonly Placement[]): number =>
    list.reduce((sum, p) => sum + p.widthMm * p.heightMm, 0);
  return {
    sheets: sheets.map((placements) => ({
      placements,
      marks: marks.map(({ x, y, sizeMm, clear }) => ({ x, y, sizeMm, clear })),
    })),
    perSheet: Math.max(0, ...sheets.map((s) => s.length)),
    wasteShare:
      sheets.length === 0 ? 1 : 1 - area(sheets.flat()) / (sheets.length * media.widthMm * media.heightMm),
    findings,
  };
}

const marksOf = (kit: MarkKit, sheet: Parameters<typeof markPlaces>[1]) =>
  markPlaces(kit, sheet).map((place) => ({
    ...{ x: place.centre.x, y: place.centre.y, sizeMm: drawnSizeMm(kit, place) },
    ...{ clear: clearZone(kit, place), outline: markOutline(kit, place) },
  }));

const within = (inner: Rect, outer: Rect): boolean =>
  inner.x0 >= outer.x0 - EXACT_FIT_GUARD_MM &&
  inner.y0 >= outer.y0 - EXACT_FIT_GUARD_MM &&
  inner.x1 <= outer.x1 + EXACT_FIT_GUARD_MM &&
  inner.y1 <= outer.y1 + EXACT_FIT_GUARD_MM;

const round = (mm: number): string => String(Math.round(100 * mm) / 100);
