import type { Point } from '../geometry';

import type { Drawing, DrawnPath, DrawnWords, Page, PageDrawing } from './model';

/* What the product draws itself: lines, shapes and words in ink, and the page that they stand on. */

export const INKS = ['print', 'text', 'cut', 'mark'] as const;
export type Ink = (typeof INKS)[number];

/** Print indigo, near-black text, cut ochre; the cut layer is never printed. */
export const INK_COLOURS: Readonly<Record<Ink, string>> = {
  print: '#33409a',
  text: '#17202a',
  cut: '#a86a0c',
  mark: '#000000',
};

export type Drawn = DrawnPath | DrawnWords;

/** What colour something is drawn in: its own, else its ink's; null where a file gives none. */
export const colourOf = (drawn: Drawn): string | null =>
  drawn.colour ?? ('text' in drawn ? INK_COLOURS.text : drawn.paint ? INK_COLOURS[drawn.paint.ink] : null);

type Body = Pick<DrawnPath, 'start' | 'segments' | 'closed'>;

const path = (ink: Ink, colour: string | null, body: Body, fill: boolean, widthMm: number): DrawnPath => ({
  ...{ layer: ink, colour, pen: null },
  ...body,
  paint: { ink, fill, widthMm },
});

const round = (centre: Point, radiusMm: number): Body => ({
  start: { x: centre.x + radiusMm, y: centre.y },
  segments: [
    {
      ...{ kind: 'arc', centre, from: 0, sweep: 2 * Math.PI },
      ...{ u: { x: radiusMm, y: 0 }, v: { x: 0, y: radiusMm } },
    },
  ],
  closed: true,
});

const through = ([start, ...rest]: readonly Point[], closed: boolean): Body => ({
  ...{ start: start!, closed },
  segments: [{ kind: 'lines', xy: rest.flatMap((p) => [p.x, p.y]) }],
});

/** A straight line. */
export const line = (
  from: Point,
  to: Point,
  widthMm: number,
  ink: Ink,
  colour: string | null = null,
): DrawnPath => path(ink, colour, through([from, to], false), false, widthMm);

/** A circle's line; its radius is that of the line's middle. */
export const ring = (
  centre: Point,
  radiusMm: number,
  widthMm: number,
  ink: Ink,
  colour: string | null = null,
): DrawnPath => path(ink, colour, round(centre, radiusMm), false, widthMm);

/** A filled circle. */
export const disc = (centre: Point, radiusMm: number, ink: Ink, colour: string | null = null): DrawnPath =>
  path(ink, colour, round(centre, radiusMm), true, 0);

/** A closed line through corners. */
export const outline = (
  corners: readonly Point[],
  widthMm: number,
  ink: Ink,
  colour: string | null = null,
): DrawnPath => path(ink, colour, through(corners, true), false, widthMm);

/** A filled shape. */
export const area = (corners: readonly Point[], ink: Ink, colour: string | null = null): DrawnPath =>
  path(ink, colour, through(corners, true), true, 0);

/** Words in text ink, from their baseline. */
export const words = (
  at: Point,
  text: string,
  sizeMm: number,
  more: Partial<Pick<DrawnWords, 'anchor' | 'bold' | 'turnDeg'>> = {},
): DrawnWords => ({ ...{ at, text, sizeMm, anchor: 'start', colour: null }, ...more });

export const isPath = (drawn: Drawn): drawn is DrawnPath => !('text' in drawn);

/** What is drawn, as a drawing on a page: a layer for each ink. */
export function onPage(page: Page, title: string, drawn: readonly Drawn[]): PageDrawing {
  const paths = drawn.filter(isPath);
  return { ...drawingOfPaths(paths), title, page, words: drawn.filter((d) => !isPath(d)) as DrawnWords[] };
}

/** Paths as a drawing without a page, in mm: its layers are theirs, with the colour that each has first. */
export function drawingOfPaths(paths: readonly DrawnPath[]): Drawing {
  const layers = new Map<string, string | null>();
  for (const { layer, colour } of paths) if (!layers.has(layer)) layers.set(layer, colour);
  return { paths, layers: [...layers].map(([name, colour]) => ({ name, colour })), page: null, unitMm: 1 };
}
