import { diagnose, FAULT_KINDS, type FaultKind } from '../src/core/diagnosis';
import { seededRandom } from '../src/core/random/random';
import { makeFault } from '../test/faults';

const TRIALS = 400;

/** A blind trial of the kinds of fault: what is made and what is said first. */
export function faultsBench(): void {
  for (const repeats of [true, false]) {
    const said = new Map<FaultKind, Map<FaultKind, number>>();
    const calibrated: [number, boolean][] = [];
    const random = seededRandom(repeats ? 1 : 2);
    let [right, all, misreads, sent] = [0, 0, 0, 0];
    for (const kind of FAULT_KINDS) {
      if (kind === 'skewed-load' && !repeats) continue;
      for (let i = 0; i < TRIALS; i += 1) {
        const marks = kind === 'skewed-load' ? 1 : repeats ? 1 + (i % 4) : 2 + (i % 3);
        const made = makeFault(kind, marks, repeats, random);
        const [first] = diagnose(made.rig, made.sheets);
        const row = said.get(kind) ?? new Map<FaultKind, number>();
        row.set(first!.kind, (row.get(first!.kind) ?? 0) + 1);
        said.set(kind, row);
        calibrated.push([first!.probability, first!.kind === kind]);
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
    for (const from of [0.3, 0.5, 0.7, 0.9]) {
      const bin = calibrated.filter(([p]) => p >= from && p < from + 0.2);
      if (bin.length === 0) continue;
      const mean = bin.reduce((s, [p]) => s + p, 0) / bin.length;
      const hit = bin.filter(([, ok]) => ok).length / bin.length;
      console.log(`said ${(100 * mean).toFixed(0)} %: ${(100 * hit).toFixed(0)} % right (${bin.length})`);
    }
  }
}
