import { LEAST_SIZE_MM } from '@/core/tolerance';
import { useMemo } from 'react';

import type { FileReport, MovedOutline } from '@/core/drawing/file';
import { lengthText, type LengthUnit } from '@/core/units';
import { magnification } from '@/ui/pictures/SheetMap';

const WIDTH = 340;
const PAD = 26;
/** How long the farthest move is drawn, px. */
const SHOWN_MOVE = 22;

/** Before (grey, dotted) and after (ochre, dashed), the move between them magnified by the factor that is shown. */
export function MovedPreview({
  outlines,
  report,
  unit,
}: {
  outlines: readonly MovedOutline[];
  report: FileReport;
  unit: LengthUnit;
}) {
  const b = report.boundsBefore;
  const w = Math.max(b.x1 - b.x0, LEAST_SIZE_MM);
  const h = Math.max(b.y1 - b.y0, LEAST_SIZE_MM);
  const pxPerMm = Math.min((WIDTH - 2 * PAD) / w, 240 / h);
  const factor = magnification(report.farthestMoveMm, pxPerMm, SHOWN_MOVE);
  const height = h * pxPerMm + 2 * PAD;
  const paths = useMemo(() => {
    const d = (xy: readonly number[]): string => {
      const parts: string[] = [];
      for (let i = 0; i < xy.length; i += 2)
        parts.push(
          `${i === 0 ? 'M' : 'L'}${(PAD + (xy[i]! - b.x0) * pxPerMm).toFixed(1)} ${(PAD + (b.y1 - xy[i + 1]!) * pxPerMm).toFixed(1)}`,
        );
      return parts.join('');
    };
    return outlines.map(({ before, after }) => ({
      before: d(before),
      after: d(before.map((v, i) => v + factor * (after[i]! - v))),
    }));
  }, [outlines, b, pxPerMm, factor]);
  const more = report.paths - outlines.length;
  return (
    <figure className="m-0">
      <svg
        className="paper"
        viewBox={`0 0 ${WIDTH} ${height}`}
        width="100%"
        role="img"
        aria-label={`The cut lines before and after correction, the move drawn ${factor} times larger`}
        fill="none"
      >
        {paths.map((p, i) => (
          <g key={i}>
            <path d={p.before} stroke="var(--rp-ink-soft)" strokeDasharray="1 2" />
            <path d={p.after} stroke="var(--rp-cut)" strokeDasharray="5 2" />
          </g>
        ))}
      </svg>
      <figcaption className="small-print">
        Dotted: as drawn. Dashed: as written, its move drawn ×{factor}; the farthest point moves{' '}
        {lengthText(report.farthestMoveMm, unit)}.
        {more > 0 && ` The first ${outlines.length} paths are shown.`}
      </figcaption>
    </figure>
  );
}
