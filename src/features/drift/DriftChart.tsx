import { line, scaleLinear } from 'd3';

import type { DriftRun } from '@/core/drift';
import {
  directionWord,
  fromLongMm,
  lengthFigure,
  LONG_UNIT,
  type LengthUnit,
  type OffsetAxis,
} from '@/core/units';
import { across, ChartSvg, Ruler, Zero } from '@/ui/charts/frame';

export interface DriftBandPoint {
  readonly yM: number;
  readonly meanMm: number;
  readonly sdMm: number;
}

/** Readings between two registrations, from the first of them: distance in m and offset in mm. */
export function driftPieces(runs: readonly DriftRun[]): { yM: number; mm: number }[][] {
  return runs.flatMap((run) =>
    run.registeredAtM.flatMap((from, i) => {
      const to = run.registeredAtM[i + 1] ?? Infinity;
      const own = run.readings.filter((r) => r.yM >= from && r.yM < to);
      return own.length > 1
        ? [own.map((p) => ({ yM: p.yM - own[0]!.yM, mm: p.offsetMm - own[0]!.offsetMm }))]
        : [];
    }),
  );
}

const BOX = { width: 720, height: 260, left: 62, right: 16, top: 20, bottom: 34 };

/** Pieces on record along their length, each from its first check, with what is expected of the next. */
export function DriftChart({
  axis,
  runs,
  band,
  unit,
}: {
  axis: OffsetAxis;
  runs: readonly DriftRun[];
  band: readonly DriftBandPoint[];
  unit: LengthUnit;
}) {
  const lines = driftPieces(runs);
  const reach = Math.max(
    0.1,
    ...lines.flat().map((p) => Math.abs(p.mm)),
    ...band.map((p) => Math.abs(p.meanMm) + 1.96 * p.sdMm),
  );
  const x = scaleLinear([0, band.at(-1)?.yM ?? 1], [across(BOX).from, across(BOX).to]);
  // The same axis in the unit of long lengths, for its figures.
  const long = scaleLinear([0, fromLongMm(1000 * x.domain()[1]!, unit)], x.range());
  const y = scaleLinear([-reach, reach], [BOX.height - BOX.bottom, BOX.top]).nice(4);
  const path = line<{ yM: number; mm: number }>(
    (p) => x(p.yM),
    (p) => y(p.mm),
  );
  const edge = (k: number) => band.map((p) => ({ yM: p.yM, mm: p.meanMm + k * p.sdMm }));
  return (
    <ChartSvg
      box={BOX}
      height={BOX.height}
      label={`Offsets ${axis === 'along' ? 'along the feed' : 'across the media'} of ${lines.length} runs along their length, with the band that 95 of 100 runs should stay in`}
    >
      <path
        d={`${path(edge(1.96))!}L${[...edge(-1.96)]
          .reverse()
          .map((p) => `${x(p.yM)} ${y(p.mm)}`)
          .join('L')}Z`}
        fill="color-mix(in srgb, var(--rp-print) 12%, transparent)"
      />
      <path d={path(edge(0))!} fill="none" stroke="var(--rp-print)" strokeWidth="2" />
      <Ruler box={BOX} y={y} words={(mm) => lengthFigure(mm, unit)} />
      {long.ticks(6).map((tick) => (
        <text key={tick} x={long(tick)} y={BOX.height - 10} textAnchor="middle" className="mono soft">
          {tick} {LONG_UNIT[unit]}
        </text>
      ))}
      <Zero box={BOX} at={y(0)} />
      <text x={across(BOX).to} y={BOX.top + 2} textAnchor="end" className="soft">
        {directionWord(1, axis)}
      </text>
      <text x={across(BOX).to} y={BOX.height - BOX.bottom - 4} textAnchor="end" className="soft">
        {directionWord(-1, axis)}
      </text>
      {lines.slice(-60).map((run, i) => (
        <g key={i}>
          <path
            d={path(run)!}
            fill="none"
            stroke="var(--rp-cut)"
            strokeWidth="1.3"
            strokeDasharray="6 3"
            opacity="0.75"
          />
          {run.map((p, k) => (
            <circle key={k} cx={x(p.yM)} cy={y(p.mm)} r="2.2" fill="var(--rp-cut)" />
          ))}
        </g>
      ))}
    </ChartSvg>
  );
}
