import { readFileSync } from 'node:fs';

import type { CutFormat } from '@/core/drawing/formats';

import { DEADLINE_MS } from '../src/core/drawing/limits';
import { AWKWARD_SVG } from '../test/awkward.svg';
import { BOMBS } from '../test/hostile/bombs';
import { fault, FORMATS_TO } from '../test/hostile/judge';
import { mutated } from '../test/hostile/mutate';

/*
 * npm run fuzz [count] [seed]: mutated cut files and bombs against our own readers and writers. None may throw, take
 * over two seconds or over 500 MB (the memory of this process), give NaN or Infinity, or write what we cannot read.
 * Times are the process's own, and a slow file is judged once more: a machine that was busy or stood still is not our fault.
 */

const MOST_MS = 2000;
/** Bombs are as large as our limits let them be, and are read twice here: half of the server's deadline. */
const MOST_BOMB_MS = DEADLINE_MS / 2;
const SOURCES: readonly (readonly [CutFormat, string])[] = [
  ['svg', AWKWARD_SVG],
  ['svg', read('gnuplot.svg')],
  ['svg', read('potrace.svg')],
  ['dxf', `${read('ezdxf-r12.dxf').slice(0, 2600)}0\nENDSEC\n0\nEOF\n`],
  ['dxf', read('ezdxf-r2010-inch.dxf')],
  ['dxf', read('ezdxf-r12.dxf')],
  ['hpgl', read('pstoedit.hpgl')],
  ['hpgl', read('gnuplot.hpgl')],
  ['hpgl', 'IN;SP1;PU0,0;PD400,0,400,400,0,400,0,0;PU200,200;CI80;PU0,0;PD10,0;AA0,40,90;PU;EA300,200;SP0;'],
];

function read(name: string): string {
  return readFileSync(`test/files/${name}`, 'utf8');
}

/** What is wrong, and the processor time it took, ms. */
function timed(text: string, to: CutFormat | null, projective: boolean): [string | null, number] {
  const [start, before] = [performance.now(), process.cpuUsage()];
  const found = fault(text, to, projective);
  const used = process.cpuUsage(before);
  return [found, Math.min(performance.now() - start, (used.user + used.system) / 1000)];
}

function main(count: number, first: number): void {
  const faults: string[] = [];
  let [slowest, longest] = [0, ''];
  let largest = 0;
  const judged = (
    name: string,
    text: string,
    to: CutFormat | null,
    projective: boolean,
    most: number,
  ): number => {
    const [found, first] = timed(text, to, projective);
    const ms = first > most ? Math.min(first, timed(text, to, projective)[1]) : first;
    if (found) faults.push(`${name}: ${found}`);
    if (ms > most) faults.push(`${name}: ${Math.round(ms)} ms`);
    largest = Math.max(largest, process.memoryUsage().rss);
    return ms;
  };
  for (let i = 0; i < count; i += 1) {
    const seed = first + i;
    const [format, source] = SOURCES[seed % SOURCES.length]!;
    const to = FORMATS_TO[Math.floor(seed / SOURCES.length) % FORMATS_TO.length]!;
    const name = `${format} to ${to ?? 'the same'}, seed ${seed}`;
    const ms = judged(name, mutated(source, format, seed), to, seed % 11 === 0, MOST_MS);
    if (ms > slowest) [slowest, longest] = [ms, name];
    if (i % 10_000 === 9999)
      console.log(`${i + 1} files, slowest ${Math.round(slowest)} ms (${longest}), ${faults.length} faults`);
  }
  for (const [name, make] of Object.entries(BOMBS))
    for (const to of FORMATS_TO) {
      const ms = judged(`${name} → ${to ?? 'the same'}`, make(), to, false, MOST_BOMB_MS);
      console.log(`${name} → ${to ?? 'the same'}: ${Math.round(ms)} ms`);
    }
  console.log(
    `${count} mutated files and ${Object.keys(BOMBS).length * FORMATS_TO.length} bombs; largest ${Math.round(largest / 1e6)} MB`,
  );
  for (const f of faults.slice(0, 40)) console.error(f);
  console.log(`${faults.length} faults`);
  process.exitCode = faults.length > 0 ? 1 : 0;
}

main(Number(process.argv[2] ?? 100_000), Number(process.argv[3] ?? 1));
