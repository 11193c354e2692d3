import { lengthText, plainLength, type LengthUnit } from '@/core/units';

import { roundLength } from './SheetMap';

interface Shift {
  readonly x: number;
  readonly y: number;
}

const BOX = { width: 394, height: 460, pad: 30, middle: 218 };
const DASHED = { fill: 'none', stroke: 'var(--rp-cut)', strokeDasharray: '4 2.6' } as const;
/** A millimetre as a screen draws it at true size, px. */
const TRUE_PX = 96 / 25.4;

/** The four ways that a push may go. */
const WAYS = [
  { x: 1, y: 0 },
  { x: -1, y: 0 },
  { x: 0, y: 1 },
  { x: 0, y: -1 },
] as const;

/**
 * The middle of the sheet, magnified: where the cut lands now, where what is typed brings it, and how far pushes may take it:
 * nobody knows which way, so all are drawn, and the ring that none leaves.
 */
export function PushPicture({
  now,
  typed,
  pushesMm,
  unit,
}: {
  /** How far the cut lies from its print, mm: right and further are plus. */
  now: Shift;
  typed: Shift;
  /** How far each push moves it. */
  pushesMm: readonly number[];
  unit: LengthUnit;
}) {
  const brought = { x: now.x + typed.x, y: now.y + typed.y };
  const reachMm = pushesMm.reduce((sum, mm) => sum + mm, 0);
  const ends = pushesMm.flatMap((mm) => WAYS.map((way) => ({ x: way.x * mm, y: way.y * mm })));
  const away = Math.max(reachMm, Math.hypot(brought.x, brought.y), Math.hypot(typed.x, typed.y), 0.2);
  const k = (BOX.width / 2 - BOX.pad) / away;
  const to = (p: Shift) => ({
    x: BOX.width / 2 + (p.x - brought.x) * k,
    y: BOX.middle - (p.y - brought.y) * k,
  });
  const [start, at, origin] = [to(now), to(brought), to({ x: 0, y: 0 })];
  const scaleMm = roundLength(90 / k);
  const moved = Math.hypot(typed.x, typed.y) > 0;
  return (
    <svg
      className="paper"
      viewBox={`0 0 ${BOX.width} ${BOX.height}`}
      width="100%"
      style={{ maxHeight: '68vh' }}
      role="img"
      aria-label={`In the middle of the sheet the cut lands ${lengthText(Math.hypot(now.x, now.y), unit)} off now. Pushed it lands up to ${lengthText(reachMm, unit)} from ${moved ? 'where what is typed brings it' : 'there'}, nobody knows which way.`}
    >
      <text x={BOX.width / 2} y={22} textAnchor="middle" className="soft">
        far edge
      </text>
      {pushesMm.length > 1 && (
        <circle cx={at.x} cy={at.y} r={reachMm * k} {...DASHED} strokeWidth="1.4" opacity="0.6" />
      )}
      {ends.map((end, i) => {
        const { x, y } = to({ x: brought.x + end.x, y: brought.y + end.y });
        return (
          <g key={i}>
            <path
              d={`M${at.x} ${at.y}L${x} ${y}`}
              stroke="var(--rp-cut)"
              strokeWidth="2.4"
              strokeDasharray="0.1 6"
              strokeLinecap="round"
            />
            <circle cx={x} cy={y} r="8" {...DASHED} strokeWidth="2" />
          </g>
        );
      })}
      {moved && (
        <path
          d={`M${start.x} ${start.y}L${at.x} ${at.y}`}
          stroke="var(--rp-cut)"
          strokeWidth="2.6"
          markerEnd="url(#push-end)"
        />
      )}
      <marker
        id="push-end"
        viewBox="0 0 10 10"
        refX="9"
        refY="5"
        markerWidth="7"
        markerHeight="7"
        orient="auto"
      >
        <path d="M1 1L9 5L1 9" fill="none" stroke="var(--rp-cut)" strokeWidth="1.6" />
      </marker>
      <circle cx={start.x} cy={start.y} r="7" fill="var(--rp-cut)" />
      <text x={start.x + 12} y={start.y - 12} className="on-picture">
        now
      </text>
      <g transform={`translate(${origin.x} ${origin.y})`}>
        <path d="M-14 0h28M0 -14v28" stroke="var(--rp-plumb)" strokeWidth="2" />
        <text x="-16" y="24" textAnchor="end" className="on-picture">
          true
        </text>
      </g>
      <g transform={`translate(24 ${BOX.height - 26})`}>
        <path
          d={`M0 -5v10M0 0h${scaleMm * k}M${scaleMm * k} -5v10`}
          stroke="var(--rp-ink)"
          strokeWidth="1.4"
        />
        <text x={scaleMm * k + 12} dy="0.35em">
          {plainLength(scaleMm, unit)}, ×{Math.round(k / TRUE_PX)}, in the middle
        </text>
      </g>
    </svg>
  );
}
