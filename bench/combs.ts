import { assessPass } from '../src/core/calibration';
import { fieldAt, transformToField } from '../src/core/fit';
import { seededRandom } from '../src/core/random/random';
import { cutPitchMm } from '../src/core/comb';
import { termsAbout } from '../src/core/rigsim';
import { readAtDesk, roughTerms } from '../test/operator';
import { A4_AREA, A4_CENTRE, proofSheet } from '../test/sheets';

/*
 * Whole comb lengths: sheets read at the desk by eyes that blur the coarse cross by 0.03 to 0.08 mm, and how many end
 * with a wrong length, with and without being told to read again.
 */

const SHEETS = 1500;
const ROWS = [
  ...[[0.05, 2] as const, [0.05, 3] as const, [0.0508, 3] as const, [0.1, 2] as const, [0.1, 3] as const],
];
const BLURS = [0.03, 0.05, 0.08];

/** Sheets with a miscounted length, those of them that nothing was said of, and those that were questioned for nothing. */
export function combStudy(stepMm: number, side: number, sheets: number) {
  const random = seededRandom(Math.round(1000 * stepMm) + side);
  const count = { wrong: 0, unsaid: 0, questioned: 0 };
  for (let i = 0; i < sheets; i += 1) {
    const sheet = proofSheet({ stepMm, columns: side, rows: side, secondSet: false, seed: i + 1 });
    const field = transformToField(termsAbout(roughTerms(random), A4_CENTRE), A4_CENTRE);
    const readings = readAtDesk(sheet, field, random, BLURS[i % BLURS.length]!);
    const wrong = readings.some(({ observation: o, lengthMm }) => {
      const d = fieldAt(field, { x: o.xMm, y: o.yMm });
      return Math.abs(o.offsetMm - (o.axis === 'across' ? d.x : d.y)) > lengthMm / 2;
    });
    const { crosses, lengths, one } = assessPass(readings, [], A4_AREA, 0.4)!.misread;
    const said = crosses.length + lengths.length > 0 || one !== null;
    if (wrong) count.wrong += 1;
    if (wrong && !said) count.unsaid += 1;
    if (!wrong && said) count.questioned += 1;
  }
  return count;
}

export function combBench(): void {
  console.log(
    '| comb step | its length | stations | wrong length | of these not told | questioned for nothing |',
  );
  console.log('| --- | --- | --- | --- | --- | --- |');
  for (const [stepMm, side] of ROWS) {
    const { wrong, unsaid, questioned } = combStudy(stepMm, side, SHEETS);
    const share = (n: number): string => `${((100 * n) / SHEETS).toFixed(1)} %`;
    const length = cutPitchMm(proofSheet({ stepMm }).stations[0]!.across);
    console.log(
      `| ${stepMm} mm | ${length.toFixed(2)} mm | ${side} × ${side} | ${share(wrong)} | ${share(unsaid)} | ${share(questioned)} |`,
    );
  }
}
