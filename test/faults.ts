import type { DiagnosedRig, DiagnosedSheet, FaultKind } from '@/core/diagnosis';
import { normalDeviate, type Random } from '@/core/random/random';

/*
 * Sheets of rigs with one fault each, made without anything of the diagnosis: where marks stand, how machines place a cut on
 * them and how large faults are is chosen here.
 */

const SHEET = { w: 330, h: 480 };
const STATIONS = [40, 165, 290].flatMap((x) => [45, 240, 435].map((y) => ({ x, y })));
const MARKS = [
  { x: 15, y: 15 },
  { x: 315, y: 15 },
  { x: 15, y: 465 },
  { x: 315, y: 465 },
];
/** Standard uncertainty of a comb of 0.1 mm. */
const U = 0.036;

type Field = (p: { readonly x: number; readonly y: number }) => { x: number; y: number };

const between = (random: Random, low: number, high: number): number => low + (high - low) * random();
const sign = (random: Random): number => (random() < 0.5 ? -1 : 1);
const some = (random: Random, low: number, high: number): number => sign(random) * between(random, low, high);
const none: Field = () => ({ x: 0, y: 0 });
const shift =
  (x: number, y: number): Field =>
  () => ({ x, y });

function turnAndScale(
  about: { x: number; y: number },
  turn: number,
  sx: number,
  sy: number,
  lean = 0,
): Field {
  return (p) => {
    const [x, y] = [p.x - about.x, p.y - about.y];
    return { x: sx * x - turn * y + lean * y, y: sy * y + turn * x };
  };
}

/** A machine that reads marks places by least squares of shift and turn, and with three or more stretches too. */
function placedOn(marks: number, bad: number, e: { x: number; y: number }): Field {
  const used = MARKS.slice(0, marks);
  if (marks === 1) return shift(e.x, e.y);
  const c = { x: 0, y: 0 };
  for (const m of used) {
    c.x += m.x / marks;
    c.y += m.y / marks;
  }
  const q = { x: used[bad]!.x - c.x, y: used[bad]!.y - c.y };
  if (marks === 2) {
    const spread = used.reduce((s, m) => s + (m.x - c.x) ** 2 + (m.y - c.y) ** 2, 0);
    const turn = (q.x * e.y - q.y * e.x) / spread;
    return (p) => ({ x: e.x / 2 - turn * (p.y - c.y), y: e.y / 2 + turn * (p.x - c.x) });
  }
  // Exactly through three, by least squares through four: a share of e that is linear in the place.
  let [xx, xy, yy] = [0, 0, 0];
  for (const m of used) {
    xx += (m.x - c.x) ** 2;
    xy += (m.x - c.x) * (m.y - c.y);
    yy += (m.y - c.y) ** 2;
  }
  const det = xx * yy - xy * xy;
  const g = { x: (q.x * yy - q.y * xy) / det, y: (q.y * xx - q.x * xy) / det };
  return (p) => {
    const share = 1 / marks + g.x * (p.x - c.x) + g.y * (p.y - c.y);
    return { x: e.x * share, y: e.y * share };
  };
}

export interface MadeFault {
  readonly rig: DiagnosedRig;
  readonly sheets: readonly DiagnosedSheet[];
}

/** A rig of so many marks with a fault, read on one sheet, or on three: two more loads, the last of a fresh pair, with bars. */
export function makeFault(kind: FaultKind, marks: number, repeats: boolean, random: Random): MadeFault {
  const deviate = (sd: number): number => sd * normalDeviate(random);
  const corner = MARKS[0]!;
  const middle = { x: SHEET.w / 2, y: SHEET.h / 2 };
  const hold = marks <= 1 ? corner : middle;
  const always: Field[] = [shift(deviate(0.03), deviate(0.03))];
  let percent = 0;
  if (kind === 'calibration') {
    const linear = random() < 0.6 ? 1 : 0.05;
    always.push(shift(some(random, 0.12, 0.9), some(random, 0.12, 0.9)));
    always.push(
      turnAndScale(
        middle,
        deviate(0.0012 * linear),
        deviate(0.0012 * linear),
        deviate(0.0012 * linear),
        deviate(0.0008 * linear),
      ),
    );
  }
  if (kind === 'print-scaled') {
    percent = some(random, 0.003, 0.02);
    const share = -percent;
    always.push(turnAndScale(hold, 0, share, share * between(random, 0.9, 1.1)));
  }
  const moved = kind === 'art-moved' ? shift(some(random, 0.2, 1.5), some(random, 0.2, 1.5)) : none;
  const one = repeats ? Math.floor(3 * random()) : 0;
  const sheets = Array.from({ length: repeats ? 3 : 1 }, (_, i): DiagnosedSheet => {
    const fresh = repeats && i === 2;
    const fields: Field[] = [...always, shift(deviate(0.03), deviate(0.03))];
    if (marks <= 1) fields.push(turnAndScale(corner, deviate(0.0003), 0, 0));
    if (!fresh) fields.push(moved);
    if (kind === 'skewed-load') fields.push(turnAndScale(corner, some(random, 0.0015, 0.01), 0, 0));
    if (kind === 'load-scatter') fields.push(shift(deviate(0.3), deviate(0.3)));
    if (kind === 'misread' && i === one) {
      const e = { x: some(random, 0.3, 2.5), y: some(random, 0.3, 2.5) };
      fields.push(placedOn(marks, Math.floor(marks * random()), e));
    }
    if (kind === 'slip' && i === one) {
      const from = between(random, 60, 420);
      const step = some(random, 0.15, 1.2);
      fields.push((p) => ({ x: 0, y: p.y > from ? step : 0 }));
    }
    return {
      ...{ load: String(i), job: fresh ? 'anew' : 'first', fresh },
      stations: STATIONS.map((p) => {
        const at = fields.map((f) => f(p));
        return {
          ...p,
          dx: at.reduce((s, d) => s + d.x, 0) + deviate(U),
          dy: at.reduce((s, d) => s + d.y, 0) + deviate(U),
          ...{ ux: U, uy: U },
        };
      }),
      bars: repeats
        ? { across: percent + deviate(0.0015), along: percent + deviate(0.0015), u: 0.0015 }
        : null,
    };
  });
  return { rig: { marks, registrationSdMm: 0.03 }, sheets };
}
