import { max } from 'd3';
import { scaleLinear, scaleUtc } from 'd3';

import { lengthFigure, lengthText, type LengthUnit } from '@/core/units';
import { dateText } from '@/clock/dates';
import { Rows } from './tables/Rows';

export interface RecordPoint {
  readonly at: Date;
  readonly r95Mm: number;
  readonly words: string;
}

export interface RecordEvent {
  readonly at: Date;
  readonly words: string;
}

const BOX = { width: 540, height: 240, left: 46, right: 14, top: 26, bottom: 34 };

/** About as wide as a letter of these words is drawn, so that it is known before they are. */
const LETTER_WIDTH = 7;

/** Where the words of events stand: towards the middle, one above the other where they would touch. */
export function eventLabels(
  events: readonly { readonly at: number; readonly words: string }[],
  right = BOX.width - BOX.right,
) {
  const ends: number[] = [];
  return events.map(({ at, words }) => {
    const leftwards = at + 5 + LETTER_WIDTH * words.length > right;
    const from = leftwards ? at - 5 - LETTER_WIDTH * words.length : at + 5;
    const free = ends.findIndex((end) => end < from);
    const level = free >= 0 ? free : ends.length;
    ends[level] = from + LETTER_WIDTH * words.length;
    return { x: at + (leftwards ? -5 : 5), anchor: leftwards ? ('end' as const) : ('start' as const), level };
  });
}

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
  events: readonly RecordEvent[];
  toleranceMm: number;
  unit: LengthUnit;
}) {
  const first = points[0]!.at;
  const last = points.at(-1)!.at;
  const x = scaleUtc([first, last], [BOX.left + 8, BOX.width - BOX.right - 8]);
  const most = Math.max(toleranceMm, max(points, (p) => p.r95Mm) ?? 0) * 1.15;
  const y = scaleLinear([0, most], [BOX.height - BOX.bottom, BOX.top]).nice(4);
  const shown = events.filter((e) => e.at >= first && e.at <= last).sort((a, b) => +a.at - +b.at);
  const labels = eventLabels(shown.map((e) => ({ at: x(e.at), words: e.words })));
  return (
    <figure className="m-0">
      <h2>{title}</h2>
      <svg
        viewBox={`0 0 ${BOX.width} ${BOX.height}`}
        width="100%"
        role="img"
        aria-label={`${title}. The figures are in the table below.`}
      >
        {y.ticks(4).map((tick) => (
          <g key={tick} transform={`translate(0 ${y(tick)})`}>
            <path
              d={`M${BOX.left} 0H${BOX.width - BOX.right}`}
              stroke="var(--rp-rule)"
              strokeWidth={tick === 0 ? 0 : 0.7}
            />
            <text x={BOX.left - 8} dy="0.35em" textAnchor="end" className="mono soft">
              {lengthFigure(tick, unit)}
            </text>
          </g>
        ))}
        <path d={`M${BOX.left} ${y(0)}H${BOX.width - BOX.right}`} stroke="var(--rp-plumb)" strokeWidth="2" />
        <path
          d={`M${BOX.left} ${y(toleranceMm)}H${BOX.width - BOX.right}`}
          stroke="var(--rp-ink)"
          strokeDasharray="6 5"
        />
        <text x={BOX.width - BOX.right} y={y(toleranceMm) - 6} textAnchor="end">
          allowed {lengthText(toleranceMm, unit)}
        </text>
        {shown.map((e, i) => (
          <g key={e.at.toISOString()}>
            <path d={`M${x(e.at)} ${BOX.top}V${y(0)}`} stroke="var(--rp-ink-soft)" strokeDasharray="1.5 4" />
            <text
              x={labels[i]!.x}
              y={y(0) - 8 - 17 * labels[i]!.level}
              textAnchor={labels[i]!.anchor}
              className="soft"
            >
              {e.words}
            </text>
          </g>
        ))}
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
        <text x={BOX.left} y={BOX.height - 8} className="soft">
          {dateText(first, 'd MMM yyyy')}
        </text>
        <text x={BOX.width - BOX.right} y={BOX.height - 8} textAnchor="end" className="soft">
          {dateText(last, 'd MMM yyyy')}
        </text>
      </svg>
      <details className="working">
        <summary>The figures</summary>
        <Rows label="The figures of the chart">
          <thead>
            <tr>
              <th scope="col">when</th>
              <th scope="col">what</th>
              <th scope="col" className="num">
                {unit}
              </th>
            </tr>
          </thead>
          <tbody>
            {points.map((p) => (
              <tr key={p.at.toISOString()}>
                <td>{dateText(p.at, 'd MMM yyyy')}</td>
                <td>{p.words}</td>
                <td className="num">{lengthFigure(p.r95Mm, unit)}</td>
              </tr>
            ))}
          </tbody>
        </Rows>
      </details>
    </figure>
  );
}
