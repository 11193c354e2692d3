import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import type { Point } from '@/core/geometry';

/* Cut files as readers see them that are not ours: ezdxf for DXF, hp2xx for HP-GL. */

const inFolder = <T>(use: (folder: string) => T): T => {
  const folder = mkdtempSync(join(tmpdir(), 'red-plumb-'));
  try {
    return use(folder);
  } finally {
    rmSync(folder, { recursive: true });
  }
};

/** What a script of ezdxf says of files: lines, mm. */
const ezdxf = (script: string, files: readonly string[]): Point[][][] => {
  const json = execFileSync('/usr/bin/python3', [`test/readers/${script}`, ...files], {
    encoding: 'utf8',
    maxBuffer: 1 << 28,
  });
  return (JSON.parse(json) as { points: [number, number][] }[][]).map((file) =>
    file.map((line) => line.points.map(([x, y]) => ({ x, y }))),
  );
};

/** Every line of a DXF file by ezdxf, mm. */
export const readByEzdxf = (content: string): Point[][] => readManyByEzdxf([content])[0]!;

const inFiles = (contents: readonly string[], script: string): Point[][][] =>
  inFolder((folder) =>
    ezdxf(
      script,
      contents.map((content, i) => {
        const file = join(folder, `${i}.dxf`);
        writeFileSync(file, content);
        return file;
      }),
    ),
  );

/** Every line of each DXF file by ezdxf, mm. */
export const readManyByEzdxf = (contents: readonly string[]): Point[][][] => inFiles(contents, 'dxf.py');

/** What of each DXF file is seen when ezdxf plots it: lines, mm. */
export const seenByEzdxf = (contents: readonly string[]): Point[][][] => inFiles(contents, 'dxfSeen.py');

/**
 * Every stroke of HP-GL programs by hp2xx, mm, also of what lies below zero: it moves all to the origin, so one stroke is
 * drawn first that lies farther left and below than anything, and taken away again. It writes six figures.
 */
export const strokesByHp2xx = (programs: readonly string[], farMm = -500): Point[][][] =>
  inFolder((folder) => {
    const files = programs.map((program, i) => {
      const [from, to] = [join(folder, `${i}.hpgl`), join(folder, `${i}.dxf`)];
      const units = farMm * 40;
      writeFileSync(from, `IN;SP1;PU${units},${units};PD${units},${units + 4};PU;${program}`);
      execFileSync('hp2xx', ['-q', '-t', '-m', 'dxf', '-f', to, from], { stdio: 'ignore' });
      return to;
    });
    return ezdxf('dxf.py', files).map((strokes) =>
      strokes.slice(1).map((line) => line.map(({ x, y }) => ({ x: x + farMm, y: y + farMm }))),
    );
  });

/** Every stroke of an HP-GL file by hp2xx, mm. It moves drawings to the origin, so one stroke there is added first. */
export const readByHp2xx = (content: string): Point[][] =>
  inFolder((folder) => {
    const [from, to] = [join(folder, 'a.hpgl'), join(folder, 'a.dxf')];
    writeFileSync(from, `IN;SP1;PU0,0;PD0,4;PU;${content}`);
    execFileSync('hp2xx', ['-q', '-t', '-m', 'dxf', '-f', to, from], { stdio: 'ignore' });
    return ezdxf('dxf.py', [to])[0]!.slice(1);
  });

/** So many points of a file are tried, spread evenly over it. */
const TRIED = 1200;

/** The farthest that any of the points lies from the nearest of some lines, mm. */
export function farthestFrom(lines: readonly (readonly Point[])[], from: readonly Point[]): number {
  const ends: number[] = [];
  for (const line of lines)
    for (let i = 1; i < line.length; i += 1)
      ends.push(line[i - 1]!.x, line[i - 1]!.y, line[i]!.x, line[i]!.y);
  const segments = Float64Array.from(ends);
  const every = Math.max(1, Math.floor(from.length / TRIED));
  let worst2 = 0;
  for (let k = 0; k < from.length; k += every) {
    const { x, y } = from[k]!;
    let best2 = Infinity;
    for (let i = 0; i < segments.length; i += 4) {
      const ax = segments[i]!;
      const ay = segments[i + 1]!;
      const dx = segments[i + 2]! - ax;
      const dy = segments[i + 3]! - ay;
      const length2 = dx * dx + dy * dy;
      const share = length2 === 0 ? 0 : ((x - ax) * dx + (y - ay) * dy) / length2;
      const t = share < 0 ? 0 : share > 1 ? 1 : share;
      const away2 = (x - ax - t * dx) ** 2 + (y - ay - t * dy) ** 2;
      if (away2 < best2) best2 = away2;
    }
    if (best2 > worst2) worst2 = best2;
  }
  return Math.sqrt(worst2);
}
