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
export const dateIn = (at: Date, letters: string, zone: string): string =>
  format(at, letters, { in: tz(zone) });

/** When a day begins, `2026-03-29`, as the shop's calendar has it; so many days later, however long they are. */
export const dayStart = (day: string, later: number): Date =>
  new Date(+addDays(parseISO(day, { in: tz(cell().zone) }), later));
