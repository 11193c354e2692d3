import { format, isValid, parse, parseISO } from 'date-fns';

/* A day in a field, as days are written everywhere: “9 Aug 2026”. Between pages it is `2026-08-09`. */

const SHOWN = 'd MMM yyyy';
/** How a day may be typed. Slashes are not among them: two readers take 5/6 for two days. */
const TYPED = [SHOWN, 'd MMMM yyyy', 'd.M.yyyy', 'yyyy-MM-dd'] as const;

/** `2026-08-09` as it stands in a field; nothing stays nothing. */
export const dayText = (day: string): string => (day === '' ? '' : format(parseISO(day), SHOWN));

/** What was typed as `2026-08-09`; null where it is no day. */
export function readDay(typed: string): string | null {
  const plain = typed.trim().replace(/\s+/g, ' ');
  for (const letters of TYPED) {
    const read = parse(plain, letters, new Date(2000, 0, 1));
    if (isValid(read) && read.getFullYear() > 999) return format(read, 'yyyy-MM-dd');
  }
  return null;
}
