import { contours, geoPath, scaleLinear, ticks } from 'd3';

import { misregistrationAt, type RigPrediction } from '@/core/correction';
import { placeName, rectHeight, rectLattice, rectWidth, type Rect } from '@/core/geometry';
import { radialQuantile } from '@/core/statistics';
import { lengthFigure, lengthText, type LengthUnit } from '@/core/units';
import { LEANING_FROM } from '@/core/verdict';
import { Rows } from '../tables/Rows';

/** Lattice of the map: fine enough for smooth contours, coarse enough to be computed on every look. */
const COLUMNS = 21;

interface Grid {
  readonly columns: number;
  readonly rows: number;
  readonly values: readonly number[];
}

/** What 95 of 100 cuts stay within, over the work area, as contours: now, and after the correction. */
export function SpreadMaps({
  workArea,
  toleranceMm,
  before,
  after,
  unit,
}: {
  workArea: Rect;
  toleranceMm: number;
  before: RigPrediction;
  after: RigPrediction | null;
  unit: LengthUnit;
}) {
  const grids = [before, ...(after ? [after] : [])].map((p) => gridOf(p, workArea));
  return (
    <section className="panel">
      <h2>What 95 of 100 cuts stay within, {unit}</h2>
      <div className="d-flex flex-wrap gap-4 justify-content-center">
        {grids.map((grid, i) => (
          <SpreadMap
            key={i}
            title={i === 0 ? 'now' : 'after the correction'}
            grid={grid}
            workArea={workArea}
            toleranceMm={toleranceMm}
            unit={unit}
          />
        ))}
      </div>
      <details className="working mt-2">
        <summary>As a table</summary>
        {grids.map((grid, i) => (
          <Table
            key={i}
            caption={i === 0 ? 'now' : 'after the correction'}
            grid={grid}
            workArea={workArea}
            unit={unit}
          />
        ))}
      </details>
    </section>
  );
}

function gridOf(prediction: RigPrediction, workArea: Rect): Grid {
  const columns = COLUMNS;
  const rows = Math.min(61, Math.max(9, Math.round((COLUMNS * rectHeight(workArea)) / rectWidth(workArea))));
  const values = rectLattice(workArea, columns, rows).map((p) =>
    radialQuantile(misregistrationAt(prediction, p), 0.95),
  );
  return { columns, rows, values };
}

const FILLS = {
  plumb: 'var(--rp-ok-back)',
  leaning: 'var(--rp-watch-back)',
  out: 'var(--rp-stop-back)',
} as const;

function SpreadMap({
  title,
  grid,
  workArea,
  toleranceMm,
  unit,
}: {
  title: string;
  grid: Grid;
  workArea: Rect;
  toleranceMm: number;
  unit: LengthUnit;
}) {
  const scale = 250 / Math.max(rectWidth(workArea), rectHeight(workArea));
  const w = rectWidth(workArea) * scale;
  const h = rectHeight(workArea) * scale;
  const most = Math.max(...grid.values);
  const least = Math.min(...grid.values);
  const worst = rectLattice(workArea, grid.columns, grid.rows)[grid.values.indexOf(most)]!;
  // d3's contours run from half a cell outside the first value; rows count from the near edge, which is drawn below.
  const x = scaleLinear([0.5, grid.columns - 0.5], [0, w]);
  const y = scaleLinear([0.5, grid.rows - 0.5], [h, 0]);
  const generator = contours().size([grid.columns, grid.rows]);
  const draw = geoPath({
    stream: (inner) => ({
      ...STREAM,
      point: (cx, cy) => inner.point(x(cx), y(cy)),
      lineStart: () => inner.lineStart(),
      lineEnd: () => inner.lineEnd(),
      polygonStart: () => inner.polygonStart(),
      polygonEnd: () => inner.polygonEnd(),
    }),
  });
  const at = (level: number): string => draw(generator.contour(grid.values as number[], level)) ?? '';
  const lines = ticks(least, most, 6).filter((t) => t > least && t < most);
  return (
    <figure className="m-0">
      <svg
        viewBox={`-8 -26 ${w + 16} ${h + 52}`}
        width={w + 16}
        role="img"
        aria-label={`${title}: from ${lengthText(least, unit)} to ${lengthText(most, unit)}, the worst at the ${placeName(worst, workArea)}; ${lengthText(toleranceMm, unit)} allowed`}
      >
        <defs>
          <clipPath id={`area-${title.length}`}>
            <rect width={w} height={h} />
          </clipPath>
        </defs>
        <text x={w / 2} y={-10} textAnchor="middle">
          {title}
        </text>
        <g clipPath={`url(#area-${title.length})`}>
          <rect width={w} height={h} fill={FILLS.plumb} />
          <path d={at(LEANING_FROM * toleranceMm)} fill={FILLS.leaning} />
          <path d={at(toleranceMm)} fill={FILLS.out} />
          {lines.map((level) => (
            <path key={level} d={at(level)} fill="none" stroke="var(--rp-ink-soft)" strokeWidth="0.8" />
          ))}
        </g>
        <rect width={w} height={h} fill="none" stroke="var(--rp-rule)" />
        {LABELS.map(([column, row]) => {
          const i = Math.round(column * (grid.columns - 1));
          const j = Math.round(row * (grid.rows - 1));
          const value = grid.values[j * grid.columns + i]!;
          return (
            <text
              key={`${column} ${row}`}
              x={column * w + (column === 0 ? 6 : column === 1 ? -6 : 0)}
              y={(1 - row) * h + (row === 1 ? 16 : row === 0 ? -8 : 5)}
              textAnchor={column === 0 ? 'start' : column === 1 ? 'end' : 'middle'}
              className="mono"
              style={haloed(value > toleranceMm)}
            >
              {lengthFigure(value, unit)}
            </text>
          );
        })}
        <text x={w / 2} y={h + 20} textAnchor="middle" className="soft">
          worst: {placeName(worst, workArea)}
        </text>
      </svg>
    </figure>
  );
}

/** A figure on its own ground, wherever the edge of a band runs. */
const haloed = (out: boolean) =>
  ({
    fill: out ? 'var(--rp-stop)' : 'var(--rp-ink)',
    stroke: out ? 'var(--rp-stop-back)' : 'var(--rp-panel)',
    strokeWidth: 4,
    paintOrder: 'stroke',
  }) as const;

const STREAM = { sphere: () => undefined };
const LABELS = [
  [0, 0],
  [1, 0],
  [0.5, 0.5],
  [0, 1],
  [1, 1],
] as const;

function Table({
  caption,
  grid,
  workArea,
  unit,
}: {
  caption: string;
  grid: Grid;
  workArea: Rect;
  unit: LengthUnit;
}) {
  const value = (column: number, row: number): number =>
    grid.values[Math.round(row * (grid.rows - 1)) * grid.columns + Math.round(column * (grid.columns - 1))]!;
  return (
    <Rows label="Spread" className="mb-2">
      <caption className="caption-top">{caption}</caption>
      <tbody>
        {rectLattice({ x0: 0, y0: 0, x1: 1, y1: 1 }, 3, 3).map((p) => (
          <tr key={`${p.x} ${p.y}`}>
            <th scope="row">
              {placeName(
                { x: workArea.x0 + p.x * rectWidth(workArea), y: workArea.y0 + p.y * rectHeight(workArea) },
                workArea,
              )}
            </th>
            <td className="num">{lengthText(value(p.x, p.y), unit)}</td>
          </tr>
        ))}
      </tbody>
    </Rows>
  );
}
