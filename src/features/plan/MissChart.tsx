'use client';

import { line, scaleLinear } from 'd3';
import { useRef, type PointerEvent } from 'react';

import type { ProfilePoint, Strategy } from '@/core/layout';
import { fromLongMm, lengthFigure, lengthText, type LengthUnit, LONG_UNIT, longToMm } from '@/core/units';
import { BOB_PATH } from '@/ui/pictures/PlumbGlyph';
import { across, ChartSvg, Figures, Limit, Ruler, Zero } from '@/ui/charts/frame';
import { DataTable } from '@/ui/tables/DataTable';

const BOX = { width: 720, height: 330, left: 58, right: 18, top: 18, bottom: 64 };

/** How far 95 of 100 cuts may miss along the run; the bob at the first section's end drags the rows. */
export function MissChart({
  strategy,
  profile,
  onePiece,
  toleranceMm,
  rowPitchMm,
  rows,
  rowsShown,
  onRows,
  unit,
}: {
  strategy: Strategy;
  profile: readonly ProfilePoint[];
  onePiece: readonly ProfilePoint[];
  toleranceMm: number;
  rowPitchMm: number;
  /** All rows of the run. */
  rows: number;
  /** As chosen, before the plan follows. */
  rowsShown: number;
  /** Null where the way has no sections to drag. */
  onRows: ((rows: number) => void) | null;
  unit: LengthUnit;
}) {
  const frame = useRef<SVGSVGElement>(null);
  const dragging = useRef(false);
  const lengthMm = strategy.printedMm;
  const most = Math.max(
    1.6 * toleranceMm,
    ...profile.map((p) => p.r95Mm),
    Math.min(3 * toleranceMm, Math.max(0, ...onePiece.map((p) => p.r95Mm))),
  );
  const x = scaleLinear([0, lengthMm], [across(BOX).from, across(BOX).to]);
  const y = scaleLinear([0, most * 1.05], [BOX.height - BOX.bottom, BOX.top]);
  const path = line<ProfilePoint>(
    (p) => x(p.yMm),
    (p) => Math.max(BOX.top, y(p.r95Mm)),
  );
  const handle = strategy.sections[0]!.endMm;
  const drag = (event: PointerEvent): void => {
    if (!dragging.current || onRows === null || !frame.current) return;
    const box = frame.current.getBoundingClientRect();
    const px = ((event.clientX - box.left) / box.width) * BOX.width;
    const wanted = Math.round(x.invert(px) / rowPitchMm);
    const next = Math.max(1, Math.min(rows, wanted));
    if (next !== rowsShown) onRows(next);
  };
  const ticks = scaleLinear(
    x.domain().map((mm) => fromLongMm(mm, unit)),
    x.range(),
  )
    .ticks(7)
    .map((tick) => longToMm(tick, unit));
  const one = onePiece.at(-1);
  return (
    <figure className="m-0 paper p-2">
      <h2 className="m-2">How far drift takes 95 of 100 cuts while nothing is checked, {unit}</h2>
      <ChartSvg
        ref={frame}
        box={BOX}
        height={BOX.height}
        label={`What drift alone takes the cuts off along the run, at most ${lengthText(strategy.worstR95Mm, unit)} of ${lengthText(toleranceMm, unit)} allowed`}
        onPointerMove={drag}
        onPointerUp={() => {
          dragging.current = false;
        }}
        onPointerLeave={() => {
          dragging.current = false;
        }}
        style={{ touchAction: 'none' }}
      >
        <rect
          x={BOX.left}
          y={y(toleranceMm)}
          width={BOX.width - BOX.left - BOX.right}
          height={y(0) - y(toleranceMm)}
          fill="color-mix(in srgb, var(--rp-print) 6%, transparent)"
        />
        <Ruler box={BOX} y={y} words={(mm) => lengthFigure(mm, unit)} />
        {ticks.map((tick) => (
          <text key={tick} x={x(tick)} y={y(0) + 20} textAnchor="middle" className="mono soft">
            {Number(fromLongMm(tick, unit).toFixed(2))} {LONG_UNIT[unit]}
          </text>
        ))}
        <Limit box={BOX} at={y(toleranceMm)} words={`allowed ${lengthText(toleranceMm, unit)}`} />
        {one && (
          <>
            <path
              d={path(onePiece)!}
              fill="none"
              stroke="var(--rp-ink-soft)"
              strokeWidth="1.6"
              strokeDasharray="2 4"
            />
            <text
              x={x(lengthMm * 0.62)}
              y={Math.max(BOX.top + 12, y(onePiece[Math.floor(onePiece.length * 0.62)]!.r95Mm) - 10)}
              textAnchor="end"
              className="soft"
            >
              in one piece
            </text>
          </>
        )}
        <Pieces pieces={splitAtStarts(profile)} x={x} y={y} path={path} />
        <Zero box={BOX} at={y(0)} />
        {onRows !== null && (
          <g
            transform={`translate(${x(handle)} ${y(0)})`}
            onPointerDown={(event) => {
              dragging.current = true;
              event.currentTarget.ownerSVGElement?.setPointerCapture(event.pointerId);
            }}
            style={{ cursor: 'ew-resize' }}
            data-drag="rows"
          >
            <rect x="-22" y="-6" width="44" height="66" fill="transparent" />
            <path d="M0 0V30" stroke="var(--rp-plumb)" strokeWidth="2" />
            <path d={BOB_PATH} fill="var(--rp-plumb)" transform="translate(0 28)" />
          </g>
        )}
      </ChartSvg>
      {onRows !== null && <RowsSlider rows={rows} shown={rowsShown} onRows={onRows} />}
      <SectionFigures strategy={strategy} unit={unit} />
    </figure>
  );
}

