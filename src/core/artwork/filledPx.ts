import type { Point } from '../geometry';

/** Pixels whose middle lies in closed lines, by nesting. */
export function filledPx(lines: readonly (readonly Point[])[], width: number, height: number): Uint8Array {
  const crossings: number[][] = Array.from({ length: height }, () => []);
  for (const line of lines)
    line.forEach((a, i) => {
      const b = line[(i + 1) % line.length]!;
      if (a.y === b.y) return;
      const [low, high] = a.y < b.y ? [a, b] : [b, a];
      const first = Math.max(0, Math.ceil(low.y - 0.5));
      for (let row = first; row < height && row + 0.5 < high.y; row += 1)
        crossings[row]!.push(low.x + ((row + 0.5 - low.y) / (high.y - low.y)) * (high.x - low.x));
    });
  const inside = new Uint8Array(width * height);
  crossings.forEach((xs, row) => {
    xs.sort((a, b) => a - b);
    for (let k = 0; k + 1 < xs.length; k += 2)
      for (let x = Math.max(0, Math.ceil(xs[k]! - 0.5)); x < width && x + 0.5 < xs[k + 1]!; x += 1)
        inside[row * width + x] = 1;
  });
  return inside;
}
