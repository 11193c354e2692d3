import type { CheckContext, Finding } from '@/core/artwork/checks';
import type { Rect } from '@/core/geometry';

/** The sheet from its printed side, near edge below: areas, marks with their zones, and where each finding is. */
export function CheckPicture({ context, findings }: { context: CheckContext; findings: readonly Finding[] }) {
  const { widthMm: w, heightMm: h } = context.media;
  const edge = 0.03 * Math.max(w, h);
  const box = (r: Rect) => ({ x: r.x0, y: h - r.y1, width: r.x1 - r.x0, height: r.y1 - r.y0 });
  const least = 0.04 * Math.max(w, h);
  // What lies off the sheet is seen too, as far as that is reasonable.
  const places = findings.flatMap((f) => (f.where ? [box(f.where)] : []));
  const from = (list: readonly number[], of: number): number => Math.max(-of, Math.min(0, ...list)) - edge;
  const to = (list: readonly number[], of: number): number => Math.min(2 * of, Math.max(of, ...list)) + edge;
  const [x0, y0] = [
    from(
      places.map((p) => p.x),
      w,
    ),
    from(
      places.map((p) => p.y),
      h,
    ),
  ];
  const [x1, y1] = [
    to(
      places.map((p) => p.x + p.width),
      w,
    ),
    to(
      places.map((p) => p.y + p.height),
      h,
    ),
  ];
  /** How many findings before this one are at the same place: their numbers stand side by side. */
  const earlier = (i: number): number =>
    findings.slice(0, i).filter((f) => JSON.stringify(f.where) === JSON.stringify(findings[i]!.where)).length;
  return (
    <svg
      className="paper"
      viewBox={`${x0} ${y0} ${x1 - x0} ${y1 - y0}`}
      width="100%"
      style={{ maxHeight: '48vh' }}
      role="img"
      aria-label={`The sheet with ${findings.length === 1 ? 'one finding' : `${findings.length} findings`}, numbered as in the list.`}
    >
      <rect width={w} height={h} fill="none" stroke="var(--rp-ink-soft)" vectorEffect="non-scaling-stroke" />
      <rect
        {...box(context.cuttable)}
        fill="none"
        stroke="var(--rp-rule)"
        strokeDasharray="3 3"
        vectorEffect="non-scaling-stroke"
      />
      {context.marks.map((m, i) => {
        const half = m.sizeMm / 2 + m.clearMm;
        return (
          <g key={i}>
            <rect
              {...box({ x0: m.x - half, y0: m.y - half, x1: m.x + half, y1: m.y + half })}
              fill="var(--rp-ink)"
              opacity="0.08"
            />
            <circle
              cx={m.x}
              cy={h - m.y}
              r={m.sizeMm / 2}
              fill="none"
              stroke="var(--rp-print)"
              strokeWidth="1"
            />
          </g>
        );
      })}
      {findings.map((f, i) => {
        if (!f.where) return null;
        const { x, y, width, height } = box(f.where);
        const [cx, cy] = [x + width / 2, y + height / 2];
        return (
          <g key={i}>
            <rect
              x={cx - Math.max(width, least) / 2}
              y={cy - Math.max(height, least) / 2}
              width={Math.max(width, least)}
              height={Math.max(height, least)}
              fill="none"
              stroke={f.severity === 'stop' ? 'var(--rp-plumb)' : 'var(--rp-cut)'}
              strokeWidth="2"
              strokeDasharray={f.severity === 'stop' ? undefined : '5 3'}
              vectorEffect="non-scaling-stroke"
            />
            <text
              x={cx + 1.2 * least * earlier(i)}
              y={cy}
              fontSize={least}
              textAnchor="middle"
              dominantBaseline="central"
              className="mono"
            >
              {i + 1}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
