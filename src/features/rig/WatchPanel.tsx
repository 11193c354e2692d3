import { line, scaleLinear, scaleUtc } from 'd3';

import type { WatchedAxis } from '@/core/control';
import { lengthText, signedLengthFigure, type LengthUnit } from '@/core/units';
import { dateText } from '@/clock/dates';

import { across, ChartSvg, Days, Figures, Scrolls } from '@/ui/charts/frame';
import { watchWords } from '@/ui/words/watchWords';
import { DataTable } from '@/ui/tables/DataTable';

const BOX = { width: 540, left: 96, right: 16, band: 96, gap: 14, top: 8 };

/** How a medium's loads land once what was typed is taken out, averaged, against what is usual for it. */
export function WatchPanel({
  media,
  axes,
  unit,
}: {
  media: string;
  axes: readonly WatchedAxis[];
  unit: LengthUnit;
}) {
  return (
    <section className="panel">
      <h2>Trend: {media}</h2>
      <p className={axes.some((a) => a.watch?.since) ? 'notice' : ''}>{watchWords(axes, unit)}</p>
      {axes.some((a) => a.watch) && (
        <>
          <p className="small-print mb-1">
            Dots: each load since it was corrected, {unit}. Line: their running average. Shaded: what scatter
            alone does to it.
          </p>
          <Scrolls label="Watched shifts">
            <ChartSvg
              className="paper terms-chart"
              box={BOX}
              height={BOX.top + 2 * (BOX.band + BOX.gap) + 22}
              label={`Shifts of ${media} over time against what is usual`}
            >
              {axes.map((a, i) => (
                <g key={a.axis} transform={`translate(0 ${BOX.top + i * (BOX.band + BOX.gap)})`}>
                  <text x={6} y={BOX.band / 2} style={{ fontSize: 13, fontWeight: 700 }}>
                    shift {a.axis}
                  </text>
                  {a.watch && <Band axis={a} unit={unit} dates={i === axes.length - 1} />}
                </g>
              ))}
            </ChartSvg>
          </Scrolls>
          <Figures summary="The figures of the watch">
            <WatchTable axes={axes} unit={unit} />
          </Figures>
        </>
      )}
    </section>
  );
}

function Band({ axis: { watch }, unit, dates }: { axis: WatchedAxis; unit: LengthUnit; dates: boolean }) {
  if (!watch) return null;
  const { loads, chart } = watch;
  const average = chart.statistic as readonly number[];
  const all = [...loads.map((l) => l.mm), ...average, ...chart.upper, ...chart.lower];
  const [first, last] = [loads[0]!.at, loads.at(-1)!.at];
  const x = scaleUtc([first, last], [across(BOX).from + 8, across(BOX).to - 8]);
  const y = scaleLinear([Math.min(...all), Math.max(...all)], [BOX.band - 8, 8]);
  const at = (values: readonly number[]): [number, number][] => values.map((v, i) => [x(loads[i]!.at), y(v)]);
  const path = line();
  return (
    <>
      <path
        d={`${path(at(chart.upper))!}L${at(chart.lower)
          .reverse()
          .map((p) => p.join(' '))
          .join('L')}Z`}
        fill="var(--rp-ink)"
        opacity="0.07"
      />
      <path
        d={`M${BOX.left} ${y(chart.centre)}H${BOX.width - BOX.right}`}
        stroke="var(--rp-ink-soft)"
        strokeDasharray="1.5 4"
      />
      <path d={path(at(average))!} fill="none" stroke="var(--rp-print)" strokeWidth="2" />
      {loads.map((l, i) => (
        <circle
          key={i}
          cx={x(l.at)}
          cy={y(l.mm)}
          r={chart.signals.includes(i) ? 4 : 2.5}
          fill={chart.signals.includes(i) ? 'var(--rp-plumb)' : 'var(--rp-cut)'}
        />
      ))}
      <text x={6} y={BOX.band / 2 + 17} className="mono soft" style={{ fontSize: 13 }}>
        {signedLengthFigure(chart.centre, unit)}
      </text>
      {dates && <Days box={BOX} y={BOX.band + 18} first={first} last={last} />}
    </>
  );
}

function WatchTable({ axes, unit }: { axes: readonly WatchedAxis[]; unit: LengthUnit }) {
  return (
    <DataTable
      label="The figures of the watch"
      tight
      rows={axes.flatMap(({ axis, watch }) =>
        (watch?.loads ?? []).map((load, i) => ({
          ...{ axis, load, average: (watch!.chart.statistic as number[])[i]! },
          ...{ centre: watch!.chart.centre, upper: watch!.chart.upper[i]! },
        })),
      )}
      columns={[
        ['when', (l) => dateText(l.load.at, 'd MMM yyyy'), 'text-nowrap'],
        ['shift', (l) => l.axis],
        ['load', (l) => signedLengthFigure(l.load.mm, unit), 'num'],
        ['average', (l) => signedLengthFigure(l.average, unit), 'num'],
        [
          'usual',
          (l) => `${signedLengthFigure(l.centre, unit)} ± ${lengthText(l.upper - l.centre, unit)}`,
          'num text-nowrap',
        ],
      ]}
    />
  );
}
