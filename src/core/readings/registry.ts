import { z } from 'zod';

import type { PassReading } from './passReading';
import { WAYS } from './ways';
import type { KeptWay, ScriptWay, ReadingBy, Way } from './way';

type SeenOf<W> = W extends { readonly kept: { readonly seen: infer S extends z.ZodType } }
  ? Readonly<z.output<S>>
  : never;

/** What was seen by one of the ways, as the log keeps it. */
export type OtherPick = SeenOf<(typeof WAYS)[number]>;

/** One axis at any place, read by one of the ways. */
export type OtherReading = ReadingBy<OtherPick>;

type SentBy<W> = W extends {
  readonly name: infer N;
  readonly kept: { readonly input: infer I extends z.ZodType };
}
  ? z.input<I> & { readonly way: N; readonly passId: string }
  : never;

/** What a page sends of a reading, by whichever way. */
export type SentOther = SentBy<(typeof WAYS)[number]>;

const ALL: readonly Way[] = WAYS;

/** Those that are read at Read. */
export const KEPT_WAYS = ALL.filter((w): w is Way & { readonly kept: KeptWay } => w.kept !== undefined);

/** Those that scripts may ask for. */
export const SCRIPT_WAYS = ALL.filter(
  (w): w is Way & { readonly script: ScriptWay } => w.script !== undefined,
);

/** What the log keeps of them, as it is read back. */
export const seenShape = z.discriminatedUnion(
  'school',
  KEPT_WAYS.map((w) => w.kept.seen) as [KeptWay['seen'], ...KeptWay['seen'][]],
) as unknown as z.ZodType<OtherPick>;

/** The way by which something was seen. Throws where there is none of that name: what is kept was checked. */
function wayOf({ school }: { readonly school: string }) {
  const found = KEPT_WAYS.find((w) => w.name === school);
  if (!found) throw new Error(`no way of reading is called ${school}`);
  return found;
}

/** How a place was read, for lists. */
export const wayWords = (seen: OtherPick): string => wayOf(seen).words;

/** A reading as everything after Read needs it. */
export function otherPassReading({
  stationId,
  axis,
  xMm,
  yMm,
  offsetMm,
  uMm,
  pick,
}: OtherReading): PassReading {
  return {
    observation: { stationId, axis, xMm, yMm, offsetMm, uMm },
    interval: wayOf(pick).kept.interval(offsetMm, uMm, pick),
    lengthMm: 0,
    coarseMm: null,
    lengthsOpen: false,
  };
}
