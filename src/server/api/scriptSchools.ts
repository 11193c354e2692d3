import { z } from 'zod';

import { placementFrom, placementRefusalText } from '@/core/placement';
import {
  lengthsRefusalText,
  readGaps,
  readLengths,
  readRings,
  readTable,
  tableRefusalText,
} from '@/core/schools';
import { coordinate, rectSchema } from '@/server/base/shapes';
import { apiError } from '@/server/base/apiError';

import { stationIdSchema, stationsSchema } from './stationShapes';

/** The smallest length that a script may give. */
const LEAST_MM = 1e-6;

/* POST /api/readings/…, /api/registration: every school of reading for scripts; shapes in docs/api.md. */

const place = { id: stationIdSchema, x: coordinate, y: coordinate };

/** A standard uncertainty, a step or a resolution, mm. */
const above0 = (what: string) =>
  z
    .number(`${what} must be a number, in mm.`)
    .min(LEAST_MM, `${what} must be more than 0.`)
    .max(1000, `${what} is at most 1 m.`);

export const ringsRequestSchema = z.object({
  stations: stationsSchema(
    z.object({
      ...place,
      rows: z
        .array(
          z.object({
            axis: z.enum(['across', 'along'], '“axis” is “across” or “along”.'),
            stepMm: above0('“stepMm”'),
            phaseMm: coordinate,
            acuityMm: z.number().min(0, '“acuityMm” cannot be negative.').max(1000).optional(),
            pick: z.object({
              ring: z
                .number('“ring” is the number of the even ring.')
                .int('“ring” is a whole number.')
                .min(-1e4)
                .max(1e4),
              between: z.boolean('“between” is true or false.').default(false),
            }),
          }),
          '“rows” is a list of {"axis","stepMm","phaseMm","pick"}.',
        )
        .min(1, 'A station needs at least one row.')
        .max(50, 'At most 50 rows at a station.'),
    }),
    '{"id","x","y","rows"}',
  ),
});

const gap = coordinate.nullable().default(null);
const gapsSchema = z.object({ left: gap, right: gap, near: gap, far: gap });

export const gapsRequestSchema = z.object({
  stations: stationsSchema(
    z
      .object({
        ...place,
        gaps: gapsSchema,
        nominal: gapsSchema.optional(),
        resolutionMm: above0('“resolutionMm”'),
      })
      .refine(
        ({ gaps: g }) => (g.left !== null && g.right !== null) || (g.near !== null && g.far !== null),
        'A station needs both gaps of an axis: left and right, or near and far.',
      ),
    '{"id","x","y","gaps","resolutionMm"}',
  ),
});

const column = z.string().min(1).max(200).optional();

export const tableRequestSchema = z.object({
  csv: z
    .string('“csv” is the table as text.')
    .min(1, '“csv” is empty.')
    .max(6_000_000, '“csv” is at most 6 MB.'),
  columns: z
    .strictObject(
      { x: column, y: column, dx: column, dy: column, u: column, id: column },
      '“columns” names x, y, dx, dy, u or id.',
    )
    .default({}),
  unit: z.enum(['mm', 'in'], '“unit” is “mm” or “in”.').default('mm'),
});

const lengthsSchema = z
  .array(
    z.object({
      from: stationIdSchema,
      to: stationIdSchema,
      lengthMm: above0('“lengthMm”').max(1e6, 'At most 1 km.'),
      u: above0('“u”'),
    }),
    'A list of {"from","to","lengthMm","u"}.',
  )
  .min(1, 'Give at least one length.')
  .max(5000, 'At most 5000 lengths.');

export const lengthsRequestSchema = z.object({
  features: z
    .array(z.object(place), '“features” is a list of {"id","x","y"}.')
    .min(2, 'Give at least two features.')
    .max(2000, 'At most 2000 features.'),
  cut: lengthsSchema,
  print: lengthsSchema.optional(),
});

const places = (what: string) =>
  z
    .array(z.object({ x: coordinate, y: coordinate }), `“${what}” is a list of {"x","y"}.`)
    .min(1, `“${what}” is empty: give at least one.`)
    .max(1000, 'At most 1000 marks.');

export const registrationRequestSchema = z
  .object({
    marks: places('marks'),
    driven: places('driven'),
    u: above0('“u”').optional(),
    art: rectSchema.optional(),
    cuttable: rectSchema.optional(),
  })
  .superRefine(({ marks, driven }, context) => {
    if (marks.length !== driven.length)
      context.addIssue({
        code: 'custom',
        path: ['driven'],
        message: `${marks.length} marks and ${driven.length} places: give one place for each mark, in their order.`,
      });
  });

export const ringsForScript = ({ stations }: z.output<typeof ringsRequestSchema>) => readRings(stations);

export const gapsForScript = ({ stations }: z.output<typeof gapsRequestSchema>) => readGaps(stations);

export function tableForScript({ csv, columns, unit }: z.output<typeof tableRequestSchema>) {
  const read = readTable(csv, columns, unit);
  return read.ok ? read.value : apiError(422, read.refusal.code, tableRefusalText(read.refusal), 'csv');
}

export function lengthsForScript({ features, cut, print }: z.output<typeof lengthsRequestSchema>) {
  const read = readLengths(features, cut, print ?? null);
  return read.ok ? read.value : apiError(422, read.refusal.code, lengthsRefusalText(read.refusal), 'cut');
}

export function registrationForScript(request: z.output<typeof registrationRequestSchema>) {
  const { marks, driven, u, art, cuttable } = request;
  const found = placementFrom(marks, driven, { uMm: u, art, cuttable });
  return found.ok
    ? found.value
    : apiError(422, found.refusal.code, placementRefusalText(found.refusal), 'driven');
}
