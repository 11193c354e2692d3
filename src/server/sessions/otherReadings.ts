import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';

import { evenReadings, gapReadings, otherReadings, ringReading, type OtherReading } from '@/core/calibration';
import { accept, refuse } from '@/core/outcome';
import { readTable, tableRefusalText, type ReadingDoubt } from '@/core/schools';
import { OFFSET_AXES, type OffsetAxis } from '@/core/units';
import { readings } from '@/db/schema';
import { sheetStation } from '@/db/stored/sessions';
import { type Deps, type Done } from '@/server/base/deps';
import { finite, idSchema } from '@/server/base/shapes';

import { readingsOfPass } from './loadSession';
import { backToRead, passStep } from './readings';

/* Readings that are no combs: gaps round any shape, and tables. Each is kept at its own place beside the sheet’s stations. */

/** So many places in one session are read by hand; longer tables go to the address for scripts. */
const MOST_PLACES = 400;
/** Names of other places, apart from those of the sheet’s stations. */
export const GAP_PREFIX = 'G';
export const TABLE_PREFIX = 'T';
export const RING_PREFIX = 'R';

const gap = finite
  .min(-50, 'A gap is at most 50 mm; beyond that the cut missed the shape.')
  .max(50, 'A gap is at most 50 mm; beyond that the cut missed the shape.')
  .nullable();
const place = finite.min(-1000, 'That place is off the sheet.').max(60_000, 'That place is off the sheet.');

const allGaps = z.object({ left: gap, right: gap, near: gap, far: gap });
const ruler = finite
  .min(0.005, 'A ruler is read to at least 0.005 mm.')
  .max(2, 'A ruler is read to 2 mm at most.');
const twoOfAnAxis = ({ gaps: g }: { readonly gaps: z.output<typeof allGaps> }): boolean =>
  (g.left !== null && g.right !== null) || (g.near !== null && g.far !== null);
const SAY_BOTH = {
  path: ['gaps'],
  message: 'Measure both gaps of an axis: left and right, or near and far.',
};

const gapsInputSchema = z
  .object({
    passId: z.uuid(),
    x: place,
    y: place,
    gaps: allGaps,
    nominalMm: finite.min(-50, 'At most 50 mm.').max(50, 'At most 50 mm.'),
    resolutionMm: ruler,
  })
  .refine(twoOfAnAxis, SAY_BOTH);

/** Gaps round a shape of the sheet's own: where it is and what its borders should be the sheet knows. */
const ownGapsSchema = z
  .object({ passId: z.uuid(), stationId: z.string().min(1).max(8), gaps: allGaps, resolutionMm: ruler })
  .refine(twoOfAnAxis, SAY_BOTH);

const tableInputSchema = z.object({
  passId: z.uuid(),
  csv: z.string().max(200_000, 'At most 200 kB; longer tables go to the address for scripts.'),
  unit: z.enum(['mm', 'in']),
});

const ringInputSchema = z.object({
  passId: z.uuid(),
  stationId: z.string().min(1).max(8),
  axis: z.enum(OFFSET_AXES),
  /** Counted from the middle ring, in the order of the labels; a half: between two. */
  ring: finite.multipleOf(0.5, 'A ring, or half-way between two.'),
});

export interface OthersKept {
  readonly changes: number;
  readonly kept: number;
  readonly doubts: readonly ReadingDoubt[];
}

/** Keeps the gaps round one shape as a reading of their own. */
export const saveGaps = otherStep(gapsInputSchema, async (typed, taken) => {
  const { readings: read, doubts } = gapReadings({ ...typed, id: freeName(GAP_PREFIX, taken) });
  return accept({ read, doubts, instead: [] });
});

/** Keeps the gaps round a station's own shape; measured again they replace what was kept of it. */
export const saveOwnGaps = otherStep(ownGapsSchema, async ({ stationId, gaps, resolutionMm }, _, found) => {
  const shape = found ? sheetStation.read(found).gapShape : undefined;
  if (!shape) return refuse({ code: 'not-found', what: 'shape for gaps at this station' });
  const id = `${GAP_PREFIX}-${stationId}`;
  const { readings: read, doubts } = gapReadings({
    ...{ id, ...shape.centre, gaps, nominalMm: shape.borders, resolutionMm },
  });
  return accept({ read, doubts, instead: [id] });
});

