import { farthestFrom, strokesByHp2xx } from '@test/readers/outside';

import { seededRandom } from '../../random/random';
import { Notes } from '../notes';

import { readHpgl } from '.';
import { flatten, type Drawing } from '..';

/* What a program leaves a plotter in, and what it means for the lines after it; hp2xx, which is not ours, reads the same. */

function drawn(program: string): Drawing {
  const read = readHpgl(program, new Notes());
  if (!read.ok) throw new Error(`${read.refusal.code}: ${JSON.stringify(read.refusal)}\n${program}`);
  return read.value;
}

const linesOf = (program: string): { x: number; y: number }[][] =>
  drawn(program).paths.map((path) => {
    const xy = flatten(path, 0.0005);
    return Array.from({ length: xy.length / 2 }, (_, i) => ({ x: xy[2 * i]!, y: xy[2 * i + 1]! }));
  });

/** Its strokes as figures, to a hundredth. */
const told = (program: string): string =>
  linesOf(program)
    .map((line) => line.map((p) => `${+p.x.toFixed(2)},${+p.y.toFixed(2)}`).join(' '))
    .join(' | ');

/** One job: what it leaves behind is for the next to do away with. */
function anyJob(random: () => number, before = ''): string {
  const whole = (most: number): number => Math.floor(random() * most);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  const parts: string[] = [before.includes('RO') ? 'IN;' : pick(['IN;', 'IN;', 'DF;', 'IN;DF;'])];
  const terminator = pick(['', '', '#', '*', '~']);
  if (terminator !== '') parts.push(`DT${terminator}${pick([';', ',1;'])}`);
  parts.push(`SP${1 + whole(3)};`);
  const [x1, y1] = [whole(2000), whole(2000)];
  const scaled = random() < 0.5;
  if (scaled) {
    parts.push(`IP${x1},${y1},${x1 + 2000 + whole(2000)},${y1 + 2000 + whole(2000)};`);
    parts.push(
      pick([
        'SC0,100,0,100;',
        'SC-50,50,0,200;',
        'SC0,100,0,100,1;',
        'SC0,80,0,100,1,0,0;',
        'SC0,20,0,30,2;',
      ]),
    );
  }
  if (random() < 0.25) parts.push(`RO${pick([90, 180, 270])};`);
  const most = scaled ? 90 : 4000;
  const place = (): string => `${whole(most)},${whole(most)}`;
  const far = (): string => `${1 + whole(most / 8)},${1 + whole(most / 8)}`;
  for (let i = 3 + whole(4); i > 0; i -= 1)
    parts.push(
      pick([
        () => `PU${place()};PD${place()},${place()};`,
        () => `PA;PU${place()};PD;PA${place()};PU;`,
        () => `PU${place()};PR;PD${far()},${far()};PA;PU;`,
        () => `PU${place()};CI${1 + whole(most / 10)};`,
        () => `PU${place()};PD;AA${place()},${30 + whole(200)};PU;`,
        () => `PU${place()};PD;AR${far()},-${30 + whole(200)};PU;`,
        () => `PU${place()};EA${place()};`,
        () => `PU${place()};ER${far()};`,
        () => `PU${place()};PD;BZ${place()},${place()},${place()};PU;`,
        () => `PU${place()};PM0;PD${place()},${place()},${place()};PM2;EP;`,
      ])(),
    );
  // Left as it is for the next job: the pen down, relative, scaled, turned.
  parts.push(pick(['', 'PU;', 'PR;', `PD${place()};`, `PD;PR${far()};`, 'SP0;']));
  return parts.join('');
}

