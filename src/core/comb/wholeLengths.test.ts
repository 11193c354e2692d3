import fc from 'fast-check';

import type { LineComb } from '../comb/comb';
import { pickObservation, pickOffsetMm } from '../comb/linePick';

/* A comb as lines on paper: which printed line a cut line meets is looked for among places, not worked out (maths.md). */

const comb = (stepMm: number, halfLines: number, phaseMm: number): LineComb => ({
  ...{ axis: 'across', centre: { x: 80, y: 50 }, stepMm, halfLines, phaseMm },
});

test('property: the pair that meets tells the offset, also whole comb lengths away, on either side', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(0.05, 0.1),
      fc.integer({ min: -5, max: 5 }),
      fc.integer({ min: -4, max: 4 }),
      fc.double({ min: -0.49, max: 0.5, noNaN: true }),
      (stepMm, line, lengths, phase) => {
        const halfLines = 5;
        const one = comb(stepMm, halfLines, phase * stepMm);
        const [ofPrintMm, ofCutsMm] = [(2 * halfLines + 2) * stepMm, (2 * halfLines + 1) * stepMm];
        // A cut line of number i is commanded at i·(P − δ) − φ; all of them lie `offset` to the right of that.
        const offset = line * stepMm + phase * stepMm + lengths * ofCutsMm;
        const met = Array.from({ length: 60 }, (_, i) => i - 30).find(
          (i) => Math.abs(i * ofCutsMm - phase * stepMm + offset - line * ofPrintMm) < 1e-9,
        );
        // Printed line j meets cut line j − m.
        expect(met).toBe(line - lengths);
        const pick = { line, between: false, lengths };
        expect(pickOffsetMm(one, pick)).toBeCloseTo(offset, 9);
        const seen = pickObservation('S', one, pick);
        expect(seen.offsetMm).toBeCloseTo(offset, 9);
        expect(seen.xMm).toBeCloseTo(80 + met! * ofCutsMm - phase * stepMm, 9);
        expect(seen.yMm).toBe(50);
      },
    ),
  );
});
