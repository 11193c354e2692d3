import { extent, line, scaleLinear, scaleUtc } from 'd3';

import { dateText } from '@/clock/dates';
import { atPageEnd, middleOfPage, placeOnPage, type PagePick } from '@/core/setup';
import { OFFSET_AXES } from '@/core/units';
import { OwnPageForm } from '@/features/forms/setup/OwnPageForm';
import type { OwnPage } from '@/server/setups/ownPage';
import { across, ChartSvg, Days, Zero } from '@/ui/charts/frame';
import { DataTable, type Column, ears } from '@/ui/tables/DataTable';

import { TakeBackRun } from './TakeBackRun';

/** The machine's own calibration: what was picked over time, in its own numbers. */
export function OwnPages({
  setupId,
  medium,
  runs,
}: {
  setupId: string;
  medium: string;
  runs: readonly OwnPage[];
}) {
  const last = runs.at(-1) ?? null;
  return (
    <section className="panel">
      <h2>The machine’s own calibration</h2>
      {runs.length > 1 && <Picks runs={runs} />}
      {runs.length > 0 && (
        <DataTable
          label="Runs of the machine’s own calibration"
          rows={runs.toReversed()}
          keyOf={(run) => run.id}
          columns={[
            [
              'when',
              (run) => (
                <>
                  <span className="text-nowrap">{dateText(run.at, 'd MMM yyyy')}</span>
                  <br />
                  <span className="small-print">{run.by}</span>
                </>
              ),
            ],
            ['on', (run) => run.medium],
            ['coarse', (run) => run.coarse],
            ...OFFSET_AXES.map((axis): Column<OwnPage> => [
              axis,
              (run) => (
                <>
                  {own(run[axis].pick)}
                  {atPageEnd(run).includes(axis) && (
                    <>
                      <br />
                      <span className="small-print">end of the range</span>
                    </>
                  )}
                </>
              ),
              'num mono',
            ]),
            ['it said', (run) => run.answer],
            [
              ears('take back'),
              (run) => <TakeBackRun id={run.id} when={dateText(run.at, 'd MMM yyyy')} />,
              'text-end',
            ],
          ]}
        />
      )}
      <details className="working" open={runs.length === 0}>
        <summary>Note a run of it</summary>
        <OwnPageForm setupId={setupId} medium={medium} before={last} />
      </details>
    </section>
  );
}

/** A label as the machine's page has it, with a true minus. */
const own = (label: string): string => label.replace('-', '−').toUpperCase();

const BOX = { width: 540, height: 190, left: 64, right: 96, top: 12, bottom: 30 };
const SERIES = [
  ['across', 'across', undefined],
  ['along', 'along the feed', '6 3'],
] as const;

/** How far a pick lies from the middle of its range: −1 and 1 are the range's ends. */
function fromMiddle(axis: PagePick): number {
  const [middle, last] = [middleOfPage(axis), placeOnPage(axis, axis.to) ?? 0];
  const far = Math.max(middle, last - middle);
  return far > 0 ? ((placeOnPage(axis, axis.pick) ?? middle) - middle) / far : 0;
}

/** Both picks over time, each against its own range; lines are the ends and the middle of the ranges. */
function Picks({ runs }: { runs: readonly OwnPage[] }) {
  const last = runs.at(-1)!;
  const x = scaleUtc(extent(runs, (r) => r.at) as [Date, Date], [BOX.left + 8, across(BOX).to]);
  const y = scaleLinear([-1, 1], [BOX.height - BOX.bottom, BOX.top]);
  const both = (field: 'from' | 'to'): string =>
    [...new Set(OFFSET_AXES.map((axis) => own(last[axis][field])))].join(' · ');
  const apart = y(fromMiddle(last.across)) - y(fromMiddle(last.along));
  return (
    <ChartSvg
      className="paper mb-2"
      box={BOX}
      height={BOX.height}
      label="Both picks over time, from the first to the last line of the machine’s page"
    >
      {(
        [
          [-1, both('from')],
          [0, 'middle'],
          [1, both('to')],
        ] as const
      ).map(([v, words]) => (
        <g key={v}>
          {v === 0 ? (
            <Zero box={BOX} at={y(v)} thin />
          ) : (
            <path
              d={`M${BOX.left} ${y(v)}H${across(BOX).to}`}
              stroke="var(--rp-ink-soft)"
              strokeDasharray="1.5 4"
            />
          )}
          <text x={BOX.left - 6} y={y(v) + 4} textAnchor="end" className="mono" style={{ fontSize: 13 }}>
            {words}
          </text>
        </g>
      ))}
      {SERIES.map(([axis, words, dash]) => (
        <g key={axis} stroke="var(--rp-cut)" fill="none">
          <path
            d={line<OwnPage>(
              (r) => x(r.at),
              (r) => y(fromMiddle(r[axis])),
            )(runs)!}
            strokeWidth="2"
            strokeDasharray={dash}
          />
          {runs.map((r) => (
            <circle
              key={r.id}
              cx={x(r.at)}
              cy={y(fromMiddle(r[axis]))}
              r="3.4"
              fill="var(--rp-paper)"
              strokeWidth="1.8"
            />
          ))}
          <text
            x={across(BOX).to + 8}
            y={y(fromMiddle(last[axis])) + ((axis === 'across') === apart <= 0 ? -3 : 13)}
            stroke="none"
            fill="var(--rp-ink)"
            style={{ fontSize: 13 }}
          >
            {words}
          </text>
        </g>
      ))}
      <Days box={BOX} y={BOX.height - 8} first={runs[0]!.at} last={last.at} />
    </ChartSvg>
  );
}
