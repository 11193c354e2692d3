'use client';

import { useRef, useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import FormLabel from 'react-bootstrap/FormLabel';
import FormRange from 'react-bootstrap/FormRange';
import FormSelect from 'react-bootstrap/FormSelect';

import { labelText, ringLabelMm, type RingRowDrawn } from '@/core/proof';
import { offsetText, type LengthUnit, type OffsetAxis } from '@/core/units';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import { useHydrated } from '@/ui/useHydrated';

import { keepOther } from '../actions';
import { CrossFirst } from './CrossFirst';
import { MAGNIFIED, RingPicture } from './RingPicture';
import { useDeskKeys } from './useDeskKeys';

/** A row of rings of this set, where it stands, and what was read of it. */
export interface RingToRead {
  readonly stationId: string;
  readonly row: RingRowDrawn;
  /** The ring that was kept as the even one; null: not read. */
  readonly kept: number | null;
  /** Of a simulated rig: how far its cut is off there, mm. */
  readonly simulatedMm: number | null;
}

const nameOf = ({ stationId, row }: RingToRead): string => `${stationId} ${row.axis}`;

const MEASURES: Readonly<Record<OffsetAxis, string>> = {
  across: 'left and right of the hole',
  along: 'near and far of the hole',
};

/** Reading by the even border: of each row, the ring that is even. */
export function RingDesk({
  passId,
  rows,
  keys,
  coarse = false,
  unit,
}: {
  passId: string;
  rows: readonly RingToRead[];
  /** The keys are its own: arrows move along the row, Enter keeps the ring. */
  keys: boolean;
  /** Nobody knows whether the rings reach: the coarse cross comes first. */
  coarse?: boolean;
  unit: LengthUnit;
}) {
  const [near, setNear] = useState(!coarse);
  const firstOpen = rows.findIndex((r) => r.kept === null);
  const [index, setIndex] = useState(Math.max(0, firstOpen));
  const [ring, setRing] = useState(rows[Math.max(0, firstOpen)]!.kept ?? 0);
  const [said, setSaid] = useState('');
  const [, start] = useTransition();
  const at = useRef(index);
  const ready = useHydrated();
  const here = rows[index]!;
  const { row } = here;
  const offsetMm = ringLabelMm(row, ring);
  const between = !Number.isInteger(ring);
  const words = between
    ? `between ${labelText(ringLabelMm(row, Math.floor(ring)), unit)} and ${labelText(ringLabelMm(row, Math.ceil(ring)), unit)}`
    : labelText(offsetMm, unit);
  const goTo = (next: number): void => {
    at.current = next;
    setIndex(next);
    setRing(rows[next]!.kept ?? 0);
  };
  const nudge = (by: number): void => setRing(Math.max(-row.half, Math.min(row.half, ring + by)));
  const keep = (): void =>
    start(async () => {
      const given = { way: 'rings', passId, stationId: here.stationId, axis: row.axis, ring } as const;
      const done = await keeping(['ring', given], (stamp) => keepOther(given, stamp));
      if (!done.ok) return setSaid(whyNotDone(done));
      setSaid([`${nameOf(here)} kept.`, ...done.value.doubts.map((d) => d.message)].join(' '));
      // Pressed twice it is kept once; who went on meanwhile stays there.
      if (at.current === index && index + 1 < rows.length) goTo(index + 1);
    });
  useDeskKeys(keys && near && ready, false, (kind, { by }) => {
    if (kind === 'nudge') nudge(by! / 2);
    else if (kind === 'enter') keep();
    else if (kind === 'on' || kind === 'back')
      goTo((index + (kind === 'on' ? 1 : -1) + rows.length) % rows.length);
  });
  const read = rows.filter((r) => r.kept !== null).length;
  if (!near)
    return (
      <CrossFirst
        passId={passId}
        stationId={here.stationId}
        reachMm={row.half * row.stepMm}
        onNear={() => setNear(true)}
        unit={unit}
      />
    );
  return (
    <section className="panel mb-3" aria-label="Read by the rings">
      <h2>Read by the rings: which one is even?</h2>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <fieldset disabled={!ready} className="two">
          <div>
            <RingPicture
              {...{ row, offsetMm, unit }}
              plumbAt={ring}
              around={Math.min(2, row.half)}
              magnified={MAGNIFIED}
              words={`Rings about ${words}; the even one is marked`}
            />
            <span className="small-print">
              How it looks when {words} is even, drawn {MAGNIFIED} times as uneven.
            </span>
            {here.simulatedMm !== null && (
              <figure className="m-0 mt-2">
                <RingPicture
                  {...{ row, unit }}
                  offsetMm={here.simulatedMm}
                  plumbAt={null}
                  around={null}
                  magnified={MAGNIFIED}
                  words="What lies under the simulated loupe"
                />
                <figcaption className="small-print">The simulated rig’s own row.</figcaption>
              </figure>
            )}
          </div>
          <div className="stack side">
            <div>
              <FormLabel htmlFor="ring-row">Row</FormLabel>
              <FormSelect id="ring-row" value={index} onChange={(e) => goTo(Number(e.target.value))}>
                {rows.map((r, i) => (
                  <option key={nameOf(r)} value={i}>
                    {nameOf(r)}
                    {r.kept !== null && `: ${labelText(ringLabelMm(r.row, r.kept), unit)}`}
                  </option>
                ))}
              </FormSelect>
              <span className="small-print">
                Weed it, then look {MEASURES[row.axis]}. {read} of {rows.length} rows read.
              </span>
            </div>
            <div>
              <FormLabel htmlFor="ring-pick">The even ring</FormLabel>
              <div className="d-flex gap-2 align-items-center">
                <Button variant="plain" aria-label="Half a ring back" onClick={() => nudge(-0.5)}>
                  −
                </Button>
                <FormRange
                  id="ring-pick"
                  min={-row.half}
                  max={row.half}
                  step={0.5}
                  value={ring}
                  aria-valuetext={`${words}: ${offsetText(offsetMm, row.axis, unit)}`}
                  onChange={(event) => setRing(Number(event.target.value))}
                />
                <Button variant="plain" aria-label="Half a ring on" onClick={() => nudge(0.5)}>
                  +
                </Button>
              </div>
              <p className="mono fs-3 mb-0" data-testid="ring-says">
                {offsetText(offsetMm, row.axis, unit)}
              </p>
            </div>
            <Button type="submit" variant="plain">
              Keep it, next row {keys && <kbd className="key-hint">Enter</kbd>}
            </Button>
            <span role="status" className="small-print">
              {said}
            </span>
          </div>
        </fieldset>
      </form>
    </section>
  );
}
