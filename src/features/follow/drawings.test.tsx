import { renderToStaticMarkup } from 'react-dom/server';

import { operatorDirection, type Loaded } from '@/core/geometry';
import { impose, outlineDrawing, sectionDrawing, sectionsOf } from '@/core/layout';
import { markPlaces, type MarkKit } from '@/core/marks';
import { rollKitSchema } from '@/core/setup/kitShapes';
import { edgeWords } from '@/ui/words/edgeWords';
import { plainSetup, ROLL_MARKS } from '@test/setups';

import { CheckPicture } from './run/CheckPicture';
import { LoadingCard } from './LoadingCard';
import { RollDrawing } from '@/ui/pictures/RollDrawing';

/* What is drawn at a machine lies as the piece lies: turned perhaps, never mirrored. */

const ROOM = { markRoomMm: 20, betweenMm: 10 };
const WIDTH_MM = 1310;

function roll(copies: number, more: { testCutTurned?: boolean; marks?: MarkKit | null } = {}) {
  const imposed = impose({
    ...{ itemWidthMm: 185, itemHeightMm: 50, copies, gapMm: 4, printableWidthMm: WIDTH_MM },
    ...{ mayTurn: false, lanes: 1, laneGapMm: 0, centreLastRow: false },
  });
  if (!imposed.ok) throw new Error(imposed.refusal.code);
  const sections = sectionsOf(imposed.value, 4, ROOM);
  const html = renderToStaticMarkup(
    <RollDrawing
      imposition={imposed.value}
      sections={sections}
      markRoomMm={ROOM.markRoomMm}
      leadMm={300}
      tailMm={250}
      printableWidthMm={WIDTH_MM}
      mediaWidthMm={1370}
      marks={more.marks ?? null}
      rollers={{ ...rollKitSchema.parse({}), testCutTurned: more.testCutTurned ?? false }}
      bobFirst={null}
      current={null}
      unit="mm"
    />,
  );
  return { html, imposition: imposed.value, sections };
}

interface Box {
  readonly x: number;
  readonly y: number;
  readonly height: number;
}

const boxes = (html: string, fill: string): Box[] =>
  [...html.matchAll(/<rect ([^>]*)>/g)]
    .map((m) => m[1]!)
    .filter((attributes) => attributes.includes(`fill="${fill}"`))
    .map((attributes) => {
      const of = (name: string): number => Number(new RegExp(` ?${name}="([\\d.]+)"`).exec(attributes)![1]);
      return { x: of('x'), y: of('y'), height: of('height') };
    });

test.each([25, 613])('of %d copies the part row stands on the side where the cut file has it', (copies) => {
  const { html, imposition, sections } = roll(copies);
  const last = sections.at(-1)!;
  const item = outlineDrawing(185, 50, 'rectangle');
  const cut = sectionDrawing(imposition, last, ROOM, item, WIDTH_MM, null);
  const inLastRow = last.copies - (last.rows - 1) * imposition.columns;
  expect(inLastRow).toBeLessThan(imposition.columns);
  const partRow = cut.paths.slice(-inLastRow).map((p) => p.start.x);
  const full = cut.paths.slice(0, imposition.columns).map((p) => p.start.x);
  const drawn = boxes(html, 'var(--rp-print)');
  const right = Math.max(...drawn.map((b) => b.x));
  const [there, all] = [drawn.filter((b) => b.x === right), drawn];
  // Left in the file is on top in the drawing, whose feed runs to the right: a quarter turn.
  expect(Math.min(...partRow)).toBeCloseTo(Math.min(...full), 9);
  expect(Math.min(...there.map((b) => b.y))).toBeCloseTo(Math.min(...all.map((b) => b.y)), 6);
  expect(Math.max(...there.map((b) => b.y + b.height))).toBeLessThan(
    Math.max(...all.map((b) => b.y + b.height)) - 1,
  );
});

