import { asCurves, type ClosedPath } from '../artwork';
import { mapPath, type Drawing, type DrawnPath } from '../formats/drawing';
import { affineMap, type Point } from '../geometry';

import { LINE_KINDS, type JobGeometry, type LineKind } from './pair';
import { witnessLayer, witnessPaths, witnessStation } from './witness';

/** What was frozen then stays in the edges that it was frozen with. */
const IN_EDGES = 'pair-1';
/** Curves lie so near to the line that was looked at, mm: less than a cutter follows. */
const CURVES_WITHIN_MM = 0.02;

const asEdges = (points: readonly Point[]): ReturnType<typeof asCurves> => ({
  start: points[0]!,
  segments: [{ kind: 'lines', xy: points.slice(1).flatMap((p) => [p.x, p.y]) }],
});

const LINE_COLOURS: Readonly<Record<LineKind, string>> = {
  'cut-through': '#a86a0c',
  'kiss-cut': '#33409a',
  score: '#1c6b52',
  perforate: '#6b4a00',
  pen: '#17202a',
};

/** The cut lines of one of its sheets, sheet frame; inner lines before what holds them, kinds in the order of `LINE_KINDS`. */
export function jobDrawing(geometry: JobGeometry, index: number): Drawing {
  const { sheet, pieces, sheets } = geometry;
  const station = witnessStation(geometry, index);
  const inEdges = geometry.version === IN_EDGES;
  const known = new Map<ClosedPath, ReturnType<typeof asCurves>>();
  /** A line of a piece, in its own frame: worked out once, however many copies there are. */
  const drawnLine = (line: ClosedPath): ReturnType<typeof asCurves> => {
    const own = known.get(line) ?? (inEdges ? asEdges(line.points) : asCurves(line.points, CURVES_WITHIN_MM));
    known.set(line, own);
    return own;
  };
  const kinds = LINE_KINDS.filter((kind) => pieces.some((p) => p.kind === kind));
  const paths = kinds.flatMap((kind) =>
    sheets[index]!.flatMap(({ piece, map }) => {
      const own = pieces.find((p) => p.id === piece)!;
      if (own.kind !== kind) return [];
      return own.lines
        .toSorted((a, b) => Number(b.hole) - Number(a.hole))
        .map((line): DrawnPath => {
          const drawn = {
            ...drawnLine(line),
            ...{ closed: true, layer: kind, colour: LINE_COLOURS[kind], pen: LINE_KINDS.indexOf(kind) + 1 },
          };
          return mapPath(drawn, affineMap(map));
        });
    }),
  );
  return {
    page: { widthMm: sheet.sheetWidthMm, heightMm: sheet.sheetHeightMm },
    unitMm: 1,
    layers: [
      ...(station ? [witnessLayer] : []),
      ...kinds.map((name) => ({ name, colour: LINE_COLOURS[name] })),
    ],
    // The witness first: what is cut of the pieces may loosen the sheet.
    paths: [...(station ? witnessPaths(station, LINE_KINDS.length + 1) : []), ...paths],
  };
}
