import { max, scaleLinear, scaleUtc } from 'd3';
import Link from 'next/link';

import { lengthFigure, lengthText, type LengthUnit } from '@/core/units';
import { dateText } from '@/clock/dates';
import { Events, eventsIn, type ChartEvent } from '@/ui/charts/Events';
import { across, ChartSvg, Days, Figures, Scrolls, Shade, Zero } from '@/ui/charts/frame';
import { DataTable, type Column } from '@/ui/tables/DataTable';

import type { TermBand } from './terms.view';

const BOX = { width: 540, left: 96, right: 158, band: 64, gap: 8, top: 6 };

/** Each term on one scale, the chosen medium in ochre and the others grey; events run through all of them. */
export function TermsChart({
  bands,
  media,
  chosen,
  events,
  toleranceMm,
  unit,
  href,
  charts,
}: {
  bands: readonly TermBand[];
  /** By setup, in the order of the table. */
  media: readonly { readonly id: string; readonly words: string }[];
  chosen: string;
  events: readonly ChartEvent[];
  toleranceMm: number;
  unit: LengthUnit;
  href: (setupId: string) => string;
  /** Address of all of its charts. */
  charts: string;
}) {
  const points = bands.flatMap((b) => b.lines.flatMap((l) => l.pieces.flat()));
  if (points.length < 2) return null;
  const times = points.map((p) => +p.at);
  const [first, last] = [new Date(Math.min(...times)), new Date(Math.max(...times))];
  const x = scaleUtc([first, last], [across(BOX).from + 8, across(BOX).to - 8]);
  const most = Math.max(toleranceMm, max(points, (p) => Math.abs(p.mm)) ?? 0) * 1.08;
  const y = scaleLinear([-most, most], [BOX.band, 0]);
  const happened = eventsIn(events, [first, last], x, BOX);
  const bottom = BOX.top + bands.length * (BOX.band + BOX.gap);
  const height = bottom + happened.heightPx + 22;
  const name = media.find((m) => m.id === chosen)?.words ?? '';
  return (
    <section className="panel">
      <div className="d-flex flex-wrap gap-2 justify-content-between align-items-baseline">
        <h2>Shift, turn, scale and lean over time</h2>
        <Link href={charts}>All charts</Link>
      </div>
      <p className="small-print mb-1">
        Error at the worst corner, {unit}. Breaks: a figure was typed. Shaded: ±
        {lengthText(toleranceMm, unit)} allowed.
      </p>
      {media.length > 1 && (
        <nav className="d-flex flex-wrap gap-2 mb-2" aria-label="Medium shown">
          {media.map((m) => (
            <Link
              key={m.id}
              href={href(m.id)}
              className={`btn btn-plain btn-small${m.id === chosen ? ' active' : ''}`}
              aria-current={m.id === chosen ? 'true' : undefined}
              scroll={false}
            >
              {m.words}
            </Link>
          ))}
        </nav>
      )}
      <Scrolls label="Terms over time">
        <ChartSvg
          className="paper terms-chart"
          box={BOX}
          height={height}
          label={`The six terms of ${name} over time`}
        >
          <Events events={happened} top={BOX.top} bottom={bottom} words={{ at: bottom + 12 }} />
          {bands.map((band, i) => (
            <g key={band.term} transform={`translate(0 ${BOX.top + i * (BOX.band + BOX.gap)})`}>
              <Shade box={BOX} from={y(toleranceMm)} to={y(-toleranceMm)} />
              <Zero box={BOX} at={y(0)} thin />
              <text x={6} y={y(0) + 4} style={{ fontSize: 13, fontWeight: 700 }}>
                {band.words}
              </text>
              {[...band.lines]
                .sort((a, b) => Number(a.setupId === chosen) - Number(b.setupId === chosen))
                .map((line) => (
                  <Line key={line.setupId} line={line} own={line.setupId === chosen} x={x} y={y} />
                ))}
              {band.last && (
                <text x={BOX.width - BOX.right + 8} y={y(0) - 2} className="mono" style={{ fontSize: 14 }}>
                  {band.last.figure}
                  <tspan
                    x={BOX.width - BOX.right + 8}
                    dy="15"
                    className="soft"
                    style={{ fontSize: 13, fontFamily: 'var(--bs-body-font-family)' }}
                  >
                    {band.last.words}
                  </tspan>
                </text>
              )}
            </g>
          ))}
          <Days box={BOX} y={height - 6} first={first} last={last} />
        </ChartSvg>
      </Scrolls>
      <Figures>
        <TermTable bands={bands} chosen={chosen} unit={unit} />
      </Figures>
    </section>
  );
}

function Line({
  line,
  own,
  x,
  y,
}: {
  line: TermBand['lines'][number];
  own: boolean;
  x: (at: Date) => number;
  y: (mm: number) => number;
}) {
  return (
    <g fill="none" stroke={own ? 'var(--rp-cut)' : 'var(--rp-ink-soft)'} opacity={own ? 1 : 0.45}>
      {line.pieces.map((piece, i) => (
        <path
          key={i}
          d={piece.map((p, j) => `${j ? 'L' : 'M'}${x(p.at).toFixed(1)} ${y(p.mm).toFixed(1)}`).join('')}
          strokeWidth={own ? 2.2 : 1.2}
          strokeDasharray={own ? '6 3' : undefined}
        />
      ))}
      {line.pieces.flat().map((p) => (
        <circle
          key={p.at.toISOString()}
          cx={x(p.at)}
          cy={y(p.mm)}
          r={own ? 3.4 : 1.6}
          fill={own ? 'var(--rp-paper)' : 'var(--rp-ink-soft)'}
          strokeWidth={own ? 1.8 : 0}
        />
      ))}
    </g>
  );
}

/** The same of the chosen medium, as a table. */
function TermTable({
  bands,
  chosen,
  unit,
}: {
  bands: readonly TermBand[];
  chosen: string;
  unit: LengthUnit;
}) {
  const own = bands.map((b) => ({
    words: b.words,
    points: b.lines.find((l) => l.setupId === chosen)?.pieces.flat() ?? [],
  }));
  const times = [...new Set(own.flatMap((b) => b.points.map((p) => +p.at)))].sort((a, b) => b - a);
  return (
    <DataTable
      label="The terms over time"
      rows={times}
      keyOf={(time) => time}
      columns={[
        ['when', (time) => dateText(new Date(time), 'd MMM yyyy'), 'text-nowrap'],
        ...own.map((b): Column<number> => [
          b.words,
          (time) => {
            const point = b.points.find((p) => +p.at === time);
            return point ? lengthFigure(point.mm, unit) : '';
          },
          'num',
        ]),
      ]}
    />
  );
}
