'use client';

import { useRouter } from 'next/navigation';
import { useRef, useState, type RefObject } from 'react';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';

import { dayText, readDay } from '@/clock/dayText';
import type { RigChartKind } from '@/core/control';
import { lengthFigure, signedLengthFigure, type LengthUnit } from '@/core/units';
import { DataTable, type Column } from '@/ui/tables/DataTable';

import { BrushStrip } from './BrushStrip';
import { ChartPicture } from './ChartPicture';
import type { ChartPoint, ChartsView } from './charts.view';
import { savePng, saveSvg } from './savePicture';

/** So many loads the table shows, the newest; the file has all. */
const ROWS = 200;

/** A chart with what can be done with it: a part chosen, its picture and its figures taken along. */
export function ChartDesk({
  chart,
  kind,
  name,
  events,
  days,
  address,
  csv,
  unit,
}: {
  chart: NonNullable<ChartsView['chart']>;
  kind: RigChartKind;
  name: string;
  events: readonly { readonly at: number; readonly words: string }[];
  /** The days that were asked for, `2026-03-29`; null: as far as there are loads. */
  days: { readonly from: string | null; readonly to: string | null };
  /** Of this chart over the whole record. */
  address: string;
  csv: string;
  unit: LengthUnit;
}) {
  const router = useRouter();
  const picture = useRef<SVGSVGElement>(null);
  const show = (from: string | null, to: string | null): void => {
    const part = [from && `from=${from}`, to && `to=${to}`].filter(Boolean).join('&');
    router.replace(part ? `${address}&${part}` : address, { scroll: false });
  };
  return (
    <>
      <div className="overflow-auto" role="group" aria-label="Chart" tabIndex={0}>
        <ChartPicture ref={picture} chart={chart} kind={kind} name={name} events={events} unit={unit} />
      </div>
      <p className="small-print mb-1">
        {LEGEND[kind]} Shaded: what scatter alone does. A diamond: beyond it. A line breaks where it was
        corrected or something happened.{' '}
        {kind === 'all-terms' ? '' : `In ${unit}, at the corner that the term moves most.`}
      </p>
      <BrushStrip whole={chart.whole} seen={seenOf(chart.points)} onChoose={show} />
      <div className="d-flex flex-wrap gap-2 align-items-end mt-2 no-print">
        <Day label="from" value={days.from ?? ''} onChoose={(from) => show(from, days.to)} />
        <Day label="to" value={days.to ?? ''} onChoose={(to) => show(days.from, to)} />
        <Button
          variant="plain"
          className="btn-small"
          disabled={!days.from && !days.to}
          onClick={() => show(null, null)}
        >
          The whole record
        </Button>
        <span className="ms-auto d-flex flex-wrap gap-2">
          <Save picture={picture} name={name} />
          <a className="btn btn-plain btn-small" href={csv}>
            CSV
          </a>
        </span>
      </div>
      <Figures chart={chart} kind={kind} unit={unit} />
    </>
  );
}

const seenOf = (points: readonly ChartPoint[]) => ({ from: points[0]!.at, to: points.at(-1)!.at });

function Day({
  label,
  value,
  onChoose,
}: {
  label: string;
  value: string;
  onChoose: (day: string | null) => void;
}) {
  const [wrong, setWrong] = useState(false);
  const id = `day-${label}`;
  const take = (typed: string): void => {
    const day = typed.trim() === '' ? '' : readDay(typed);
    setWrong(day === null);
    if (day !== null && day !== value) onChoose(day || null);
  };
  return (
    <span className="d-flex gap-2 align-items-center">
      <FormLabel htmlFor={id} className="soft fw-normal mb-0">
        {label}
      </FormLabel>
      <FormControl
        key={value}
        id={id}
        className="day-field"
        defaultValue={dayText(value)}
        placeholder="9 Aug 2026"
        autoComplete="off"
        maxLength={20}
        aria-invalid={wrong}
        aria-describedby={wrong ? `${id}-say` : undefined}
        onBlur={(e) => take(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
      {wrong && (
        <span id={`${id}-say`} className="field-error">
          Type a day as 9 Aug 2026.
        </span>
      )}
    </span>
  );
}

function Save({ picture, name }: { picture: RefObject<SVGSVGElement | null>; name: string }) {
  return (
    <>
      <Button
        variant="plain"
        className="btn-small"
        onClick={() => picture.current && saveSvg(picture.current, name)}
      >
        SVG
      </Button>
      <Button
        variant="plain"
        className="btn-small"
        onClick={() => picture.current && void savePng(picture.current, name)}
      >
        PNG
      </Button>
    </>
  );
}

function Figures({
  chart,
  kind,
  unit,
}: {
  chart: NonNullable<ChartsView['chart']>;
  kind: RigChartKind;
  unit: LengthUnit;
}) {
  const rows = chart.points.slice(-ROWS).reverse();
  const figure = (mm: number | null): string =>
    mm === null ? '—' : kind === 'all-terms' ? mm.toFixed(1) : signedLengthFigure(mm, unit);
  return (
    <details className="working">
      <summary>The figures</summary>
      <p className="small-print">
        {kind === 'all-terms' ? 'T², without unit.' : `In ${unit}, at the corner that the term moves most.`}{' '}
        {chart.points.length > ROWS || chart.loads > chart.points.length
          ? `The newest ${rows.length} that are drawn, of ${chart.loads} loads; the CSV has all.`
          : `${chart.loads} loads.`}
      </p>
      <DataTable
        label="The figures of the chart"
        tight
        rows={rows}
        keyOf={(p) => p.at}
        columns={[
          ['when', (p) => p.day, 'text-nowrap'],
          ...(kind === 'all-terms'
            ? []
            : [['load', (p) => figure(p.value), 'num'] satisfies Column<(typeof rows)[number]>]),
          [
            STATISTIC[kind],
            (p) =>
              kind === 'loads' ? (p.range === null ? '—' : lengthFigure(p.range, unit)) : figure(p.statistic),
            'num',
          ],
          ...(kind === 'sums'
            ? [['downwards', (p) => figure(p.below), 'num'] satisfies Column<(typeof rows)[number]>]
            : []),
          [
            'usual',
            (p) => {
              const usual =
                p.upper === null
                  ? 'not told yet'
                  : kind === 'all-terms'
                    ? `to ${p.upper.toFixed(1)}`
                    : `${figure(p.lower)} to ${figure(p.upper)}`;
              return `${usual}${p.signal ? ' · beyond' : ''}`;
            },
            'num text-nowrap',
          ],
          [
            'new',
            (p) => (p.anew === 'corrected' ? 'corrected' : p.anew === 'event' ? 'something happened' : ''),
          ],
        ]}
      />
    </details>
  );
}

const LEGEND: Readonly<Record<RigChartKind, string>> = {
  loads: 'Dots: the loads.',
  averages: 'Dots: the loads. Line: their running average.',
  sums: 'Lines: what adds up, upwards and downwards.',
  'all-terms': 'Line: T².',
};

const STATISTIC: Readonly<Record<RigChartKind, string>> = {
  loads: 'step',
  averages: 'average',
  sums: 'upwards',
  'all-terms': 'T²',
};
