import { LEAST_SIZE_MM } from '@/core/tolerance';
import { lengthText, type LengthUnit } from '@/core/units';

export interface MapStation {
  readonly id: string;
  readonly xMm: number;
  readonly yMm: number;
  /** What was read so far; an axis not read yet is null. */
  readonly dxMm: number | null;
  readonly dyMm: number | null;
  readonly current: boolean;
}

/** A round length whose arrow is a handy size: 1, 2 or 5 times a power of ten. */
export function roundLength(wantedMm: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(LEAST_SIZE_MM, wantedMm)));
  const lead = wantedMm / power;
  return (lead >= 5 ? 5 : lead >= 2 ? 2 : 1) * power;
}

/** How many times offsets are drawn larger than the sheet: the largest takes `sharePx` of the picture. */
export function magnification(largestMm: number, pxPerMm: number, wantedPx: number): number {
  const raw = wantedPx / (Math.max(0.05, largestMm) * pxPerMm);
  return Math.max(1, raw > 20 ? Math.round(raw / 10) * 10 : Math.round(raw));
}

/** The sheet with its stations: where you are, and which way the cut went at those that are read. */
export function SheetMap({
  widthMm,
  heightMm,
  stations,
  unit,
  height,
  onPick,
  named = false,
}: {
  widthMm: number;
  heightMm: number;
  stations: readonly MapStation[];
  unit: LengthUnit;
  height: number;
  onPick?: (id: string) => void;
  /** Writes each station's name under it. */
  named?: boolean;
}) {
  const width = 240;
  const pad = 26;
  const pxPerMm = Math.min((width - 2 * pad) / widthMm, (height - 2 * pad - 34) / heightMm);
  const x = (mm: number): number => (width - widthMm * pxPerMm) / 2 + mm * pxPerMm;
  const y = (mm: number): number => height - pad - 34 - mm * pxPerMm;
  const read = stations.filter((s) => s.dxMm !== null && s.dyMm !== null);
  const largest = Math.max(0, ...read.map((s) => Math.hypot(s.dxMm!, s.dyMm!)));
  const factor = magnification(largest, pxPerMm, 28);
  const scaleMm = roundLength(40 / (factor * pxPerMm));
  const here = stations.find((s) => s.current);
  return (
    <svg
      className="paper"
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      role="group"
      aria-label="The sheet and its stations"
    >
      <text x={width / 2} y={16} textAnchor="middle" className="soft">
        far edge
      </text>
      <rect
        x={x(0)}
        y={y(heightMm)}
        width={widthMm * pxPerMm}
        height={heightMm * pxPerMm}
        fill="none"
        stroke="var(--rp-rule)"
      />
      {here && (
        <path
          d={`M${x(here.xMm)} ${y(heightMm) - 4}V${y(0) + 4}M${x(0) - 4} ${y(here.yMm)}H${x(widthMm) + 4}`}
          stroke="var(--rp-plumb)"
          opacity="0.7"
        />
      )}
      {stations.map((s) => (
        <g key={s.id} transform={`translate(${x(s.xMm)} ${y(s.yMm)})`}>
          {s.current && <circle r="14" fill="none" stroke="var(--rp-ink)" strokeWidth="2" />}
          <circle
            r="6.5"
            fill="none"
            stroke="var(--rp-print)"
            strokeWidth="4.5"
            opacity={s.current ? 1 : 0.75}
          />
          {s.dxMm !== null && s.dyMm !== null && (
            <g stroke="var(--rp-cut)" fill="var(--rp-cut)">
              <path d={`M0 0L${s.dxMm * factor * pxPerMm} ${-s.dyMm * factor * pxPerMm}`} strokeWidth="2.5" />
              <circle cx={s.dxMm * factor * pxPerMm} cy={-s.dyMm * factor * pxPerMm} r="2.6" />
            </g>
          )}
          {named && (
            <text y="22" textAnchor="middle" style={{ fontSize: 11 }}>
              {s.id}
            </text>
          )}
          {onPick && (
            <circle r="18" fill="transparent" onClick={() => onPick(s.id)} style={{ cursor: 'pointer' }}>
              <title>{s.id}</title>
            </circle>
          )}
        </g>
      ))}
      {read.length > 0 && (
        <g transform={`translate(14 ${height - 20})`}>
          <path d={`M0 -4h${scaleMm * factor * pxPerMm}`} stroke="var(--rp-cut)" strokeWidth="2.5" />
          <text x={scaleMm * factor * pxPerMm + 6} y="1" className="soft" style={{ fontSize: 13 }}>
            {lengthText(scaleMm, unit)}, drawn ×{factor}
          </text>
        </g>
      )}
    </svg>
  );
}
