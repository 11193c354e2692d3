/**
 * Which points of a long record are drawn so that its picture stays what it was: of every part of the axis the first,
 * the last, the lowest and the highest, and one signal if there is any.
 *
 * @param at      places along the axis, ascending, any unit
 * @param values  what is drawn; a point is kept for each of them
 * @param parts   how many parts the axis is divided into
 * Returns        indices, ascending; all of them where there are few
 */
export function thinned(
  at: readonly number[],
  values: readonly (readonly (number | null)[])[],
  signal: readonly boolean[],
  parts: number,
): number[] {
  if (at.length <= 2 * parts) return at.map((_, i) => i);
  const [first, span] = [at[0]!, at.at(-1)! - at[0]!];
  const kept = new Set<number>();
  let from = 0;
  while (from < at.length) {
    const part = partOf(at[from]!, first, span, parts);
    let to = from + 1;
    while (to < at.length && partOf(at[to]!, first, span, parts) === part) to += 1;
    kept.add(from).add(to - 1);
    for (const column of values) for (const i of lowestAndHighest(column, from, to)) kept.add(i);
    const told = signal.indexOf(true, from);
    if (told >= 0 && told < to) kept.add(told);
    from = to;
  }
  return [...kept].sort((a, b) => a - b);
}

const partOf = (at: number, first: number, span: number, parts: number): number =>
  span > 0 ? Math.min(parts - 1, Math.floor(((at - first) / span) * parts)) : 0;

function lowestAndHighest(column: readonly (number | null)[], from: number, to: number): number[] {
  let [low, high] = [-1, -1];
  for (let i = from; i < to; i += 1) {
    const v = column[i] ?? null;
    if (v === null) continue;
    if (low < 0 || v < column[low]!) low = i;
    if (high < 0 || v > column[high]!) high = i;
  }
  return low < 0 ? [] : [low, high];
}
