/**
 * Minimises a smooth function of a few variables without derivatives.
 *
 * Method   Nelder & Mead 1965 with the usual 1, 2, ½, ½; stops when the simplex’s values agree within `within`.
 */
export function nelderMead(
  f: (x: readonly number[]) => number,
  start: readonly number[],
  size = 1,
  within = 1e-7,
  mostSteps = 220,
): { readonly x: readonly number[]; readonly value: number } {
  const n = start.length;
  if (n === 0) return { x: [], value: f([]) };
  let simplex = [start, ...start.map((_, i) => start.map((v, j) => (i === j ? v + size : v)))].map((x) => ({
    x,
    value: f(x),
  }));
  for (let step = 0; step < mostSteps; step += 1) {
    simplex.sort((a, b) => a.value - b.value);
    const best = simplex[0]!;
    const worst = simplex[n]!;
    if (worst.value - best.value <= within) break;
    const middle = start.map((_, j) => simplex.slice(0, n).reduce((sum, s) => sum + s.x[j]!, 0) / n);
    const tried = (share: number): { x: readonly number[]; value: number } => {
      const x = middle.map((m, j) => m + share * (worst.x[j]! - m));
      return { x, value: f(x) };
    };
    const mirrored = tried(-1);
    let next = mirrored;
    if (mirrored.value < best.value) {
      const stretched = tried(-2);
      if (stretched.value < mirrored.value) next = stretched;
    } else if (mirrored.value >= simplex[n - 1]!.value) {
      next = tried(mirrored.value < worst.value ? -0.5 : 0.5);
    }
    if (next.value < Math.min(worst.value, mirrored.value + Number.EPSILON) || next === mirrored)
      simplex[n] = next;
    else
      simplex = simplex.map((s, i) => {
        if (i === 0) return s;
        const x = s.x.map((v, j) => (v + best.x[j]!) / 2);
        return { x, value: f(x) };
      });
  }
  simplex.sort((a, b) => a.value - b.value);
  return simplex[0]!;
}
