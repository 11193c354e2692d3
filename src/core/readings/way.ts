import type { z } from 'zod';

import type { PickedInterval } from '../comb';
import type { Outcome } from '../outcome';
import type { Station } from '../proof';
import type { OffsetAxis } from '../units';

import type { ReadingDoubt, StationReading } from './station';

/** What was seen, as it is kept: by which way, and what that way needs to know again. */
export interface SeenBy {
  readonly school: string;
}

/** One axis at any place, read another way than from the sheet’s combs. */
export interface ReadingBy<Seen extends SeenBy = SeenBy> {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly xMm: number;
  readonly yMm: number;
  readonly offsetMm: number;
  readonly uMm: number;
  readonly pick: Seen;
}

/** The set that is read, as far as a way has to know it. */
export interface SetRead {
  readonly stations: readonly Station[];
  /** The one that what is given names; null where it names none. */
  readonly station: Station | null;
  /** Names under which something of the set was read. */
  readonly taken: ReadonlySet<string>;
}

/** What a way makes of what was seen. */
export interface Told<Seen extends SeenBy = SeenBy> {
  readonly read: readonly ReadingBy<Seen>[];
  readonly doubts: readonly ReadingDoubt[];
  /** Names whose earlier readings these replace; with an axis, of that one only. */
  readonly instead: readonly string[];
  readonly axis?: OffsetAxis;
}

export type WayRefusal =
  | { readonly code: 'invalid-input'; readonly fields: Readonly<Record<string, string>> }
  | { readonly code: 'not-found'; readonly what: string };

/** A refusal of a script’s question, with the field it is about. */
export interface ScriptRefusal {
  readonly code: string;
  readonly message: string;
  readonly field: string;
}

/** The shape of what was seen, as the log keeps it. */
type SeenShape = z.ZodObject<{ school: z.ZodLiteral<string> }>;

/** How a way is read at Read, beside the combs. */
export interface KeptWay<Input extends z.ZodObject = z.ZodObject, Seen extends SeenShape = SeenShape> {
  /** What is sent of one place; `stationId` names a station of the set. */
  readonly input: Input;
  /** What that says, and what it replaces. */
  tell(given: z.output<Input>, set: SetRead): Outcome<Told<Readonly<z.output<Seen>>>, WayRefusal>;
  readonly seen: Seen;
  /** Where the cut may lie, mm, and how sharply that is cut off. */
  interval(offsetMm: number, uMm: number, seen: z.output<Seen>): PickedInterval;
}

/** How a script asks for it: `POST /api/readings/<name>`. */
export interface ScriptWay<Request extends z.ZodType = z.ZodType> {
  readonly summary: string;
  readonly result: string;
  readonly request: Request;
  answer(given: z.output<Request>): Outcome<object, ScriptRefusal>;
}

/**
 * A way of reading. Everything else goes by the registry: the use case, the log’s codec, the address for scripts with its
 * description, the words on the pages; its desk is a component of its own.
 */
export interface Way {
  readonly name: string;
  /** “gaps round a shape”: how a place was read, for lists. */
  readonly words: string;
  readonly kept?: KeptWay;
  readonly script?: ScriptWay;
}

export const keptBy = <Input extends z.ZodObject, Seen extends SeenShape>(of: KeptWay<Input, Seen>) => of;
export const askedBy = <Request extends z.ZodType>(of: ScriptWay<Request>) => of;

/** The readings that a place stands for, one for each axis that was read. */
export function readingsOf<Seen extends SeenBy>(
  station: StationReading,
  seenOf: (axis: OffsetAxis) => Seen,
): ReadingBy<Seen>[] {
  return (['across', 'along'] as const).flatMap((axis) => {
    const [offsetMm, uMm] = axis === 'across' ? [station.dx, station.ux] : [station.dy, station.uy];
    if (offsetMm === null || uMm === null) return [];
    return [
      { stationId: station.id, axis, xMm: station.x, yMm: station.y, offsetMm, uMm, pick: seenOf(axis) },
    ];
  });
}

/** An interval of so much each way. */
export const about = (offsetMm: number, halfMm: number, acuityMm: number): PickedInterval => ({
  loMm: offsetMm - halfMm,
  hiMm: offsetMm + halfMm,
  acuityMm,
});

/** A name that nothing was read under yet. */
export function freeName(prefix: string, taken: ReadonlySet<string>): string {
  let n = 1;
  while (taken.has(`${prefix}${n}`)) n += 1;
  return `${prefix}${n}`;
}
