import type { ReactNode } from 'react';

/* Small pictures of machines, media and marks: drawn in a box of 64 × 48. Print is indigo, the cut dashed. */

const line = { fill: 'none', stroke: 'var(--rp-ink)', strokeWidth: 1.6 } as const;
const ink = { fill: 'var(--rp-print)' } as const;
const cut = { fill: 'none', stroke: 'var(--rp-cut)', strokeWidth: 1.6, strokeDasharray: '3 2' } as const;
const dot = { fill: 'var(--rp-ink)' } as const;

const sheet = (
  <>
    <rect {...line} x="14" y="3" width="36" height="42" />
    <rect {...ink} x="25" y="16" width="14" height="16" />
    <rect {...cut} x="22" y="13" width="20" height="22" />
  </>
);
const at = (places: readonly (readonly [number, number])[]): ReactNode =>
  places.map(([x, y]) => <circle key={`${x} ${y}`} {...dot} cx={x} cy={y} r="2.6" />);
const withMarks = (...places: readonly (readonly [number, number])[]): ReactNode => (
  <>
    {sheet}
    {at(places)}
  </>
);

export const TILE_PICTURES = {
  unknown: (
    <text x="32" y="36" textAnchor="middle" fontSize="32" fontWeight="700" fill="var(--rp-ink)">
      ?
    </text>
  ),
  desk: (
    <>
      <path {...line} d="M22 18V6h20v12M14 18h36v16H14zM20 28h24v14H20z" />
      <rect {...ink} x="25" y="32" width="14" height="5" />
    </>
  ),
  rollPrinter: (
    <>
      <path {...line} d="M8 8h48v12H8zM14 20v24M50 20v24M18 20h28v16H18z" />
      <rect {...ink} x="22" y="23" width="20" height="8" />
    </>
  ),
  flat: (
    <>
      <path {...line} d="M14 22h44l-8 14H6zM10 36v8M50 36v8M30 22V6h14v16" />
      <path {...ink} d="M18 30l3-6h10l-3 6z" />
    </>
  ),
  same: (
    <>
      <path {...line} d="M12 8h40v14H12zM16 22h32v20H16z" />
      <rect {...ink} x="24" y="28" width="16" height="8" />
      <rect {...cut} x="21" y="25" width="22" height="14" />
    </>
  ),
  other: (
    <>
      <path {...line} d="M4 8h22v10H4zM7 18h16v22H7zM38 8h22v10H38zM41 18h16v22H41zM28 28h7M32 25l3 3-3 3" />
      <rect {...ink} x="11" y="24" width="8" height="9" />
      <rect {...ink} x="46" y="25" width="6" height="7" />
      <rect {...cut} x="44" y="23" width="10" height="11" />
    </>
  ),
  sheets: (
    <>
      <path {...line} d="M22 2h26v36M18 6h26v36" />
      <rect {...line} x="14" y="10" width="26" height="36" />
      <rect {...ink} x="20" y="16" width="14" height="12" />
    </>
  ),
  roll: (
    <>
      <path {...line} d="M14 6h36a5 5 0 0 1 0 9H14a5 5 0 0 1 0-9zM18 15v30h28V15" />
      <path {...ink} d="M22 20h8v7h-8zM34 20h8v7h-8zM22 32h8v7h-8zM34 32h8v7h-8z" />
    </>
  ),
  paper: (
    <>
      <path {...line} d="M18 3h20l8 8v34H18z" />
      <rect {...ink} x="24" y="18" width="16" height="14" />
    </>
  ),
  film: (
    <>
      <path {...line} d="M14 3h36v42H14zM36 45c0-8 6-14 14-14" />
      <rect {...ink} x="20" y="10" width="20" height="13" />
    </>
  ),
  transfer: (
    <>
      <path {...line} d="M22 5l-14 9 6 9 6-3v24h24V20l6 3 6-9-14-9c-3 5-17 5-20 0z" />
      <rect {...ink} x="26" y="20" width="12" height="12" />
    </>
  ),
  marks0: sheet,
  marks1: withMarks([18, 41]),
  marks2: withMarks([18, 41], [46, 41]),
  marks3: withMarks([18, 41], [46, 41], [18, 7]),
  marks4: withMarks([18, 41], [46, 41], [18, 7], [46, 7]),
  marksMore: (
    <>
      <path {...line} d="M16 1v46M48 1v46" />
      {[8, 24, 40].map((y) => (
        <g key={y}>
          <rect {...ink} x="26" y={y - 4} width="12" height="7" />
          <rect {...cut} x="23" y={y - 6} width="18" height="11" />
        </g>
      ))}
      {at(
        [8, 24, 40].flatMap(
          (y) =>
            [
              [12, y],
              [52, y],
            ] as const,
        ),
      )}
    </>
  ),
} as const satisfies Record<string, ReactNode>;

export type TilePicture = keyof typeof TILE_PICTURES;
