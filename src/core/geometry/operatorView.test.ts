import { operatorDirection, sideAtMachine, type Loaded } from '.';

/*
 * A marked sheet is moved in space: x right, y away, z up. It starts printed side up with its far edge away, is turned
 * over about the y axis for the printed side down, and about the z axis until the wanted edge is away.
 */

type Vector = readonly [number, number, number];
type Rotation = (v: Vector) => Vector;
const over: Rotation = ([x, y, z]) => [-x, y, -z];
const round: Rotation = ([x, y, z]) => [-x, -y, z];

const LOADINGS = (['near', 'far'] as const).flatMap((leadingEdge) =>
  [true, false].map((printedSideUp): Loaded => ({ leadingEdge, printedSideUp })),
);

test.each(LOADINGS)(
  'four corners of a sheet laid in: $leadingEdge edge first, printed side up: $printedSideUp',
  (loaded) => {
    let moved: Rotation = (v) => v;
    if (!loaded.printedSideUp) moved = over;
    const edge: Vector = [0, loaded.leadingEdge === 'far' ? 1 : -1, 0];
    if (moved(edge)[1] < 0) {
      const before = moved;
      moved = (v) => round(before(v));
    }
    // The printed face is where it was asked to be, and the leading edge is away.
    expect(moved([0, 0, 1])[2]).toBe(loaded.printedSideUp ? 1 : -1);
    expect(moved(edge)[1]).toBe(1);
    for (const x of [-105, 105])
      for (const y of [-148, 148]) {
        const [right, away] = moved([x, y, 0]);
        const seen = operatorDirection({ x, y }, loaded);
        expect([seen.x, seen.y]).toEqual([right, away]);
        expect(sideAtMachine(x > 0 ? 'right' : 'left', loaded)).toBe(right > 0 ? 'right' : 'left');
      }
  },
);

test('printed side up and near edge first, a mark at the near left is on the right hand', () => {
  const loaded: Loaded = { leadingEdge: 'near', printedSideUp: true };
  expect(sideAtMachine('left', loaded)).toBe('right');
  expect(operatorDirection({ x: -1, y: -1 }, loaded)).toEqual({ x: 1, y: 1 });
});
