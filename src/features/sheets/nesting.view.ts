import type { NestedSheets } from '@/core/layout/nest';

const sum = (counts: readonly number[]): number => counts.reduce((a, b) => a + b, 0);
const sheetsWord = (n: number): string => (n === 1 ? 'one sheet' : `${n} sheets`);

/** What a nesting would save against how pieces lie now, in a sentence; whether it saves anything. */
export function nestingWords(
  now: readonly number[],
  nested: NestedSheets,
): { readonly said: string; readonly saves: boolean } {
  const then = nested.map((s) => s.length);
  const more = sum(then) - sum(now);
  if (then.length < now.length && more >= 0)
    return {
      saves: true,
      said: `Nested, it takes ${sheetsWord(then.length)} instead of ${sheetsWord(now.length)}.`,
    };
  if (then.length === now.length && more > 0) {
    const percent = Math.round((100 * more) / sum(now));
    return {
      saves: true,
      said: `Nested, ${sheetsWord(then.length)} would hold ${sum(then)} pieces instead of ${sum(now)}: ${percent} % more from the same media.`,
    };
  }
  return { saves: false, said: 'Nested, it takes as much media as it does now: nothing is saved so far.' };
}
