import { scaleLinear, scalePoint } from 'd3';

import { lengthFigure, lengthText, type LengthUnit } from '@/core/units';

import { Limit, Ruler, Zero } from './frame';

export interface PassPoint {
  readonly label: string;
  readonly r95Mm: number;
}

const BOX = { width: 640, left: 54, right: 20 };
const [HEIGHT, TOP, FLOOR] = [300, 30, 256];

/** Error by pass: what 95 of 100 cuts stayed within before, and after each correction. */
export function PassChart({
  points,
  toleranceMm,
  unit,
}: {
  points: readonly PassPoint[];
  toleranceMm: number;
  unit: LengthUnit;
}) {
  const x = scalePoint(
    points.map((p) => p.label),
    [BOX.left + 50, BOX.width - BOX.right - 50],
  ).padding(points.length === 1 ? 1 : 0);
  const y = scaleLinear([0, Math.max(toleranceMm, ...points.map((p) => p.r95Mm)) * 1.15], [FLOOR, TOP]).nice(
    4,
  );
  // The limit's own words stand where the last figure leaves room.
  const last = points.at(-1);
  const aside = last !== undefined && Math.abs(y(last.r95Mm) - y(toleranceMm)) < 34;
  return (
    <figure className="panel m-0">
      <h2>What 95 of 100 cuts stay within, pass by pass, {unit}</h2>
      <svg
        viewBox={`0 0 ${BOX.width} ${HEIGHT}`}
        width="100%"
        role="img"
        aria-label={`Error by pass: ${points.map((p) => `${p.label} ${lengthText(p.r95Mm, unit)}`).join(', ')}; allowed ${lengthText(toleranceMm, unit)}.`}
      >
        <Ruler box={BOX} y={y} words={(mm) => lengthFigure(mm, unit)} />
        <Zero box={BOX} at={y(0)} />
        <Limit
          box={BOX}
          at={y(toleranceMm)}
          words={`allowed ${lengthText(toleranceMm, unit)}`}
          aside={aside}
        />
        <path
          d={points.map((p, i) => `${i ? 'L' : 'M'}${x(p.label)} ${y(p.r95Mm)}`).join('')}
          stroke="var(--rp-cut)"
          strokeWidth="2.4"
          strokeDasharray="7 4"
          fill="none"
        />
        {points.map((p) => (
          <g key={p.label} transform={`translate(${x(p.label)} ${y(p.r95Mm)})`}>
            <circle r="5" fill="var(--rp-panel)" stroke="var(--rp-cut)" strokeWidth="2" />
            <text y="-12" textAnchor="middle" className="mono" style={{ fontWeight: 700 }}>
              {lengthFigure(p.r95Mm, unit)}
            </text>
            <text y={FLOOR - y(p.r95Mm) + 24} textAnchor="middle">
              {p.label}
            </text>
          </g>
        ))}
      </svg>
    </figure>
  );
}
