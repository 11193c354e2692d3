import { labelText, RING, ringLabelMm, ringsOf, type RingRowDrawn } from '@/core/proof';
import type { LengthUnit } from '@/core/units';
import { BOB_PATH } from '@/ui/pictures/PlumbGlyph';

/** Rings are drawn so many times as uneven as they are: what a loupe shows, at arm's length. */
export const MAGNIFIED = 3;
const INK_FROM = 0.4 * RING.holeMm;

/**
 * A row of rings as it looks weeded when the offset is `offsetMm`: printed discs with their labels, the holes where they
 * land, and the plumb line hanging in the hole that is even. The same order as on paper.
 */
export function RingPicture({
  row,
  offsetMm,
  plumbAt,
  around,
  magnified,
  unit,
  words,
}: {
  row: RingRowDrawn;
  offsetMm: number;
  /** The even ring, half a ring between two; null leaves the eye alone. */
  plumbAt: number | null;
  /** Rings each way of `plumbAt` that are shown; null: the whole row. */
  around: number | null;
  magnified: number;
  unit: LengthUnit;
  words: string;
}) {
  const middle =
    around === null ? 0 : Math.max(-row.half + around, Math.min(row.half - around, Math.round(plumbAt ?? 0)));
  const shown = ringsOf(row).filter((j) => around === null || Math.abs(j - middle) <= around);
  const reach = around ?? row.half;
  const px = 10;
  const width = (2 * reach + 1) * RING.pitchMm * px;
  const height = 9.4 * px;
  const x = (j: number): number => width / 2 + (j - middle) * RING.pitchMm * px;
  const y = 4.2 * px;
  return (
    <svg className="paper" viewBox={`0 0 ${width} ${height}`} width="100%" role="img" aria-label={words}>
      {shown.map((j) => {
        const by = magnified * (offsetMm - ringLabelMm(row, j)) * px;
        // A hole that leaves the ink is only out: how far no longer matters.
        const most = 2.4 * RING.discMm * px;
        const aside = Math.max(-most, Math.min(most, by));
        const hole = row.axis === 'across' ? { x: x(j) + aside, y } : { x: x(j), y: y - aside };
        return (
          <g key={j}>
            <circle
              cx={x(j)}
              cy={y}
              r={((RING.discMm + INK_FROM) / 2) * px}
              fill="none"
              stroke="var(--rp-print)"
              strokeWidth={(RING.discMm - INK_FROM) * px}
            />
            <circle cx={hole.x} cy={hole.y} r={RING.holeMm * px} fill="var(--rp-paper)" />
            <circle
              cx={hole.x}
              cy={hole.y}
              r={RING.holeMm * px}
              fill="none"
              stroke="var(--rp-cut)"
              strokeWidth="1.6"
              strokeDasharray="6 3"
            />
            <text
              x={x(j)}
              y={y + (RING.discMm + 2) * px}
              textAnchor="middle"
              className="mono"
              style={{ fontSize: around === null ? 15 : 13, fontWeight: j === plumbAt ? 700 : 400 }}
            >
              {labelText(ringLabelMm(row, j), unit)}
            </text>
          </g>
        );
      })}
      {plumbAt !== null && (
        <g>
          <path d={`M${x(plumbAt)} 0V${y - 8}`} stroke="var(--rp-plumb)" strokeWidth="1.6" />
          <path
            d={BOB_PATH}
            fill="var(--rp-plumb)"
            transform={`translate(${x(plumbAt)} ${y - 9}) scale(0.7)`}
          />
        </g>
      )}
    </svg>
  );
}
