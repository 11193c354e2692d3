import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';

import { evenReadings, gapReadings, otherReadings, ringReading, type OtherReading } from '@/core/calibration';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { readTable, tableRefusalText, type ReadingDoubt } from '@/core/schools';
import { OFFSET_AXES, type OffsetAxis } from '@/core/units';
import { readings } from '@/db/schema';
import { sheetStation } from '@/db/stored/sessions';
import { keep } from '@/server/base/act';
import { fieldMessages, type Actor, type Deps, type UseCaseRefusal } from '@/server/base/deps';
import { finite } from '@/server/base/shapes';

import { readingsOfPass } from './loadSession';
import { backToRead, passOf, refusalOf } from './readings';

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
export function saveGaps(
  deps: Deps,
  actor: Actor,
  raw: unknown,
  request?: string,
): Promise<Outcome<OthersKept, UseCaseRefusal>> {
  const parsed = gapsInputSchema.safeParse(raw);
  if (!parsed.success)
    return Promise.resolve(refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) }));
  const { passId, ...typed } = parsed.data;
  return keepOthers(deps, actor, passId, request, (taken) => {
    const { readings: read, doubts } = gapReadings({ id: freeName(GAP_PREFIX, taken), ...typed });
    return accept({ read, doubts, instead: [] });
  });
}

/** Keeps the gaps round a station's own shape; measured again they replace what was kept of it. */
export function saveOwnGaps(
  deps: Deps,
  actor: Actor,
  raw: unknown,
  request?: string,
): Promise<Outcome<OthersKept, UseCaseRefusal>> {
  const parsed = ownGapsSchema.safeParse(raw);
  if (!parsed.success)
    return Promise.resolve(refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) }));
  const { passId, stationId, gaps, resolutionMm } = parsed.data;
  return keepOthers(
    deps,
    actor,
    passId,
    request,
    (_, found) => {
      const shape = found ? sheetStation.read(found).gapShape : undefined;
      if (!shape) return refuse({ code: 'not-found', what: 'shape for gaps at this station' });
      const id = `${GAP_PREFIX}-${stationId}`;
      const { readings: read, doubts } = gapReadings({
        ...{ id, ...shape.centre, gaps, nominalMm: shape.borders, resolutionMm },
      });
      return accept({ read, doubts, instead: [id] });
    },
    stationId,
  );
}

/** Keeps the even ring of a row of the sheet’s own; read again it replaces what was read of that row. */
export function saveRing(
  deps: Deps,
  actor: Actor,
  raw: unknown,
  request?: string,
): Promise<Outcome<OthersKept, UseCaseRefusal>> {
  const parsed = ringInputSchema.safeParse(raw);
  if (!parsed.success)
    return Promise.resolve(refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) }));
  const { passId, stationId, axis, ring } = parsed.data;
  return keepOthers(
    deps,
    actor,
    passId,
    request,
    (_, found) => {
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
    },
    stationId,
  );
}

/** Keeps that every ring of a set is even all round, at a glance: nothing is off by more than an eye sees. */
export function saveEven(
  deps: Deps,
  actor: Actor,
  passId: unknown,
  request?: string,
): Promise<Outcome<OthersKept, UseCaseRefusal>> {
  const parsed = z.uuid().safeParse(passId);
  if (!parsed.success) return Promise.resolve(refuse({ code: 'not-found', what: 'pass' }));
  return keepOthers(deps, actor, parsed.data, request, async (_, __, inner) => {
    const pass = (await readingsOfPass(inner, parsed.data))!;
    const read = evenReadings(pass.stations);
    return accept({ read, doubts: [], instead: read.map((r) => r.stationId) });
  });
}

/** Keeps a pasted table; a row of the same name replaces what came before under it. */
export function saveTable(
  deps: Deps,
  actor: Actor,
  raw: unknown,
  request?: string,
): Promise<Outcome<OthersKept, UseCaseRefusal>> {
  const parsed = tableInputSchema.safeParse(raw);
  if (!parsed.success)
    return Promise.resolve(refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) }));
  const { passId, csv, unit } = parsed.data;
  return keepOthers(deps, actor, passId, request, () => {
    const table = readTable(csv, {}, unit);
    if (!table.ok) return refuse({ code: 'invalid-input', fields: { csv: tableRefusalText(table.refusal) } });
    const read = table.value.stations.flatMap((s) =>
      otherReadings({ ...s, id: `${TABLE_PREFIX}-${s.id}` }, () => ({ school: 'table' })),
    );
    return accept({ read, doubts: table.value.doubts, instead: read.map((r) => r.stationId) });
  });
}

interface ToKeep {
  readonly read: readonly OtherReading[];
  readonly doubts: readonly ReadingDoubt[];
  /** Names whose earlier readings these replace. */
  readonly instead: readonly string[];
  /** Of this axis only; nothing: of both. */
  readonly axis?: OffsetAxis;
}

function keepOthers(
  deps: Deps,
  actor: Actor,
  passId: string,
  request: string | undefined,
  readingsOf: (
    taken: ReadonlySet<string>,
    station: unknown,
    inner: Deps,
  ) => Outcome<ToKeep, UseCaseRefusal> | Promise<Outcome<ToKeep, UseCaseRefusal>>,
  stationId = '',
): Promise<Outcome<OthersKept, UseCaseRefusal>> {
  return keep(deps, actor, { act: 'other readings', subjectId: passId, request }, async (inner) => {
    const row = await passOf(inner, passId, stationId, null, true);
    if (!row) return refuse({ code: 'not-found', what: 'pass' });
    const refused = refusalOf(row);
    if (refused) return refuse(refused);
    const there = await inner.db
      .selectDistinct({ id: readings.stationId, sheet: sql<boolean>`jsonb_exists(${readings.pick}, 'line')` })
      .from(readings)
      .where(eq(readings.passId, passId));
    const found = await readingsOf(new Set(there.map((r) => r.id)), row.station, inner);
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
