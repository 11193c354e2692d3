import { cutLineOf, type CutLineRecipe, type Picture } from '.';

const PX_PER_MM = 10;
const RECIPE: CutLineRecipe = {
  ...{ size: { widthMm: 40 }, background: 'auto', threshold: null, toleranceMm: 0.02, closeMm: 0 },
  ...{ minAreaMm2: 1, borderMm: 3, join: 'round', ignore: [] },
};
/** Discs of 5 mm radius at places of a picture of 40 × 20 mm. */
function discs(...places: readonly number[]): Picture {
  const [width, height] = [40 * PX_PER_MM, 20 * PX_PER_MM];
  const rgba = new Uint8Array(4 * width * height).fill(255);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const away = Math.min(...places.map((p) => Math.hypot(x + 0.5 - p * PX_PER_MM, y + 0.5 - 100)));
      const paper = Math.max(0, Math.min(1, 0.5 + away - 5 * PX_PER_MM));
      rgba.fill(Math.round(255 * paper), 4 * (y * width + x), 4 * (y * width + x) + 3);
    }
  return { width, height, rgba };
}
function cut(picture: Picture, more: Partial<CutLineRecipe> = {}) {
  const line = cutLineOf(picture, { ...RECIPE, ...more });
  if (!line.ok) throw new Error(line.refusal.code);
  return line.value;
}

test('neighbours grow together on purpose, or keep apart: as wide a border as leaves a millimetre between their lines', () => {
  // 3 mm between two discs: borders of 3 mm meet.
  const near = discs(10, 23);
  expect(cut(near).lines.filter((l) => !l.hole)).toHaveLength(1);
  const apart = cut(near, { apart: true });
  expect(apart.lines).toHaveLength(2);
  expect(apart.borderMm).toBeGreaterThan(0.9);
  expect(apart.borderMm).toBeLessThanOrEqual(1.02);
  const [a, b] = apart.lines.map((l) => l.points.map((p) => p.x)).sort((p, q) => p[0]! - q[0]!);
  expect(Math.min(...b!) - Math.max(...a!)).toBeGreaterThan(0.95);
});

test.each([
  ['far apart, nothing is narrower', discs(8, 30), { apart: true }, 3],
  ['one shape has no neighbour', discs(20), { apart: true }, 3],
  ['a cut inside stays what it is', discs(10, 23), { apart: true, borderMm: -1 }, -1],
  ['grown together, the border is the one that was wanted', discs(10, 23), {}, 3],
])('%s', (_, picture, more, borderMm) => {
  expect(cut(picture, more).borderMm).toBe(borderMm);
});
