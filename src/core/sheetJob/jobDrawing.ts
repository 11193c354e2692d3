import { asCurves, type ClosedPath } from '../artwork';
import { mapPath, type Drawing, type DrawnPath } from '../drawing';
import { affineMap, type Point } from '../geometry';

import { AS_LAID_OUT, kindOf, linesByRole, passesOf, type Cutting, type LineRole } from './cutting';
import { type JobGeometry } from './job';
import { type JobPiece } from './job';
import { type LineKind } from './job';
import { LINE_KINDS } from './job';
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

const INNER_FIRST: readonly LineRole[] = ['holes', 'outline', 'second'];

/**
 * The cut lines of one of its sheets, sheet frame: kind by kind in the order of the cutting, in each the inner lines of a
 * piece before what holds them, unless the cutting says otherwise.
 */
export function jobDrawing(geometry: JobGeometry, index: number, cutting: Cutting = AS_LAID_OUT): Drawing {
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
  const roles = cutting.outerFirst ? INNER_FIRST.toReversed() : INNER_FIRST;
  /** Its lines of one kind in the order in which they are cut. */
  const linesOf = (piece: JobPiece, kind: LineKind): readonly ClosedPath[] =>
    linesByRole(piece)
      .filter((of) => kindOf(cutting, piece.id, of.role, of.kind) === kind)
      .toSorted((a, b) => roles.indexOf(a.role) - roles.indexOf(b.role))
      .flatMap((of) => of.lines);
  const placed = sheets[index]!.flatMap(({ piece, map }, at) => {
    const own = pieces.find((p) => p.id === piece)!;
    return cutting.left.some((l) => l.sheet === index && l.index === at) ? [] : [{ own, map }];
  });
  const passes = passesOf(cutting)
    .map((pass) => ({
      ...pass,
      paths: placed.flatMap(({ own, map }) =>
        linesOf(own, pass.kind).map((line): DrawnPath => {
          const { layer, pen, kind } = pass;
          const drawn = { ...drawnLine(line), ...{ closed: true, layer, colour: LINE_COLOURS[kind], pen } };
          return mapPath(drawn, affineMap(map));
        }),
      ),
    }))
    .filter(({ paths }) => paths.length > 0);
  const layers = [...new Map(passes.map(({ layer, kind }) => [layer, kind]))];
  return {
    page: { widthMm: sheet.sheetWidthMm, heightMm: sheet.sheetHeightMm },
    unitMm: 1,
    layers: [
      ...(station ? [witnessLayer] : []),
      ...layers.map(([name, kind]) => ({ name, colour: LINE_COLOURS[kind] })),
    ],
    // The witness first: what is cut of the pieces may loosen the sheet.
    paths: [
      ...(station ? witnessPaths(station, LINE_KINDS.length + 1) : []),
      ...passes.flatMap(({ paths }) => paths),
    ],
  };
}
