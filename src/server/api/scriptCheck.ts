import { z } from 'zod';

import { checkPair, type CheckContext, type CheckedLine, type CheckedPrint } from '@/core/artwork/checks';
import { readCutFile } from '@/core/drawing/file';
import { applyAffine, type Affine } from '@/core/geometry';
import { accept } from '@/core/outcome';
import { flatten, type Drawing, type DrawnPath } from '@/core/drawing';
import { affineSchema, coordinate, rectSchema } from '@/server/base/shapes';

/* POST /api/check: the shape of its context, and a cut file as lines; shape in docs/api.md. */

const length = (what: string, least: number, most: number) =>
  z
    .number(`“${what}” must be a number, in mm.`)
    .min(least, `“${what}” is at least ${least} mm.`)
    .max(most, `“${what}” is at most ${most} mm.`);
const page = z.object(
  { widthMm: length('widthMm', 1, 60_000), heightMm: length('heightMm', 1, 60_000) },
  'A page is {"widthMm","heightMm"}.',
);
const hidden = (what: string) =>
  length(what, 0, 100)
    .nullish()
    .transform((v) => v ?? null);

export const checkContextSchema = z.object(
  {
    media: page,
    printable: rectSchema,
    cuttable: rectSchema,
    marks: z
      .array(
        z.object({
          x: coordinate,
          y: coordinate,
          sizeMm: length('sizeMm', 0.1, 200),
          clearMm: length('clearMm', 0, 500),
        }),
        '“marks” is a list of {"x","y","sizeMm","clearMm"}.',
      )
      .max(500, 'At most 500 marks.')
      .default([]),
    driverPage: page.nullish().transform((v) => v ?? null),
    cutterPage: page.nullish().transform((v) => v ?? null),
    neededMm: hidden('neededMm'),
    bleedMm: hidden('bleedMm'),
    borderMm: hidden('borderMm'),
    smallestMm: length('smallestMm', 0, 1000).default(3),
    nearestMm: length('nearestMm', 0, 50).default(1),
    /** Where the cut file lies on the sheet; its own axes are the sheet’s when it does not say. */
    map: affineSchema.nullish().transform((v) => v ?? null),
  },
  '“context” is JSON: {"media","printable","cuttable",…}.',
) satisfies z.ZodType<CheckContext>;

/** How finely curves are followed, mm; and how many places a file may have to be checked. */
const CHORD_MM = 0.05;
const MOST_PLACES = 400_000;

/** Reads a cut file and checks it with its print: for a worker thread. */
export function checkOnThread({
  text,
  print,
  context,
}: {
  readonly text: string;
  readonly print: CheckedPrint | null;
  readonly context: z.output<typeof checkContextSchema>;
}) {
  const read = readCutFile(text);
  if (!read.ok) return read;
  const { drawing } = read.value;
  const lines = linesOf(drawing, context.map);
  return lines === null ? ('too-fine' as const) : accept(checkPair(lines, drawing.page, print, context));
}

/** The lines of a cut file as they are checked; null when it has more than can be. */
function linesOf(drawing: Drawing, map: Affine | null): CheckedLine[] | null {
  let left = MOST_PLACES;
  const lines: CheckedLine[] = [];
  const kindOf = kindsIn(drawing.paths);
  for (const path of drawing.paths) {
    const xy = flatten(path, CHORD_MM);
    left -= xy.length / 2;
    if (left < 0) return null;
    const points = Array.from({ length: xy.length / 2 }, (_, i) => {
      const p = { x: xy[2 * i]!, y: xy[2 * i + 1]! };
      return map ? applyAffine(map, p) : p;
    });
    // A closed path comes with its start once more.
    if (path.closed && points.length > 1) points.pop();
    if (points.length > 1) lines.push({ points, closed: path.closed, layer: kindOf(path) });
  }
  return lines;
}

/** What tells lines of a file apart: their layers; in a file of one layer their colours, then their pens. */
function kindsIn(paths: readonly DrawnPath[]): (path: DrawnPath) => string {
  const several = (of: (p: DrawnPath) => string): boolean => new Set(paths.map(of)).size > 1;
  const byColour = (p: DrawnPath): string => p.colour ?? '';
  if (!several((p) => p.layer) && several(byColour)) return byColour;
  return ({ layer, colour, pen }) =>
    /^0?$/.test(layer.trim()) ? (colour ?? (pen === null ? '' : `pen ${pen}`)) : layer;
}
