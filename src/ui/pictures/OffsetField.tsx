import { scaleLinear } from 'd3';

import { fieldAt, type AffineField } from '@/core/fit';
import { rectHeight, rectLattice, rectWidth, type Rect } from '@/core/geometry';
import { lengthText, type LengthUnit } from '@/core/units';

import { magnification, roundLength } from './SheetMap';

const BOX = { width: 394, height: 600, pad: 44, foot: 64 };

/** The offset over the work area, before and after, magnified honestly: factor and scale arrow are shown. */
export function OffsetField({
  workArea,
  before,
  after,
  unit,
}: {
  workArea: Rect;
  before: AffineField;
  after: AffineField;
  unit: LengthUnit;
}) {
  const w = rectWidth(workArea);
  const h = rectHeight(workArea);
  const pxPerMm = Math.min((BOX.width - 2 * BOX.pad) / w, (BOX.height - BOX.pad - BOX.foot - 38) / h);
  const wide = w > h;
  const columns = wide ? 5 : 4;
  const rows = wide ? 4 : 6;
  const x = scaleLinear(
    [workArea.x0, workArea.x1],
    [(BOX.width - w * pxPerMm) / 2, (BOX.width + w * pxPerMm) / 2],
  );
  const top = 66;
  const y = scaleLinear([workArea.y0, workArea.y1], [top + h * pxPerMm, top]);
  const places = rectLattice(workArea, columns, rows);
  const largest = Math.max(...places.map((p) => size(fieldAt(before, p))));
  const factor = magnification(largest, pxPerMm, 30);
  const scaleMm = roundLength(40 / (factor * pxPerMm));
  const k = factor * pxPerMm;
  const foot = top + h * pxPerMm + 56;
  return (
    <svg
      className="paper"
      viewBox={`0 0 ${BOX.width} ${foot + 22}`}
      width="100%"
      style={{ maxHeight: '68vh' }}
      role="img"
      aria-label={`Offsets over the work area, drawn ${factor} times larger: largest ${lengthText(largest, unit)} before, ${lengthText(Math.max(...places.map((p) => size(fieldAt(after, p)))), unit)} after.`}
    >
      <text x={BOX.width / 2} y={18} textAnchor="middle" className="soft">
        far edge
      </text>
      {places.map((p, i) => {
        const d = fieldAt(before, p);
        const left = fieldAt(after, p);
        return (
          <g key={i} transform={`translate(${x(p.x).toFixed(1)} ${y(p.y).toFixed(1)})`}>
            <path d="M-6 0h12M0 -6v12" stroke="var(--rp-plumb)" strokeWidth="1.2" />
            <path
              d={`M0 0L${(d.x * k).toFixed(1)} ${(-d.y * k).toFixed(1)}`}
              stroke="var(--rp-cut)"
              strokeWidth="2.4"
            />
            <circle cx={d.x * k} cy={-d.y * k} r="3.6" fill="var(--rp-cut)" />
            <circle
              cx={left.x * k}
              cy={-left.y * k}
              r="4.2"
              fill="none"
              stroke="var(--rp-ok)"
              strokeWidth="2"
            />
          </g>
        );
      })}
      <g transform={`translate(24 ${foot})`}>
        <path d={`M0 0h${scaleMm * k}`} stroke="var(--rp-cut)" strokeWidth="2.4" />
        <circle cx={scaleMm * k} r="3.6" fill="var(--rp-cut)" />
        <text x={scaleMm * k + 10} dy="0.35em">
          now: {lengthText(scaleMm, unit)}, ×{factor}
        </text>
        <circle cx="226" r="4.2" fill="none" stroke="var(--rp-ok)" strokeWidth="2" />
        <text x="236" dy="0.35em">
          then
        </text>
        <path d="M296 0h12M302 -6v12" stroke="var(--rp-plumb)" strokeWidth="1.4" />
        <text x="314" dy="0.35em">
          true
        </text>
      </g>
    </svg>
  );
}

const size = (p: { x: number; y: number }): number => Math.hypot(p.x, p.y);
