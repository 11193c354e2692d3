/**
 * A closed line with fewer points, none of the old ones farther than `tolerance` from it, of the same area.
 *
 * Shapes   `line` is x and y in turn, closed; at least three points.
 * Method   Ramer 1972, Douglas & Peucker 1973 between its two farthest points, to a third of the tolerance; what chords cut
 *          off is given back by moving every corner along its normal by the lost area over the length.
 */
export function simplifyClosed(line: Float64Array, tolerance: number): Float64Array {
  const n = line.length / 2;
  if (n < 4) return line;
  const kept = new Uint8Array(n);
  const [a, b] = farApart(line);
  kept[a] = kept[b] = 1;
  const limit = (tolerance / 3) ** 2;
  const open: [number, number][] = [
    [a, b],
    [b, a + n],
  ];
  // Twice round, so that no place has to be wrapped.
  const twice = new Float64Array(2 * line.length);
  twice.set(line);
  twice.set(line, line.length);
  for (let span = open.pop(); span; span = open.pop()) {
    const [from, to] = span;
    const at = farthest(twice, from, to, limit);
    if (at < 0) continue;
    kept[at % n] = 1;
    open.push([from, at], [at, to]);
  }
  const out = new Float64Array(line.length);
  let size = 0;
  for (let i = 0; i < n; i += 1)
    if (kept[i]) {
      out[size] = line[2 * i]!;
      out[size + 1] = line[2 * i + 1]!;
      size += 2;
    }
  return givenBack(out.slice(0, size), areaOf(line));
}

/** Two points far from each other: the farthest from the first, and the farthest from that. */
function farApart(line: Float64Array): [number, number] {
  const from = (k: number): number => {
    let [best, at] = [-1, 0];
    for (let i = 0; i < line.length / 2; i += 1) {
      const d = (line[2 * i]! - line[2 * k]!) ** 2 + (line[2 * i + 1]! - line[2 * k + 1]!) ** 2;
      if (d > best) [best, at] = [d, i];
    }
    return at;
  };
  const one = from(0);
  const two = from(one);
  return one < two ? [one, two] : [two, one];
}

/** The point between two others that lies farthest from their chord, farther than the root of `limit`; −1 for none. */
function farthest(line: Float64Array, from: number, to: number, limit: number): number {
  const x0 = line[2 * from]!;
  const y0 = line[2 * from + 1]!;
  const cx = line[2 * to]! - x0;
  const cy = line[2 * to + 1]! - y0;
  const length = cx * cx + cy * cy;
  let worst = limit;
  let at = -1;
  for (let i = from + 1; i < to; i += 1) {
    const x = line[2 * i]! - x0;
    const y = line[2 * i + 1]! - y0;
    let t = length === 0 ? 0 : (x * cx + y * cy) / length;
    if (t < 0) t = 0;
    else if (t > 1) t = 1;
    const dx = x - t * cx;
    const dy = y - t * cy;
    const d = dx * dx + dy * dy;
    if (d > worst) {
      worst = d;
      at = i;
    }
  }
  return at;
}

function givenBack(line: Float64Array, area: number): Float64Array {
  const n = line.length / 2;
  if (n < 3) return line;
  const by = (area - areaOf(line)) / lengthOf(line);
  const out = new Float64Array(line.length);
  for (let i = 0; i < n; i += 1) {
    const [p, q] = [2 * ((i + n - 1) % n), 2 * ((i + 1) % n)];
    const [tx, ty] = [line[q]! - line[p]!, line[q + 1]! - line[p + 1]!];
    const size = Math.hypot(tx, ty) || 1;
    // The outer side of a line that runs anticlockwise is on its right.
    out[2 * i] = line[2 * i]! + (by * ty) / size;
    out[2 * i + 1] = line[2 * i + 1]! - (by * tx) / size;
  }
  return out;
}

/** Signed: positive of a line that runs anticlockwise, y up. */
export function areaOf(line: Float64Array): number {
  let sum = 0;
  const n = line.length;
  for (let i = 0; i < n; i += 2) {
    const j = (i + 2) % n;
    sum += line[i]! * line[j + 1]! - line[j]! * line[i + 1]!;
  }
  return sum / 2;
}

function lengthOf(line: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < line.length; i += 2) {
    const j = (i + 2) % line.length;
    sum += Math.hypot(line[j]! - line[i]!, line[j + 1]! - line[i + 1]!);
  }
  return sum;
}
