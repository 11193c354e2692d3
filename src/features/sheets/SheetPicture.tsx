import type { ReactNode } from 'react';

import type { Finding } from '@/core/artwork/checks';

import type { SheetView } from './sheet.view';

/** Height of a piece’s number, as a share of the sheet’s shorter side. */
const NUMBER_SHARE = 0.03;

/** A sheet as it will be: art, marks and label from the print file's own geometry, cut lines dashed, findings framed. */
export function SheetPicture({
  view,
  widthMm,
  heightMm,
  sheet,
  arts,
  overlay,
  findings,
  words,
  numbered = false,
  children,
}: {
  view: SheetView;
  widthMm: number;
  heightMm: number;
  /** From 0. */
  sheet: number;
  /** Addresses of the printed pictures by their pieces' letters, and their sizes. */
  arts: Readonly<
    Record<string, { readonly href: string; readonly widthMm: number; readonly heightMm: number }>
  >;
  /** Marks and label, as a picture of the whole page. */
  overlay: string;
  findings: readonly Finding[];
  words: string;
  /** Whether pieces have their numbers beside them. */
  numbered?: boolean;
  /** What lies over it. */
  children?: ReactNode;
}) {
  return (
    <svg
      className="sheet-picture"
      viewBox={`0 0 ${widthMm} ${heightMm}`}
      width="100%"
      style={{ maxHeight: '72vh' }}
      role={children ? 'group' : 'img'}
      aria-label={words}
    >
      <defs>
        {Object.entries(arts).map(([piece, art]) => (
          <image
            key={piece}
            id={`sheet-${sheet}-piece-${piece}`}
            href={art.href}
            width={art.widthMm}
            height={art.heightMm}
            preserveAspectRatio="none"
          />
        ))}
        {view.placed.map(({ box, shown }, i) => (
          <clipPath key={i} id={`sheet-${sheet}-box-${i}`}>
            {shown === null ? (
              <rect x={box.x0} y={box.y0} width={box.x1 - box.x0} height={box.y1 - box.y0} />
            ) : (
              <path d={shown} />
            )}
          </clipPath>
        ))}
      </defs>
      <rect width={widthMm} height={heightMm} fill="#fff" stroke="var(--rp-rule)" />
      {view.placed.map(({ piece, matrix }, i) => (
        <g key={i} clipPath={`url(#sheet-${sheet}-box-${i})`}>
          <use href={`#sheet-${sheet}-piece-${piece}`} transform={matrix} />
        </g>
      ))}
      <image href={overlay} width={widthMm} height={heightMm} />
      <path
        d={view.lines}
        fill="none"
        stroke="var(--rp-cut)"
        strokeWidth="1.6"
        strokeDasharray="6 3"
        vectorEffect="non-scaling-stroke"
      />
      {findings.flatMap(({ where, severity }, i) =>
        where
          ? [
              <rect
                key={i}
                x={where.x0}
                y={heightMm - where.y1}
                width={Math.max(0.5, where.x1 - where.x0)}
                height={Math.max(0.5, where.y1 - where.y0)}
                fill="none"
                stroke="var(--rp-ink)"
                strokeWidth={severity === 'stop' ? 3 : 1.5}
                vectorEffect="non-scaling-stroke"
              />,
            ]
          : [],
      )}
      {numbered &&
        view.placed.map(({ box }, i) => (
          <text
            key={i}
            className="piece-number"
            x={(box.x0 + box.x1) / 2}
            y={(box.y0 + box.y1) / 2}
            style={{ fontSize: `${NUMBER_SHARE * Math.min(widthMm, heightMm)}px` }}
            textAnchor="middle"
            dominantBaseline="central"
          >
            {i + 1}
          </text>
        ))}
      {children}
    </svg>
  );
}
