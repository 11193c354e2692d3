import { line, scaleLinear, scaleUtc, type ScaleLinear, type ScaleTime } from 'd3';
import type { Ref } from 'react';

import type { RigChartKind } from '@/core/control';
import { lengthFigure, signedLengthFigure, type LengthUnit } from '@/core/units';
import { Events, eventsIn } from '@/ui/charts/Events';
import { Beyond, ChartSvg, Ruler, Shade, Zero } from '@/ui/charts/frame';

import type { ChartPoint, ChartsView } from './charts.view';

const BOX = { width: 900, left: 58, right: 16, top: 12, main: 270, gap: 34, steps: 90 };
const RIGHT = BOX.width - BOX.right;
const LABEL = { fontSize: 13 };

type X = ScaleTime<number, number>;
type Y = ScaleLinear<number, number>;

/** The chart itself: loads as dots, what is held against the limits as a line, the limits shaded, breaks where new. */
export function ChartPicture({
  chart,
  kind,
  name,
  events,
  unit,
  ref,
}: {
  chart: NonNullable<ChartsView['chart']>;
  kind: RigChartKind;
  name: string;
  events: readonly { readonly at: number; readonly words: string }[];
  unit: LengthUnit;
  ref?: Ref<SVGSVGElement>;
}) {
  const { points } = chart;
  const [first, last] = [points[0]!.at, points.at(-1)!.at];
  const x = scaleUtc([new Date(first), new Date(last)], [BOX.left + 8, RIGHT - 8]);
  const happened = eventsIn(
    events.map((e) => ({ ...e, at: new Date(e.at) })),
    [new Date(first), new Date(last)],
    x,
    BOX,
  );
  const bottom = BOX.top + BOX.main;
  const low = kind === 'loads' ? bottom + BOX.gap + BOX.steps : bottom;
  return (
    <ChartSvg
      ref={ref}
      className="paper terms-chart wide-chart"
      box={BOX}
      height={low + 26 + happened.heightPx + 6}
      label={name}
    >
      <Events events={happened} top={BOX.top} bottom={low} words={{ at: low + 38 }} />
      {chart.ticks.map((t) => (
        <text
          key={t.at}
          x={x(new Date(t.at))}
          y={low + 20}
          textAnchor="middle"
          style={LABEL}
          fill="var(--rp-ink-soft)"
        >
          {t.words}
        </text>
      ))}
      <Main points={points} kind={kind} x={x} unit={unit} />
      {kind === 'loads' && (
        <g transform={`translate(0 ${bottom + BOX.gap})`}>
          <Steps points={points} limit={chart.rangeLimit!} x={x} unit={unit} />
        </g>
      )}
    </ChartSvg>
  );
}

function Main({
  points,
  kind,
  x,
  unit,
}: {
  points: readonly ChartPoint[];
  kind: RigChartKind;
  x: X;
  unit: LengthUnit;
}) {
  const all = points.flatMap((p) => [
    p.statistic,
    ...[p.value, p.below, p.lower, p.upper].filter((v) => v !== null),
    0,
  ]);
  const y = scaleLinear([Math.min(...all), Math.max(...all)], [BOX.top + BOX.main, BOX.top]).nice(6);
  const stretches = stretchesOf(points);
  const dots = kind === 'averages' || kind === 'loads';
  return (
    <>
      <Ruler
        box={BOX}
        y={y}
        words={(v) => (kind === 'all-terms' ? String(v) : signedLengthFigure(v, unit))}
        count={6}
        lines
      />
      {stretches.map((own) => (
        <Limits key={own[0]!.at} points={own} x={x} y={y} />
      ))}
      <Zero box={BOX} at={y(0)} thin />
      {stretches.map((own) => (
        <g key={own[0]!.at}>
          <Run points={own} x={x} y={y} of={(p) => p.statistic} heavy={kind !== 'loads'} />
          {kind === 'sums' && <Run points={own} x={x} y={y} of={(p) => p.below!} heavy />}
        </g>
      ))}
      {dots &&
        points.map((p) => (
          <circle
            key={p.at}
            cx={x(new Date(p.at))}
            cy={y(p.value!)}
            r={points.length > 200 ? 1.6 : 2.8}
            fill="var(--rp-cut)"
          />
        ))}
      {points
        .filter((p) => p.signal)
        .map((p) => (
          <Beyond key={p.at} x={x(new Date(p.at))} y={y(beyondAt(p))} />
        ))}
    </>
  );
}

