import type { ReactNode, Ref, SVGProps } from 'react';

import { dateText } from '@/clock/dates';

/* What every chart has: its room, its ruler, its zero, what is allowed, when it begins and ends, what happened, its figures. */

export interface Box {
  readonly width: number;
  readonly left: number;
  readonly right: number;
}

/** The part of a box that is drawn on, from left to right. */
export const across = ({ width, left, right }: Box) => ({ from: left, to: width - right });

/** How a length of an axis is laid on the picture. */
export interface Scale {
  (value: number): number;
  ticks(count?: number): number[];
}

/** Words in a chart. */
const WORDS = { fontSize: 13 };

/** The picture: what it shows is said to whoever cannot see it, and its figures are in the table behind it. */
export function ChartSvg({
  box,
  height,
  label,
  ref,
  children,
  ...svg
}: {
  readonly box: Box;
  readonly height: number;
  readonly label: string;
  readonly ref?: Ref<SVGSVGElement> | undefined;
} & Omit<SVGProps<SVGSVGElement>, 'ref' | 'height'>) {
  return (
    <svg
      ref={ref}
      viewBox={`0 0 ${box.width} ${height}`}
      width="100%"
      role="img"
      aria-label={`${label}${/[.…]$/.test(label) ? '' : '.'} The figures are in the table below.`}
      {...svg}
    >
      {children}
    </svg>
  );
}

/** A chart that keeps its size on a phone and scrolls within itself there. */
export function Scrolls({ label, children }: { readonly label: string; readonly children: ReactNode }) {
  return (
    <div className="overflow-auto" role="group" aria-label={label} tabIndex={0}>
      {children}
    </div>
  );
}

/** Figures at the left; with `lines` a hairline at each. */
export function Ruler({
  box,
  y,
  words,
  count = 4,
  lines = false,
}: {
  readonly box: Box;
  readonly y: Scale;
  readonly words: (value: number) => string;
  readonly count?: number;
  readonly lines?: boolean;
}) {
  const { from, to } = across(box);
  return (
    <>
      {y.ticks(count).map((tick) => (
        <g key={tick} transform={`translate(0 ${y(tick)})`}>
          {lines && tick !== 0 && (
            <path d={`M${from} 0H${to}`} fill="none" stroke="var(--rp-rule)" strokeWidth="0.7" />
          )}
          <text x={from - 8} dy="0.35em" textAnchor="end" className="mono soft">
            {words(tick)}
          </text>
        </g>
      ))}
    </>
  );
}

/** Where the print is: the plumb line of a chart. */
export function Zero({
  box,
  at,
  thin = false,
}: {
  readonly box: Box;
  readonly at: number;
  readonly thin?: boolean;
}) {
  const { from, to } = across(box);
  return (
    <path d={`M${from} ${at}H${to}`} fill="none" stroke="var(--rp-plumb)" strokeWidth={thin ? 1.4 : 2} />
  );
}

/** What is allowed: a dashed line, and its words at one of its ends. */
export function Limit({
  box,
  at,
  words,
  aside = false,
}: {
  readonly box: Box;
  readonly at: number;
  readonly words?: string;
  /** Its words at the left. */
  readonly aside?: boolean;
}) {
  const { from, to } = across(box);
  return (
    <>
      <path d={`M${from} ${at}H${to}`} fill="none" stroke="var(--rp-ink)" strokeDasharray="6 5" />
      {words && (
        <text x={aside ? from + 4 : to} y={at - 6} textAnchor={aside ? 'start' : 'end'}>
          {words}
        </text>
      )}
    </>
  );
}

/** Between two levels, shaded. */
export function Shade({ box, from, to }: { readonly box: Box; readonly from: number; readonly to: number }) {
  const x = across(box);
  return (
    <rect x={x.from} width={x.to - x.from} y={from} height={to - from} fill="var(--rp-ink)" opacity="0.07" />
  );
}

/** The first day and the last, under a chart. */
export function Days({
  box,
  y,
  first,
  last,
}: {
  readonly box: Box;
  readonly y: number;
  readonly first: Date;
  readonly last: Date;
}) {
  const { from, to } = across(box);
  return (
    <>
      <text x={from} y={y} className="soft" style={WORDS}>
        {dateText(first, 'd MMM yyyy')}
      </text>
      <text x={to} y={y} textAnchor="end" className="soft" style={WORDS}>
        {dateText(last, 'd MMM yyyy')}
      </text>
    </>
  );
}

/** A signal: something lies beyond what scatter does. */
export const Beyond = ({ x, y }: { readonly x: number; readonly y: number }) => (
  <path
    d={`M${x} ${y - 6}L${x + 6} ${y}L${x} ${y + 6}L${x - 6} ${y}Z`}
    fill="none"
    stroke="var(--rp-ink)"
    strokeWidth="1.6"
  />
);

/** The chart as a table, behind a fold. */
export function Figures({
  summary = 'The figures',
  className = '',
  children,
}: {
  readonly summary?: string;
  readonly className?: string;
  readonly children: ReactNode;
}) {
  return (
    <details className={`working ${className}`}>
      <summary>{summary}</summary>
      {children}
    </details>
  );
}
