import { max, scaleLinear, scaleUtc } from 'd3';

import { dateText } from '@/clock/dates';
import { lengthFigure, lengthText, type LengthUnit } from '@/core/units';
import { DataTable } from '@/ui/tables/DataTable';

import { Events, eventsIn, type ChartEvent } from './Events';
import { across, ChartSvg, Days, Figures, Limit, Ruler, Zero } from './frame';

export interface RecordPoint {
  readonly at: Date;
  readonly r95Mm: number;
  readonly words: string;
}

const BOX = { width: 540, left: 46, right: 14 };
const [HEIGHT, TOP, FLOOR] = [240, 26, 206];

/** What 95 of 100 cuts stayed within, session by session, against the tolerance; with its table behind. */
export function RecordChart({
  title,
  points,
  events,
  toleranceMm,
  unit,
}: {
  title: string;
  points: readonly RecordPoint[];
  events: readonly ChartEvent[];
  toleranceMm: number;
  unit: LengthUnit;
}) {
  const first = points[0]!.at;
  const last = points.at(-1)!.at;
  const x = scaleUtc([first, last], [across(BOX).from + 8, across(BOX).to - 8]);
  const most = Math.max(toleranceMm, max(points, (p) => p.r95Mm) ?? 0) * 1.15;
  const y = scaleLinear([0, most], [FLOOR, TOP]).nice(4);
  const happened = eventsIn(events, [first, last], x, BOX);
  return (
    <figure className="m-0">
      <h2>{title}</h2>
      <ChartSvg box={BOX} height={HEIGHT} label={title}>
        <Ruler box={BOX} y={y} words={(mm) => lengthFigure(mm, unit)} lines />
        <Zero box={BOX} at={y(0)} />
        <Limit box={BOX} at={y(toleranceMm)} words={`allowed ${lengthText(toleranceMm, unit)}`} />
        <Events events={happened} top={TOP} bottom={y(0)} words={{ at: y(0) - 8, up: true }} />
        <path
          d={points.map((p, i) => `${i ? 'L' : 'M'}${x(p.at).toFixed(1)} ${y(p.r95Mm).toFixed(1)}`).join('')}
          fill="none"
          stroke="var(--rp-cut)"
          strokeWidth="2.4"
          strokeDasharray="7 4"
        />
        {points.map((p) => (
          <circle
            key={p.at.toISOString()}
            cx={x(p.at)}
            cy={y(p.r95Mm)}
            r="4"
            fill="var(--rp-panel)"
            stroke="var(--rp-cut)"
            strokeWidth="2"
          />
        ))}
        <Days box={BOX} y={HEIGHT - 8} first={first} last={last} />
      </ChartSvg>
      <Figures>
        <DataTable
          label="The figures of the chart"
          rows={points}
          keyOf={(p) => p.at.toISOString()}
          columns={[
            ['when', (p) => dateText(p.at, 'd MMM yyyy')],
            ['what', (p) => p.words],
            [unit, (p) => lengthFigure(p.r95Mm, unit), 'num'],
          ]}
        />
      </Figures>
    </figure>
  );
}