type Line = (points: ProfilePoint[]) => string | null;

/** Section by section, each from where its marks are read. */
function Pieces({
  pieces,
  x,
  y,
  path,
}: {
  pieces: readonly ProfilePoint[][];
  x: (mm: number) => number;
  y: (mm: number) => number;
  path: Line;
}) {
  return (
    <>
      {pieces.map((piece, i) => (
        <g key={i}>
          <path
            d={`${path(piece)!}L${x(piece.at(-1)!.yMm)} ${y(0)}L${x(piece[0]!.yMm)} ${y(0)}Z`}
            fill="color-mix(in srgb, var(--rp-cut) 16%, transparent)"
          />
          <path d={path(piece)!} fill="none" stroke="var(--rp-cut)" strokeWidth="2.4" strokeDasharray="7 4" />
          {i > 0 && pieces.length <= 40 && (
            <path
              d={`M${x(piece[0]!.yMm)} ${y(0)}V${y(piece[0]!.r95Mm) - 8}`}
              stroke="var(--rp-ink)"
              strokeWidth="1"
            />
          )}
        </g>
      ))}
    </>
  );
}

/** The same as dragging the bob. */
function RowsSlider({
  rows,
  shown,
  onRows,
}: {
  rows: number;
  shown: number;
  onRows: (rows: number) => void;
}) {
  return (
    <div className="d-flex align-items-center gap-3 px-2 pb-2">
      <label htmlFor="rows-per-section" className="flex-shrink-0">
        Rows a section: <strong className="mono">{shown}</strong>
      </label>
      <input
        id="rows-per-section"
        type="range"
        className="form-range"
        min={1}
        max={rows}
        value={shown}
        onChange={(event) => onRows(Number(event.target.value))}
      />
    </div>
  );
}

/** The chart as a table. */
function SectionFigures({ strategy, unit }: { strategy: Strategy; unit: LengthUnit }) {
  return (
    <Figures summary="The figures, section by section" className="px-2">
      <DataTable
        label="The figures of the chart"
        tight
        rows={strategy.sections.slice(0, 60)}
        keyOf={(s) => s.index}
        columns={[
          ['section', (s) => s.index],
          ['rows', (s) => s.rows, 'num'],
          ['copies', (s) => s.copies, 'num'],
          [`height, ${unit}`, (s) => lengthFigure(s.heightMm, unit), 'num'],
          [
            `drift alone, 95 of 100, ${unit}`,
            (_, i) => lengthFigure(strategy.forecasts[i]!.worstR95Mm, unit),
            'num',
          ],
          ['spoiled', (_, i) => strategy.forecasts[i]!.spoiled.toFixed(2), 'num'],
        ]}
      />
      {strategy.sections.length > 60 && (
        <p className="small-print">and {strategy.sections.length - 60} more, much alike</p>
      )}
    </Figures>
  );
}

function splitAtStarts(profile: readonly ProfilePoint[]): ProfilePoint[][] {
  const pieces: ProfilePoint[][] = [];
  for (const point of profile) {
    if (point.starts) pieces.push([]);
    pieces.at(-1)!.push(point);
  }
  return pieces;
}
