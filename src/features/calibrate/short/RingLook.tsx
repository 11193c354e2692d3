import { STATION } from '@/core/proof';

const BOX = 80;
const SCALE = BOX / 2 / (STATION.windowRadiusMm + 1.6);

/** The printed ring with the cut ring on it: unbroken ink all round, or not. `off`: where the cut lies, mm. */
export function RingLook({
  bandMm,
  off = { x: 0, y: 0 },
  words,
}: {
  bandMm: number;
  off?: { readonly x: number; readonly y: number };
  words: string;
}) {
  return (
    <svg className="paper" viewBox={`0 0 ${BOX} ${BOX}`} width="100%" role="img" aria-label={words}>
      <circle
        cx={BOX / 2}
        cy={BOX / 2}
        r={STATION.windowRadiusMm * SCALE}
        fill="none"
        stroke="var(--rp-print)"
        strokeWidth={bandMm * SCALE}
      />
      {[
        ['var(--rp-paper)', 2.6],
        ['var(--rp-cut)', 1.6],
      ].map(([stroke, width]) => (
        <circle
          key={stroke}
          cx={BOX / 2 + off.x * SCALE}
          cy={BOX / 2 - off.y * SCALE}
          r={STATION.windowRadiusMm * SCALE}
          fill="none"
          stroke={stroke as string}
          strokeWidth={width}
          strokeDasharray="4 1.6"
        />
      ))}
    </svg>
  );
}
