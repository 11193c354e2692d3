import { scaleLinear } from 'd3';

import { directionWord, lengthFigure, lengthText, type LengthUnit, type OffsetAxis } from '@/core/units';

import type { Run } from '@/server/runs/run';
import type { NextSection } from '@/server/runs/outlook';
import { across, ChartSvg, Limit, Zero } from '@/ui/charts/frame';

import { chartSections, type ChartSection } from './runView';

const BOX = { width: 720, height: 178, left: 66, right: 16, top: 16, bottom: 30 };
const TITLES = { along: 'along the feed', across: 'across the media' } as const;

/** Both axes of a run, section by section, with what the signs mean. */
export function ControlFigure({
  run,
  outlooks,
  unit,
}: {
  run: Run;
  outlooks: readonly NextSection[];
  unit: LengthUnit;
}) {
  return (
    <figure className="paper m-0 p-2">
      <h2 className="m-2">Where the cuts landed, {unit}, and where they were expected</h2>
      {(['along', 'across'] as const).map((axis) => (
        <ControlChart
          key={axis}
          axis={axis}
          sections={chartSections(run, outlooks, axis)}
          total={run.sections.length}
          toleranceMm={run.plan.request.toleranceMm}
          unit={unit}
        />
      ))}
      <p className="small-print px-2 mb-1">
        Circle: read, with twice its uncertainty. Band: where 95 of 100 were expected. Triangle: beyond what
        is allowed.
      </p>
    </figure>
  );
}

/** Checks of one axis section by section, the band they were expected in, and what is allowed. */
function ControlChart({
  axis,
  sections,
  total,
  toleranceMm,
  unit,
}: {
  axis: OffsetAxis;
  sections: readonly ChartSection[];
  total: number;
  toleranceMm: number;
  unit: LengthUnit;
}) {
  const reach = Math.max(
    1.15 * toleranceMm,
    ...sections.flatMap((s) => s.checks.map((c) => Math.abs(c.offsetMm) * 1.1)),
  );
  const from = sections[0]?.index ?? 1;
  const to = Math.max(from + 3, Math.min(total, sections.at(-1)?.index ?? 4));
  const x = scaleLinear([from - 0.5, to + 0.5], [across(BOX).from, across(BOX).to]);
  const y = scaleLinear([-reach, reach], [BOX.height - BOX.bottom, BOX.top]);
  const half = (x(from + 1) - x(from)) * 0.42;
  const clip = (mm: number): number => y(Math.max(-reach, Math.min(reach, mm)));
  const read = sections.flatMap((s) => s.checks).length;
  return (
    <ChartSvg
      box={BOX}
      height={BOX.height}
      label={`Checks ${TITLES[axis]}: ${read} read, ${lengthText(toleranceMm, unit)} allowed each way`}
    >
      <text x={BOX.left} y={12} className="soft">
        {TITLES[axis]}
      </text>
      {[toleranceMm, -toleranceMm].map((mm) => (
        <g key={mm}>
          <Limit box={BOX} at={y(mm)} />
          <text x={BOX.left - 6} y={y(mm)} dy="0.35em" textAnchor="end" className="mono soft">
            {lengthFigure(Math.abs(mm), unit)}
          </text>
          <text x={across(BOX).to} y={mm > 0 ? y(mm) - 6 : y(mm) + 17} textAnchor="end" className="soft">
            {directionWord(mm, axis)}
          </text>
        </g>
      ))}
      {sections.map((s) => (
        <g key={s.index}>
          <rect
            x={x(s.index) - half}
            y={clip(s.expectedMm + s.halfWidthMm)}
            width={2 * half}
            height={Math.max(1, clip(s.expectedMm - s.halfWidthMm) - clip(s.expectedMm + s.halfWidthMm))}
            fill={`color-mix(in srgb, var(--rp-print) ${s.state === 'next' ? 26 : 13}%, transparent)`}
            stroke={s.state === 'next' ? 'var(--rp-print)' : 'none'}
          />
          <text x={x(s.index)} y={BOX.height - 10} textAnchor="middle" className="mono soft">
            {s.index}
          </text>
          {s.checks.map((c) => {
            const cx = x(s.index) + (c.place === 'first row' ? -0.4 : 0.4) * half;
            const out = Math.abs(c.offsetMm) > toleranceMm;
            return (
              <g key={c.id} transform={`translate(${cx} ${clip(c.offsetMm)})`}>
                <path
                  d={`M0 ${clip(c.offsetMm + 2 * c.uMm) - clip(c.offsetMm)}V${clip(c.offsetMm - 2 * c.uMm) - clip(c.offsetMm)}`}
                  stroke="var(--rp-cut)"
                />
                {out ? (
                  <path d="M0 -7L7 6H-7Z" fill="var(--rp-ink)" />
                ) : (
                  <circle r="4.6" fill="var(--rp-panel)" stroke="var(--rp-cut)" strokeWidth="2.2" />
                )}
              </g>
            );
          })}
        </g>
      ))}
      <Zero box={BOX} at={y(0)} />
    </ChartSvg>
  );
}
