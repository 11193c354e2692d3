import type { Point } from '@/core/geometry';

/** Keeps the arrows’ scale finite where nothing moved. */
const LEAST_MM = 1e-9;

const WIDTH = 320;
const MOST_HEIGHT = 320;
const PAD = 18;
/** Marks are drawn so large, px, and what lies between so much larger than it is that it is seen. */
const ARM = 7;
const MOST_SEEN = 40;

/** The sheet from its printed side, near edge below: where each mark should be, and which way it was found. */
export function PlacePicture({
  widthMm,
  heightMm,
  meant,
  found,
}: {
  widthMm: number;
  heightMm: number;
  meant: readonly Point[];
  found: readonly Point[];
}) {
  const scale = Math.min((WIDTH - 2 * PAD) / widthMm, (MOST_HEIGHT - 2 * PAD) / heightMm);
  const height = heightMm * scale + 2 * PAD;
  const left = (WIDTH - widthMm * scale) / 2;
  const at = (p: Point) => ({ x: left + p.x * scale, y: PAD + (heightMm - p.y) * scale });
  const largest = Math.max(
    LEAST_MM,
    ...meant.map((m, i) => Math.hypot(found[i]!.x - m.x, found[i]!.y - m.y)),
  );
  const times = Math.max(1, Math.min(200, MOST_SEEN / (largest * scale)));
  return (
    <figure className="paper m-0 p-2">
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        width="100%"
        role="img"
        aria-label={`The sheet with ${meant.length === 1 ? 'one mark' : `${meant.length} marks`}: where the file has them and where they were found.`}
      >
        <rect
          x={left}
          y={PAD}
          width={widthMm * scale}
          height={heightMm * scale}
          fill="none"
          stroke="var(--rp-ink-soft)"
        />
        {meant.map((m, i) => {
          const from = at(m);
          const to = {
            x: from.x + times * scale * (found[i]!.x - m.x),
            y: from.y - times * scale * (found[i]!.y - m.y),
          };
          return (
            <g key={i}>
              <circle cx={from.x} cy={from.y} r={ARM} fill="none" stroke="var(--rp-print)" strokeWidth="2" />
              <path
                d={`M${from.x} ${from.y}L${to.x} ${to.y}`}
                stroke="var(--rp-cut)"
                strokeWidth="1.5"
                strokeDasharray="6 3"
              />
              <path
                d={`M${to.x - ARM} ${to.y}h${2 * ARM}M${to.x} ${to.y - ARM}v${2 * ARM}`}
                stroke="var(--rp-cut)"
                strokeWidth="2"
              />
              <text x={from.x + ARM + 3} y={from.y - ARM} className="mono soft">
                {i + 1}
              </text>
            </g>
          );
        })}
      </svg>
      <figcaption className="small-print">
        Near edge below. Circles: where the file has the marks; crosses: where they were found
        {times > 1.05 ? `, ${Math.round(times)} times enlarged` : ''}.
      </figcaption>
    </figure>
  );
}
