import { funnel, type FunnelStrip } from '@/core/diagnosis';
import { seededRandom } from '@/core/random/random';
import { lengthText, type LengthUnit } from '@/core/units';

const LOADS = 60;
const BOX = { width: 340, left: 10, right: 10, words: 20, dots: 40 };
const STRIP = BOX.words + BOX.dots;

/** Why a true rig is left alone: the same loads untouched, and with each one's reading typed back. */
export function FunnelFigure({
  loadSdMm,
  readingSdMm,
  unit,
}: {
  /** Scatter of this rig's loads, and doubt of one set's reading, one axis each. */
  loadSdMm: number;
  readingSdMm: number;
  unit: LengthUnit;
}) {
  const { left, chased } = funnel(loadSdMm, readingSdMm, LOADS, seededRandom(7));
  const most = Math.max(...[...left.landedMm, ...chased.landedMm].map(Math.abs)) || 1;
  const x = (mm: number): number => BOX.left + ((mm / most + 1) / 2) * (BOX.width - BOX.left - BOX.right);
  const rows: readonly (readonly [string, FunnelStrip])[] = [
    ['left alone', left],
    ['typed back each time', chased],
  ];
  return (
    <figure className="m-0 mt-3">
      <svg
        className="paper w-100"
        viewBox={`0 0 ${BOX.width} ${2 * STRIP}`}
        role="img"
        aria-label={`${LOADS} simulated loads of a true rig: left alone they land ${lengthText(left.rmsMm, unit)} off on average, typed back each time ${lengthText(chased.rmsMm, unit)}.`}
      >
        <path d={`M${x(0)} 4V${2 * STRIP - 4}`} stroke="var(--rp-plumb)" strokeWidth="1.5" />
        {rows.map(([words, { landedMm, rmsMm }], row) => (
          <g key={words} transform={`translate(0 ${row * STRIP})`}>
            <text x={BOX.left} y={15} style={{ fontSize: 14 }}>
              {words}
            </text>
            {landedMm.map((mm, i) => (
              <circle
                key={i}
                cx={x(mm)}
                cy={BOX.words + 8 + ((i * 7) % (BOX.dots - 12))}
                r="3"
                fill="none"
                stroke="var(--rp-cut)"
                strokeWidth="1.4"
              />
            ))}
            <text x={BOX.width - BOX.right} y={15} textAnchor="end" className="mono" style={{ fontSize: 14 }}>
              ± {lengthText(rmsMm, unit)}
            </text>
          </g>
        ))}
      </svg>
      <figcaption className="small-print">
        {LOADS} loads of a rig that is true, with this rig’s scatter, simulated: chasing each load’s reading
        spreads them further.
      </figcaption>
    </figure>
  );
}
