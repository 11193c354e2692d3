import { LEANING_FROM } from '@/core/verdict';

/** The bob's outline about its hanging point: narrow neck, shoulder, point. Units: px at scale 1. */
export const BOB_PATH = 'M-2.6 0h5.2v4h1.6c3 2.6 3.4 5.8 2.2 9.4L0 26l-6.4-12.6C-7.6 9.8-7.2 6.6-4.2 4h1.6z';

const TOLERANCE_DEG = 14;
const MOST_DEG = 34;

/**
 * A hanging line whose tilt is misregistration over tolerance: at the tolerance it touches the grey line.
 * The same glyph stands for a rig wherever it appears. Without a ratio nothing is known: it hangs dotted.
 */
export function PlumbGlyph({ ratio, size, label }: { ratio: number | null; size: number; label: string }) {
  const tilt = ratio === null ? 0 : Math.min(MOST_DEG, ratio * TOLERANCE_DEG);
  const width = size * 0.8;
  const cord = size * 0.68;
  const rad = (TOLERANCE_DEG * Math.PI) / 180;
  const [x, y] = [Math.sin(rad), Math.cos(rad)].map((part) => (part * size * 0.76).toFixed(1));
  const small = size < 60;
  return (
    <svg
      className={small ? 'plumb-glyph small' : 'plumb-glyph'}
      width={width}
      height={size}
      viewBox={`${-width / 2} ${-size * 0.06} ${width} ${size}`}
      role="img"
      aria-label={label}
      data-leaning={ratio !== null && ratio > LEANING_FROM}
    >
      <path className="limits" d={`M${x} ${y}L0 0L-${x} ${y}`} />
      {!small && <path className="upright" d={`M0 0V${size * 0.88}`} />}
      <g className={ratio === null ? 'unknown' : undefined} transform={`rotate(${tilt})`}>
        <path className="cord" d={`M0 0V${cord}`} />
        <path d={BOB_PATH} transform={`translate(0 ${cord - 2}) scale(${small ? 0.42 : 1})`} />
      </g>
      <circle r={small ? 1.6 : 3.2} />
    </svg>
  );
}