/** Keeps the even ring of a row of the sheet’s own; read again it replaces what was read of that row. */
export const saveRing = otherStep(ringInputSchema, async ({ stationId, axis, ring }, _, found) => {
  const row = found ? sheetStation.read(found).rings?.find((r) => r.axis === axis) : undefined;
  if (!row) return refuse({ code: 'not-found', what: 'row of rings' });
  if (Math.abs(ring) > row.half)
    return refuse({
      code: 'invalid-input',
      fields: { ring: `This row has ${2 * row.half + 1} rings: choose one of them.` },
    });
  const name = `${RING_PREFIX}-${stationId}`;
  const { readings: read, doubts } = ringReading(name, row, ring);
  return accept({ read, doubts, instead: [name], axis });
});

/** Keeps that every ring of a set is even all round, at a glance: nothing is off by more than an eye sees. */
export const saveEven = otherStep(z.object({ passId: idSchema }), async ({ passId }, _, __, inner) => {
  const read = evenReadings((await readingsOfPass(inner, passId))!.stations);
  return accept({ read, doubts: [], instead: read.map((r) => r.stationId) });
});

/** Keeps a pasted table; a row of the same name replaces what came before under it. */
export const saveTable = otherStep(tableInputSchema, async ({ csv, unit }) => {
  const table = readTable(csv, {}, unit);
  if (!table.ok) return refuse({ code: 'invalid-input', fields: { csv: tableRefusalText(table.refusal) } });
  const read = table.value.stations.flatMap((s) =>
    otherReadings({ ...s, id: `${TABLE_PREFIX}-${s.id}` }, () => ({ school: 'table' })),
  );
  return accept({ read, doubts: table.value.doubts, instead: read.map((r) => r.stationId) });
});

interface ToKeep {
  readonly read: readonly OtherReading[];
  readonly doubts: readonly ReadingDoubt[];
  /** Names whose earlier readings these replace. */
  readonly instead: readonly string[];
  /** Of this axis only; nothing: of both. */
  readonly axis?: OffsetAxis;
}

/** Readings of a pass that are no combs, kept each at its own place. */
function otherStep<S extends z.ZodType<{ readonly passId: string; readonly stationId?: string }>>(
  schema: S,
  readingsOf: (given: z.output<S>, taken: ReadonlySet<string>, station: unknown, inner: Deps) => Done<ToKeep>,
) {
  return passStep(schema, 'other readings', async (inner, row, given, actor): Done<OthersKept> => {
    const { passId } = given;
    const there = await inner.db
      .selectDistinct({ id: readings.stationId, sheet: sql<boolean>`jsonb_exists(${readings.pick}, 'line')` })
      .from(readings)
      .where(eq(readings.passId, passId));
    const found = await readingsOf(given, new Set(there.map((r) => r.id)), row.station, inner);
    if (!found.ok) return found;
    const { read, doubts, instead, axis } = found.value;
    const places = new Set([
      ...there.filter((r) => !r.sheet).map((r) => r.id),
      ...read.map((r) => r.stationId),
    ]);
    if (read.length === 0)
      return refuse({
        code: 'invalid-input',
        fields: { csv: doubts[0]?.message ?? 'No row holds an offset.' },
      });
    if (places.size > MOST_PLACES)
      return refuse({
        code: 'invalid-input',
        fields: {
          csv: `At most ${MOST_PLACES} places in a session; send longer tables to the address for scripts.`,
        },
      });
    const at = inner.now();
    const { changes } = await backToRead(inner, row);
    if (instead.length > 0)
      await inner.db
        .update(readings)
        .set({ replacedAt: at })
        .where(
          and(
            eq(readings.passId, passId),
            inArray(readings.stationId, [...instead]),
            axis && eq(readings.axis, axis),
            isNull(readings.replacedAt),
          ),
        );
    await inner.db
      .insert(readings)
      .values(read.map((r) => ({ passId, ...r, coarseMm: null, enteredBy: actor, enteredAt: at })));
    return accept({ changes, kept: new Set(read.map((r) => r.stationId)).size, doubts });
  });
}

function freeName(prefix: string, taken: ReadonlySet<string>): string {
  let n = 1;
  while (taken.has(`${prefix}${n}`)) n += 1;
  return `${prefix}${n}`;
}