/** Of two sums the one that is beyond. */
const beyondAt = (p: ChartPoint): number =>
  p.below !== null && p.lower !== null && p.below < p.lower ? p.below : p.statistic;

/** Pieces between which something is new. */
function stretchesOf(points: readonly ChartPoint[]): ChartPoint[][] {
  const all: ChartPoint[][] = [];
  for (const p of points) {
    if (p.anew !== null || all.length === 0) all.push([]);
    all.at(-1)!.push(p);
  }
  return all;
}

function Limits({ points, x, y }: { points: readonly ChartPoint[]; x: X; y: Y }) {
  const told = points.filter((p) => p.upper !== null);
  if (told.length === 0) return null;
  const at = (p: ChartPoint): number => x(new Date(p.at));
  // A stretch of one load still has limits: as wide as its dot.
  const wide = told.length > 1 ? 0 : 6;
  const over = told
    .map((p) => `${at(p) - wide} ${y(p.upper!)}`)
    .concat(`${at(told.at(-1)!) + wide} ${y(told.at(-1)!.upper!)}`);
  const under = [...told]
    .reverse()
    .map((p) => `${at(p) + wide} ${y(p.lower!)}`)
    .concat(`${at(told[0]!) - wide} ${y(told[0]!.lower!)}`);
  return (
    <>
      <path d={`M${over.join('L')}L${under.join('L')}Z`} fill="var(--rp-ink)" opacity="0.07" />
      <path
        d={`M${at(told[0]!)} ${y(told[0]!.centre)}H${at(told.at(-1)!)}`}
        fill="none"
        stroke="var(--rp-ink-soft)"
        strokeDasharray="1.5 4"
      />
    </>
  );
}

function Run({
  points,
  x,
  y,
  of,
  heavy,
}: {
  points: readonly ChartPoint[];
  x: X;
  y: Y;
  of: (p: ChartPoint) => number;
  heavy: boolean;
}) {
  return (
    <path
      d={line<ChartPoint>(
        (p) => x(new Date(p.at)),
        (p) => y(of(p)),
      )(points)!}
      fill="none"
      stroke={heavy ? 'var(--rp-print)' : 'var(--rp-cut)'}
      strokeWidth={heavy ? 2.2 : 1.2}
      strokeDasharray={heavy ? undefined : '5 4'}
    />
  );
}

/** How far each load lies from the one before. */
function Steps({
  points,
  limit,
  x,
  unit,
}: {
  points: readonly ChartPoint[];
  limit: number;
  x: X;
  unit: LengthUnit;
}) {
  const told = points.filter((p) => p.range !== null);
  const y = scaleLinear([0, Math.max(limit, ...told.map((p) => p.range!))], [BOX.steps, 0]).nice(3);
  return (
    <>
      <Ruler box={BOX} y={y} words={(v) => lengthFigure(v, unit)} count={3} lines />
      <Shade box={BOX} from={y(limit)} to={y(0)} />
      <Zero box={BOX} at={y(0)} thin />
      {told.map((p) => (
        <path
          key={p.at}
          d={`M${x(new Date(p.at))} ${y(0)}V${y(p.range!)}`}
          fill="none"
          stroke="var(--rp-print)"
          strokeWidth={told.length > 200 ? 1 : 2.4}
        />
      ))}
      {told
        .filter((p) => p.range! > limit)
        .map((p) => (
          <Beyond key={p.at} x={x(new Date(p.at))} y={y(p.range!)} />
        ))}
      <text x={BOX.left} y={-8} style={LABEL} fill="var(--rp-ink-soft)">
        step from the load before, {unit}
      </text>
    </>
  );
}
