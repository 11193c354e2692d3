/** CSS px to mm: 1 px = 1/96 in (W3C CSS Values and Units 4, 6.2). */
export const MM_PER_PX = 25.4 / 96;

const PX_PER_UNIT: Readonly<Record<string, number>> = {
  '': 1,
  px: 1,
  in: 96,
  cm: 96 / 2.54,
  mm: 96 / 25.4,
  q: 96 / 101.6,
  pt: 96 / 72,
  pc: 16,
};

/** Longer than any figure that is meant. */
const LONGEST = 64;
const LENGTH = /^([+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[+-]?\d+)?)\s*(px|in|cm|mm|q|pt|pc|%)?$/i;

/** An SVG length in user units; `percentOf` is what 100 % means. Null when it cannot be read (em, calc …). */
export function svgLength(text: string | undefined, percentOf: number, fallback: number): number | null {
  const typed = (text ?? '').trim();
  if (typed === '' || typed === 'auto') return fallback;
  const match = typed.length > LONGEST ? null : LENGTH.exec(typed);
  if (!match) return null;
  const value = Number(match[1]);
  if (!Number.isFinite(value) || Math.abs(value) > 1e9) return null;
  const unit = (match[2] ?? '').toLowerCase();
  return unit === '%' ? (value / 100) * percentOf : value * PX_PER_UNIT[unit]!;
}
