import { diagnose, FAULT_KINDS, type FaultKind } from '../src/core/diagnosis';
import { PRIORS } from '../src/core/diagnosis/kinds';
import { seededRandom } from '../src/core/random/random';
import { makeFault } from '../test/faults';

const TRIALS = 400;

/** A blind trial of the kinds of fault: what is made and what is said first. */
export function faultsBench(): void {
  for (const repeats of [true, false]) {
    const said = new Map<FaultKind, Map<FaultKind, number>>();
    const calibrated: [number, boolean, number][] = [];
    const random = seededRandom(repeats ? 1 : 2);
    let [right, all, misreads, sent] = [0, 0, 0, 0];
    for (const kind of FAULT_KINDS) {
      if (kind === 'skewed-load' && !repeats) continue;
      for (let i = 0; i < TRIALS; i += 1) {
        const marks = kind === 'skewed-load' ? 1 : repeats ? 1 + (i % 4) : 2 + (i % 3);
        const made = makeFault(kind, marks, repeats, random);
        const told = diagnose(made.rig, made.sheets);
        const [first] = told;
        const row = said.get(kind) ?? new Map<FaultKind, number>();
        row.set(first!.kind, (row.get(first!.kind) ?? 0) + 1);
        said.set(kind, row);
        for (const s of told) calibrated.push([s.probability, s.kind === kind, PRIORS[kind]]);
        right += Number(first!.kind === kind);
        all += 1;
        if (kind === 'misread') {
          misreads += 1;
          sent += Number(first!.kind === 'calibration');
        }
      }
    }
    console.log(
      `\n${repeats ? 'check bars, two more loads, the last of a fresh pair' : 'one sheet, two marks or more'}: first right ${((100 * right) / all).toFixed(1)} %; of ${misreads} misreads ${((100 * sent) / misreads).toFixed(1)} % sent to calibration`,
    );
    console.log(`| made \\ said | ${FAULT_KINDS.join(' | ')} |`);
    console.log(`| --- | ${FAULT_KINDS.map(() => '---').join(' | ')} |`);
    for (const [kind, row] of said)
      console.log(
        `| ${kind} | ${FAULT_KINDS.map((k) => ((100 * (row.get(k) ?? 0)) / TRIALS).toFixed(0)).join(' | ')} |`,
      );
    // Every kind that is named, weighted by how often it happens.
    for (let tenth = 0; tenth < 10; tenth += 1) {
      const bin = calibrated.filter(([p]) => Math.min(9, Math.floor(10 * p)) === tenth);
      if (bin.length < 50) continue;
      const all = bin.reduce((s, [, , w]) => s + w, 0);
      const mean = bin.reduce((s, [p, , w]) => s + w * p, 0) / all;
      const hit = bin.reduce((s, [, ok, w]) => s + (ok ? w : 0), 0) / all;
      console.log(`said ${(100 * mean).toFixed(0)} %: ${(100 * hit).toFixed(0)} % right (${bin.length})`);
    }
  }
}
