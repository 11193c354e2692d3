import type { MovedPath, SvgReport } from '@/core/formats/svg';

const MOST_PATHS = 400;

/** Before (grey, dotted) and after (ochre, dashed) on the page, at true size: nothing is magnified here. */
export function MovedPreview({ moved, report }: { moved: readonly MovedPath[]; report: SvgReport }) {
  const shown = moved.slice(0, MOST_PATHS);
  const stroke = Math.max(report.pageWidthMm, report.pageHeightMm) / 400;
  return (
    <svg
      className="paper"
      viewBox={`0 0 ${report.pageWidthMm} ${report.pageHeightMm}`}
      width="100%"
      role="img"
      aria-label="The cut lines before and after correction"
      style={{ maxHeight: 260 }}
      fill="none"
      strokeWidth={stroke}
    >
      {shown.map((p, i) => (
        <g key={i}>
          <path d={p.before} stroke="var(--rp-ink-soft)" strokeDasharray={`${stroke} ${stroke * 2}`} />
          <path d={p.after} stroke="var(--rp-cut)" strokeDasharray={`${stroke * 5} ${stroke * 2}`} />
        </g>
      ))}
    </svg>
  );
}
