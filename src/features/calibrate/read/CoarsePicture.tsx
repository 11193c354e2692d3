import { COARSE_GRADUATION_MM } from '@/core/tolerance';
import { signed, type OffsetAxis } from '@/core/units';

const BOX = { width: 520, height: 400 };
const ARM_MM = 6.5;

/** The coarse cross, enlarged: where the cut line crosses the half-millimetre graduations. */
export function CoarsePicture({
  axis,
  atMm,
  words,
  compact = false,
}: {
  axis: OffsetAxis;
  atMm: number;
  words: string;
  compact?: boolean;
}) {
  const scale = (axis === 'across' ? BOX.width - 60 : BOX.height - 36) / (2 * ARM_MM);
  const across = axis === 'across';
  const at = (mm: number): number => (across ? BOX.width / 2 + mm * scale : BOX.height / 2 - mm * scale);
  const base = across ? BOX.height / 2 : BOX.width / 2;
  const marks = Array.from({ length: 27 }, (_, i) => (i - 13) * COARSE_GRADUATION_MM);
  const tick = (mm: number, half: number): string =>
    across ? `M${at(mm)} ${base - half}V${base + half}` : `M${base - half} ${at(mm)}H${base + half}`;
  return (
    <svg
      className="paper"
      viewBox={`0 0 ${BOX.width} ${BOX.height}`}
      width="100%"
      role="img"
      aria-label={words}
      style={{ maxHeight: compact ? undefined : '58vh' }}
    >
      <path
        d={across ? `M20 ${base}H${BOX.width - 20}` : `M${base} 14V${BOX.height - 14}`}
        stroke="var(--rp-print)"
        strokeWidth="2.5"
      />
      {marks.map((mm) => {
        const whole = Number.isInteger(mm);
        const even = whole && mm % 2 === 0;
        return (
          <g key={mm}>
            <path
              d={tick(mm, even ? 34 : whole ? 24 : 13)}
              stroke="var(--rp-print)"
              strokeWidth={even ? 3 : 2}
            />
            {even && (
              <text
                x={across ? at(mm) : base + 46}
                y={across ? base + 58 : at(mm)}
                dy={across ? undefined : '0.35em'}
                textAnchor={across ? 'middle' : 'start'}
                className="mono"
                style={{ fontSize: 17 }}
              >
                {signed(mm, 0)}
              </text>
            )}
          </g>
        );
      })}
      <path
        d={across ? `M${at(atMm)} 24V${BOX.height - 24}` : `M24 ${at(atMm)}H${BOX.width - 24}`}
        stroke="var(--rp-cut)"
        strokeWidth="4"
        strokeDasharray="12 5"
      />
    </svg>
  );
}
