import { tz } from '@date-fns/tz';
import { addDays, format, parseISO } from 'date-fns';
import { cache } from 'react';

/** Where this server stands, until the shop says otherwise. */
export const serverZone = (): string => new Intl.DateTimeFormat().resolvedOptions().timeZone;

/** The time zone of the page that is being answered: one cell a request, so that no two answers share it. */
const cell = cache((): { zone: string } => ({ zone: serverZone() }));

/** Said once a request, before anything is written: `preferences` does it. */
export function writeDatesIn(zone: string): void {
  cell().zone = zone;
}

/** A moment as the shop's clock and calendar have it, in date-fns' letters: `d MMM yyyy, HH:mm`. */
export const dateText = (at: Date, letters: string): string => dateIn(at, letters, cell().zone);

/** The same outside a page, where nothing has said a zone. */
export function dateIn(at: Date, letters: string, zone: string): string {
  const key = `${zone}|${letters}|${+at}`;
  const known = written.get(key);
  if (known !== undefined) return known;
  const text = format(at, letters, { in: tz(zone) });
  if (written.size >= MOST_WRITTEN) written.clear();
  written.set(key, text);
  return text;
}

/** A zone's rules cost a sixth of a millisecond a date, and pages show the same few hundred over and over. */
const written = new Map<string, string>();
const MOST_WRITTEN = 20_000;

/** When a day begins, `2026-03-29`, as the shop's calendar has it; so many days later, however long they are. */
export const dayStart = (day: string, later: number): Date =>
  new Date(+addDays(parseISO(day, { in: tz(cell().zone) }), later));