/** Without what hp2xx draws as letters, which we do not. */
const withLabels = (program: string, random: () => number): string =>
  program.replace(/(PU\d+,\d+;)(?=P[DM])/g, (at) => {
    const terminator = /DT([#*~])/.exec(program)?.[1] ?? '\u0003';
    return random() < 0.3 ? `${at}LBPU1,1;PD9,9;${terminator}${at}` : at;
  });

test('80 programs of up to five jobs one after the other, each left in another state: line by line as hp2xx draws them', () => {
  const programs = Array.from({ length: 80 }, (_, i) => {
    const random = seededRandom(i + 1);
    const jobs: string[] = [];
    for (let job = 0; job < 2 + (i % 4); job += 1) jobs.push(anyJob(random, jobs.at(-1)));
    return jobs.join('');
  });
  const theirs = strokesByHp2xx(programs);
  let strokes = 0;
  for (const [i, program] of programs.entries()) {
    const ours = linesOf(program);
    // hp2xx works in whole plotter units and joins arcs by chords of five degrees.
    const chord =
      ours.flat().reduce((most, p) => Math.max(most, Math.abs(p.x), Math.abs(p.y)), 0) * 0.0015 + 0.06;
    const there = theirs[i]!;
    strokes += there.length;
    expect({ i, program, off: farthestFrom(ours, there.flat()) < chord }).toEqual({ i, program, off: true });
    expect({ i, program, off: farthestFrom(there, ours.flat()) < chord }).toEqual({ i, program, off: true });
  }
  expect(strokes).toBeGreaterThan(3000);
});

test('labels, whatever ends them, leave every line after them, job after job', () => {
  for (let seed = 1; seed <= 60; seed += 1) {
    const random = seededRandom(seed);
    const job = anyJob(random).replace(/SM.|PR;$|PD;PR[^;]*;$/, '');
    expect(told(withLabels(job, random))).toBe(told(job));
  }
});

// HP-GL/2 and HP-GL Reference Guide (memory). Where hp2xx does otherwise the guide is followed: user units go along when P1
// and P2 move (hp2xx drops them), the page stays
// turned through DF (hp2xx turns it back), and a
// window cuts off whatever leaves it (hp2xx leaves circles and rectangles whole, and loses lines that cross a corner).
test.each([
  [
    'a second job after one in steps',
    'IN;PR;PU400,400;PD40,0;IN;PU800,800;PD840,800;',
    '10,10 11,10 | 20,20 21,20',
  ],
  [
    'a second job after one in user units',
    'IN;IP0,0,40,40;SC0,100,0,100;PU0,0;PD100,100;IN;PU0,0;PD4000,0;',
    '0,0 1,1 | 0,0 100,0',
  ],
  [
    'defaults lift the pen and end user units',
    'IP0,0,40,40;SC0,1,0,1;PU0,0;PD1,1;DF;PA400,400;PD440,400;',
    '0,0 1,1 | 10,10 11,10',
  ],
  [
    'user units follow P1 and P2',
    'IP0,0,4000,4000;SC0,100,0,100;PU10,10;PD20,10;PU;IP0,0,8000,8000;PU10,10;PD20,10;',
    '10,10 20,10 | 20,20 40,20',
  ],
  ['P2 follows P1', 'IP0,0,4000,4000;IP400,400;SC0,100,0,100;PU0,0;PD100,0;', '10,10 110,10'],
  [
    'the terminator of a label lasts until it is set again',
    'DT#;LBa;PU0,0;PD9,9#PU0,0;PD40,0;LBb\u0003#PU0,40;PD40,40;DT;PU0,0;LBc#PD1,1;\u0003PU0,0;PD0,40;',
    '0,0 1,0 | 0,1 1,1 | 0,0 0,1',
  ],
  ['IN gives labels their own end back', 'DT#;LBx#IN;LBy#PD4,4;\u0003PU0,0;PD40,0;', '0,0 1,0'],
  [
    'the pen stays on the media while the page turns',
    'PU400,800;RO90;PD800,800;RO;PU0,0;PD40,0;',
    '10,20 -20,20 | 0,0 1,0',
  ],
  [
    'what leaves the window and comes back is two lines',
    'IW400,400,800,800;PU0,600;PD1200,600;PU600,600;PD600,1200,700,1200,700,500;IW;PU0,0;PD40,0;',
    '10,15 20,15 | 15,15 15,20 | 17.5,20 17.5,12.5 | 0,0 1,0',
  ],
  [
    'a polygon is drawn when its edge is asked for',
    'PU0,0;PM0;PD40,0,40,40;PM2;PU400,400;PD440,400;PU;EP;',
    '10,10 11,10 | 0,0 1,0 1,1 0,0',
  ],
  ['an arc through three places', 'PU400,0;PD;AT0,400,-400,0;', ''],
  ['a slice of a circle with its two sides', 'PU400,400;EW400,0,90;', '10,10 20,10'],
  [
    'curves by steps from where they start',
    'PU400,400;PD;BR0,40,40,40,40,0;PU400,400;PD;BZ400,440,440,440,440,400;',
    '',
  ],
  ['a plus is a sign', 'PU+400,+400;PD+800+400-40,+0;', '10,10 20,10 -1,0'],
  ['comments and symbols are words', 'CO"PU1,1;PD9,9;";SMP;PU0,0;PD40,0;SM;', '0,0 1,0'],
])('%s', (_, program, wanted) => {
  const lines = told(program);
  if (program.includes('EW')) {
    const line = linesOf(program)[0]!;
    expect(lines.startsWith(wanted)).toBe(true);
    for (const p of line.slice(1, -1)) expect(Math.hypot(p.x - 10, p.y - 10)).toBeCloseTo(10, 9);
    expect([line.at(-2), line.at(-1)]).toEqual([
      { x: expect.closeTo(10, 9), y: 20 },
      { x: 10, y: 10 },
    ]);
  } else if (wanted !== '') expect(lines).toBe(wanted);
  else if (program.includes('BR')) {
    const [steps, places] = linesOf(program);
    expect(steps).toEqual(places);
  }
  // Half a circle of radius 10 about the origin.
  else
    for (const p of linesOf(program).flat())
      expect([Math.hypot(p.x, p.y), p.y >= -1e-9]).toEqual([expect.closeTo(10, 9), true]);
});

test('of what crosses a window that is drawn which lies in it, and nothing else', () => {
  for (let seed = 1; seed <= 200; seed += 1) {
    const random = seededRandom(seed);
    const places = Array.from({ length: 12 }, () => Math.floor(random() * 4000));
    const body = `PU${places.slice(0, 2)};PD${places.slice(2)};PU2000,1500;CI${200 + Math.floor(random() * 1500)};`;
    const inside = ({ x, y }: { x: number; y: number }, by: number): boolean =>
      x >= 10 - by && x <= 75 + by && y >= 10 - by && y <= 62.5 + by;
    const whole = linesOf(body).map((line) => spread(line));
    const seen = linesOf(`IW400,400,3000,2500;${body}`);
    const wanted = whole.flat().filter((p) => inside(p, -1e-3));
    if (seen.length > 0 || wanted.length > 0) expect(farthestFrom(seen, wanted)).toBeLessThan(0.004);
    expect(seen.flat().every((p) => inside(p, 1e-6))).toBe(true);
    expect(farthestFrom(whole, seen.flat())).toBeLessThan(0.004);
  }
});

/** A line with places of its own every millimetre or so. */
const spread = (line: readonly { x: number; y: number }[]): { x: number; y: number }[] =>
  line.flatMap((p, i) => {
    const q = line[i + 1] ?? p;
    const steps = Math.max(1, Math.ceil(Math.hypot(q.x - p.x, q.y - p.y)));
    return Array.from({ length: steps }, (_, k) => ({
      x: p.x + ((q.x - p.x) * k) / steps,
      y: p.y + ((q.y - p.y) * k) / steps,
    }));
  });

test.each([
  ['PU0,0;PD400,0,400,400,0,0;', true],
  ['PU0,0;PD400,0;PD400,400;PD0,0;PU;', true],
  ['PU0,0;PD400,0,400,400;', false],
  ['PU0,0;PD400,0;', false],
  ['PU400,400;CI80;', true],
])('%s is closed: %s', (program, closed) => {
  expect(drawn(program).paths.map((p) => p.closed)).toEqual([closed]);
});

test('pens stay what they are when a program takes its first one late', () => {
  const { paths } = drawn('PU0,0;PD40,0;SP3;PU0,40;PD40,40;');
  expect(paths.map((p) => p.pen)).toEqual([1, 3]);
});