test('marks of the roll are a turned sheet, not a mirrored one', () => {
  const { html, sections } = roll(25, { marks: ROLL_MARKS });
  const drawn = [...html.matchAll(/<circle cx="([\d.]+)" cy="([\d.]+)"/g)].map((m) => [
    Number(m[1]),
    Number(m[2]),
  ]);
  const places = markPlaces(ROLL_MARKS, {
    sheetWidthMm: 1370,
    sheetHeightMm: sections[0]!.endMm + ROLL_MARKS.insetNearMm + ROLL_MARKS.insetFarMm,
  });
  const [a, b, c] = [0, 1, 2].map((i) => ({ sheet: places[i]!.centre, drawn: drawn[i]! }));
  const turn = (p: number[], q: number[], r: number[]): number =>
    Math.sign((q[0]! - p[0]!) * (r[1]! - p[1]!) - (q[1]! - p[1]!) * (r[0]! - p[0]!));
  const onSheet = turn(
    ...([a!, b!, c!].map(({ sheet }) => [sheet.x, sheet.y]) as [number[], number[], number[]]),
  );
  // On screen y runs down: the same way round on paper is the opposite sign here.
  expect(turn(a!.drawn, b!.drawn, c!.drawn)).toBe(-onSheet);
});

test('the test cut is drawn where it is made: in the lead, or in the tail of a piece that is turned for it', () => {
  const at = (html: string): number =>
    Number(/<path d="M([\d.]+) [\d.]+h[\d.]+v[\d.]+h-[\d.]+zM/.exec(html)![1]);
  const [lead, tail] = [roll(25), roll(25, { testCutTurned: true })];
  const first = Math.min(...boxes(lead.html, 'var(--rp-print)').map((b) => b.x));
  expect(at(lead.html)).toBeLessThan(first);
  expect(at(tail.html)).toBeGreaterThan(Math.max(...boxes(tail.html, 'var(--rp-print)').map((b) => b.x)));
  expect(tail.html).toContain('tail 250 mm: test cut, covers the sensor');
});

const LOADINGS: readonly Loaded[] = [
  { leadingEdge: 'near', printedSideUp: true },
  { leadingEdge: 'far', printedSideUp: true },
];

test.each(LOADINGS)(
  'the check picture with the $leadingEdge edge first shows the miss where it lies',
  (loaded) => {
    const html = renderToStaticMarkup(
      <CheckPicture
        offsets={{ dxMm: 0.2, dyMm: 0.3 }}
        toleranceMm={0.5}
        outline="rectangle"
        item={{ widthMm: 100, heightMm: 100 }}
        loaded={loaded}
        unit="mm"
        onMove={null}
      />,
    );
    const rects = [...html.matchAll(/<rect x="([\d.]+)" y="([\d.]+)"/g)].map((m) => [
      Number(m[1]),
      Number(m[2]),
    ]);
    const [print, cut] = [rects[0]!, rects.at(-1)!];
    const seen = operatorDirection({ x: 0.2, y: 0.3 }, loaded);
    expect(Math.sign(cut[0]! - print[0]!)).toBe(Math.sign(seen.x));
    // On screen y runs down, away from the operator is up.
    expect(Math.sign(cut[1]! - print[1]!)).toBe(-Math.sign(seen.y));
    // The sides are keys, where they are.
    const key = (words: string) => new RegExp(`side-key (Arrow\\w+)"[^>]*>${words}<`).exec(html)![1];
    const right = operatorDirection({ x: 1, y: 0 }, loaded).x > 0;
    const far = operatorDirection({ x: 0, y: 1 }, loaded).y > 0;
    expect([key('right'), key('further along')]).toEqual([
      right ? 'ArrowRight' : 'ArrowLeft',
      far ? 'ArrowUp' : 'ArrowDown',
    ]);
  },
);

test.each([
  [null, 'the near edge goes in first'],
  [true, 'the near edge, printed first, goes in first'],
  [false, 'the near edge, printed last, goes in first'],
] as const)('with the bob’s edge first out of the printer %s, the card says “%s”', (bobFirst, words) => {
  const html = renderToStaticMarkup(
    <LoadingCard setup={plainSetup({ marks: ROLL_MARKS, bobFirst })} unit="mm" />,
  );
  expect(html).toContain(words);
  expect(edgeWords('far', bobFirst)).toBe(
    bobFirst === null ? 'far edge' : `far edge, printed ${bobFirst ? 'last' : 'first'}`,
  );
});

test('a rig without marks has no edge that goes in first', () => {
  const html = renderToStaticMarkup(<LoadingCard setup={plainSetup({ marks: null })} unit="mm" />);
  expect(html).not.toContain('goes in first');
});
