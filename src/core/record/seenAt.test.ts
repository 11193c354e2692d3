import fc from 'fast-check';
import { Matrix, inverse } from 'ml-matrix';

import { seenAt, squareOf, rowsOf, type Spot } from './gaussian';

/* Two offsets at one place, with what they share: beside the update written out with a general matrix library. */

const figure = fc.double({ min: -1, max: 1, noNaN: true });
const vector = fc.array(figure, { minLength: 6, maxLength: 6 });

test('property: the update is that of two rows with a covariance of their own (Kalman 1960)', () => {
  fc.assert(
    fc.property(
      fc.array(vector, { minLength: 6, maxLength: 6 }),
      vector,
      vector,
      vector,
      figure,
      figure,
      fc.double({ min: -0.9, max: 0.9, noNaN: true }),
      (root, mean, a, b, y0, y1, share) => {
        const half = new Matrix(root);
        const p = half.mmul(half.transpose()).add(Matrix.eye(6).mul(0.2));
        const h = new Matrix([a, b]);
        const noise: Spot['noise'] = [0.3, share * Math.sqrt(0.3 * 0.5), 0.5];
        const r = new Matrix([
          [noise[0], noise[1]],
          [noise[1], noise[2]],
        ]);
        const s = h.mmul(p).mmul(h.transpose()).add(r);
        const k = p.mmul(h.transpose()).mmul(inverse(s));
        const z = new Matrix([[y0], [y1]]).sub(h.mmul(Matrix.columnVector(mean)));
        const wanted = Matrix.columnVector(mean).add(k.mmul(z));
        const left = p.clone().sub(k.mmul(h).mmul(p));
        const { after } = seenAt(
          { mean: Float64Array.from(mean), covariance: squareOf(p.to2DArray()) },
          { rows: [Float64Array.from(a), Float64Array.from(b)], y: [y0, y1], noise },
        );
        [...after.mean].forEach((v, i) => expect(v).toBeCloseTo(wanted.get(i, 0), 8));
        rowsOf(after.covariance).forEach((row, i) =>
          row.forEach((v, j) => expect(v).toBeCloseTo(left.get(i, j), 8)),
        );
      },
    ),
    { numRuns: 60 },
  );
});
