import { applyAffine, type Affine, type Point, type Rect } from '@/core/geometry';

const WIDTH = 320;
const MOST_HEIGHT = 300;
const PAD = 24;
/** How long the axes of a file are drawn, px, and the room that they take, of the sheet’s longer side. */
const AXIS = 54;
const AXIS_OF_SHEET = 0.3;

/**
 * A sheet from its printed side, near edge below: its marks, the axes of its cut files, and the lines of one when there
 * is one.
 */
export function FramePicture({
  widthMm,
  heightMm,
  marks,
  map,
  lines,
  bounds,
  label,
}: {
  widthMm: number;
  heightMm: number;
  /** Outlines of the registration marks, mm. */
  marks: readonly Rect[];
  /** File → sheet; null while nobody told how files lie. */
  map: Affine | null;
  /** x, y, x, y … in the file’s own mm. */
  lines: readonly (readonly number[])[];
  /** Of the lines, on the sheet. */
  bounds: Rect | null;
  label: string;
}) {
  const zero = map && { x: map.tx, y: map.ty };
  const reach = AXIS_OF_SHEET * Math.max(widthMm, heightMm);
  const tips = map
    ? [
        { x0: map.tx, y0: map.ty, x1: map.tx, y1: map.ty },
        {
          x0: map.tx + reach * map.a11,
          y0: map.ty + reach * map.a21,
          x1: map.tx + reach * map.a12,
          y1: map.ty + reach * map.a22,
        },
      ]
    : [];
  const seen = [bounds, ...tips].reduce<Rect>((all, r) => (r === null ? all : widened(all, r)), {
    x0: 0,
    y0: 0,
    x1: widthMm,
    y1: heightMm,
  });
  const scale = Math.min(
    (WIDTH - 2 * PAD) / (seen.x1 - seen.x0),
    (MOST_HEIGHT - 2 * PAD) / (seen.y1 - seen.y0),
  );
  const height = (seen.y1 - seen.y0) * scale + 2 * PAD + 16;
  const left = (WIDTH - (seen.x1 - seen.x0) * scale) / 2;
  const x = (mm: number): number => left + (mm - seen.x0) * scale;
  const y = (mm: number): number => PAD + (seen.y1 - mm) * scale;
  const at = (p: Point): string => `${x(p.x).toFixed(1)} ${y(p.y).toFixed(1)}`;
  const path = (xy: readonly number[]): string => {
    const parts: string[] = [];
    for (let i = 0; map && i < xy.length; i += 2)
      parts.push(`${i === 0 ? 'M' : 'L'}${at(applyAffine(map, { x: xy[i]!, y: xy[i + 1]! }))}`);
    return parts.join('');
  };
  return (
    <svg
      className="frame-picture"
      viewBox={`0 0 ${WIDTH} ${height}`}
      width="100%"
      role="img"
      aria-label={label}
    >
      <rect
        x={x(0)}
        y={y(heightMm)}
        width={widthMm * scale}
        height={heightMm * scale}
        fill="var(--rp-paper)"
        stroke="var(--rp-ink-soft)"
      />
      {marks.map((m, i) => (
        <rect
          key={i}
          x={x(m.x0)}
          y={y(m.y1)}
          width={Math.max(3, (m.x1 - m.x0) * scale)}
          height={Math.max(3, (m.y1 - m.y0) * scale)}
          fill="var(--rp-print)"
        />
      ))}
      <g fill="none" stroke="var(--rp-cut)" strokeDasharray="4 2">
        {lines.map((xy, i) => (
          <path key={i} d={path(xy)} />
        ))}
      </g>
      {map && zero && (
        <g>
          <Axis from={{ x: x(zero.x), y: y(zero.y) }} dx={map.a11} dy={map.a21} name="x" />
          <Axis from={{ x: x(zero.x), y: y(zero.y) }} dx={map.a12} dy={map.a22} name="y" />
          <circle cx={x(zero.x)} cy={y(zero.y)} r="4" fill="var(--rp-plumb)" />
        </g>
      )}
      <text x={WIDTH / 2} y={height - 5} textAnchor="middle" className="soft" style={{ fontSize: 13 }}>
        near edge, the bob’s
      </text>
    </svg>
  );
}

const widened = (a: Rect, b: Rect): Rect => ({
  x0: Math.min(a.x0, b.x0, b.x1),
  y0: Math.min(a.y0, b.y0, b.y1),
  x1: Math.max(a.x1, b.x0, b.x1),
  y1: Math.max(a.y1, b.y0, b.y1),
});

/** One axis of the file, drawn from its zero. */
function Axis({ from, dx, dy, name }: { from: Point; dx: number; dy: number; name: string }) {
  const angle = (Math.atan2(-dy, dx) * 180) / Math.PI;
  const tip = { x: from.x + dx * (AXIS + 10), y: from.y - dy * (AXIS + 10) };
  return (
    <g>
      <path
        d={`M0 0H${AXIS}m-7 -4l7 4l-7 4`}
        transform={`translate(${from.x} ${from.y}) rotate(${angle})`}
        fill="none"
        stroke="var(--rp-ink)"
        strokeWidth="2"
      />
      <text
        x={tip.x}
        y={tip.y + 5}
        textAnchor="middle"
        className="mono"
        style={{ fontSize: 15, fontWeight: 700 }}
      >
        {name}
      </text>
    </g>
  );
}
