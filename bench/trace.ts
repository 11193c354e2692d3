import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import svgpath from 'svgpath';

import { trace, type Picture } from '../src/core/artwork';
import type { Point } from '../src/core/geometry';

/*
 * Tracing beside an independent tracer that Debian ships (its program “potrace”, when it is there): the same pixels, the same
 * shapes of which the outline is known. Times are after decoding, of one run on one core.
 */

const WIDTH = 4000;
const HEIGHT = 3000;
const DPI = 300;

interface Blob {
  readonly x: number;
  readonly y: number;
  readonly r: number;
  readonly a: number;
  readonly k: number;
}

/** Rows of rounded blobs: r(φ) = R (1 + a cos kφ), so that the outline is known everywhere. */
const blobs = (columns: number, rows: number): Blob[] =>
  Array.from({ length: columns * rows }, (_, i) => ({
    x: (WIDTH / columns) * ((i % columns) + 0.5) + 0.37 * (i % 7),
    y: (HEIGHT / rows) * (Math.floor(i / columns) + 0.5) - 0.21 * (i % 5),
    r: 0.4 * (WIDTH / columns),
    a: 0.03 * (i % 4),
    k: 3 + (i % 5),
  }));
const outside = (list: readonly Blob[], x: number, y: number): number =>
  Math.min(
    ...list
      .filter((b) => Math.abs(b.x - x) < 1.3 * b.r && Math.abs(b.y - y) < 1.3 * b.r)
      .map((b) => {
        const [dx, dy] = [x - b.x, y - b.y];
        return Math.hypot(dx, dy) - b.r * (1 + b.a * Math.cos(b.k * Math.atan2(dy, dx)));
      }),
  );

/** The picture by distance to the edge: a pixel is covered by half less its middle’s distance, as a soft edge of one pixel is. */
function picture(list: readonly Blob[]): Picture {
  const rgba = new Uint8Array(4 * WIDTH * HEIGHT).fill(255);
  for (const b of list)
    for (let y = Math.floor(b.y - 1.2 * b.r); y < b.y + 1.2 * b.r; y += 1)
      for (let x = Math.floor(b.x - 1.2 * b.r); x < b.x + 1.2 * b.r; x += 1) {
        const grey = Math.max(0, Math.min(1, 0.5 + outside([b], x + 0.5, y + 0.5)));
        rgba.fill(Math.round(255 * grey), 4 * (y * WIDTH + x), 4 * (y * WIDTH + x) + 3);
      }
  return { width: WIDTH, height: HEIGHT, rgba };
}

/** Root mean square distance of closed lines from the true outline, in pixels. */
function rms(list: readonly Blob[], lines: readonly (readonly Point[])[]): number {
  let [sum, count] = [0, 0];
  for (const line of lines)
    line.forEach((a, i) => {
      const b = line[(i + 1) % line.length]!;
      const steps = Math.max(1, Math.ceil(Math.hypot(b.x - a.x, b.y - a.y)));
      for (let k = 0; k < steps; k += 1, count += 1)
        sum += outside(list, a.x + ((b.x - a.x) * k) / steps, a.y + ((b.y - a.y) * k) / steps) ** 2;
    });
  return Math.sqrt(sum / count);
}

function theirs(of: Picture): { readonly ms: number; readonly lines: Point[][] } | null {
  const folder = mkdtempSync(join(tmpdir(), 'trace-'));
  try {
    const rows = Buffer.alloc((WIDTH / 8) * HEIGHT);
    for (let i = 0; i < WIDTH * HEIGHT; i += 1) if (of.rgba[4 * i]! < 128) rows[i >> 3]! |= 128 >> (i & 7);
    const [bitmap, out] = [join(folder, 'in.pbm'), join(folder, 'out.svg')];
    writeFileSync(bitmap, Buffer.concat([Buffer.from(`P4\n${WIDTH} ${HEIGHT}\n`), rows]));
    const started = performance.now();
    execFileSync('potrace', ['-s', '-u', '100', '-o', out, bitmap]);
    const ms = performance.now() - started;
    // Its figures are hundredths of a pixel, y up from the picture’s foot, turned by its own transform.
    const lines = [...readFileSync(out, 'utf8').matchAll(/ d="([^"]+)"/g)].flatMap(([, d]) => curvesOf(d!));
    return { ms, lines };
  } catch {
    return null;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The closed curves of a path, each Bézier in forty steps. */
function curvesOf(d: string): Point[][] {
  const lines: Point[][] = [];
  let at: Point = { x: 0, y: 0 };
  const pixel = (x: number, y: number): Point => ({ x: x / 100, y: HEIGHT - y / 100 });
  svgpath(d)
    .abs()
    .iterate((s) => {
      const n = s.slice(1) as number[];
      const line = lines.at(-1);
      if (s[0] === 'M') lines.push([pixel(n[0]!, n[1]!)]);
      else if (s[0] === 'C')
        for (let i = 1; i <= 40; i += 1) {
          const t = i / 40;
          const b = [(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t ** 3];
          line!.push(
            pixel(
              b[0]! * at.x + b[1]! * n[0]! + b[2]! * n[2]! + b[3]! * n[4]!,
              b[0]! * at.y + b[1]! * n[1]! + b[2]! * n[3]! + b[3]! * n[5]!,
            ),
          );
        }
      else if (s[0] === 'L') line!.push(pixel(n[0]!, n[1]!));
      if (s[0] !== 'Z' && s[0] !== 'z') at = { x: n.at(-2)!, y: n.at(-1)! };
    });
  return lines;
}

export function traceBench(): void {
  for (const list of [blobs(4, 3), blobs(16, 12)]) compare(list);
}

function compare(list: readonly Blob[]): void {
  const of = picture(list);
  const ours = () =>
    trace(of, {
      ...{ size: { dpi: DPI }, background: 'auto', threshold: null, toleranceMm: 0.02 },
      ...{ smoothMm: 0, minAreaMm2: 1, islands: 'keep' },
    });
  for (let i = 0; i < 5; i += 1) ours();
  const started = performance.now();
  const done = ours();
  const ms = performance.now() - started;
  if (!done.ok) throw new Error(done.refusal.code);
  const scale = DPI / 25.4;
  const lines = done.value.paths.map((p) =>
    p.points.map((q) => ({ x: q.x * scale, y: HEIGHT - q.y * scale })),
  );
  const mine = rms(list, lines);
  console.log(
    `12 megapixels, ${lines.length} outlines: ${ms.toFixed(0)} ms, ${mine.toFixed(3)} px from the true outline (RMS), ${lines.flat().length} points`,
  );
  const other = theirs(of);
  if (!other) return console.log('no other tracer on this machine');
  const err = rms(list, other.lines);
  console.log(
    `the other tracer: ${other.ms.toFixed(0)} ms, ${err.toFixed(3)} px; time ${(ms / other.ms).toFixed(2)} of its, error ${(mine / err).toFixed(2)} of its`,
  );
}
