'use client';

import { useRef, useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';

import { placeName } from '@/core/geometry';
import type { ProofSheet, Station } from '@/core/proof';
import { pickOffsetMm } from '@/core/comb';
import type { LengthUnit, OffsetAxis } from '@/core/units';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import type { SimulatedComb } from '@/server/sessions/simulatedCombs';
import { useHydrated } from '@/ui/useHydrated';

import { keepAgain, takeBackAgain } from '../actions';
import { DeskMap } from '../read/DeskMap';
import { axisWords, DeskButtons, DeskPicture } from '../read/DeskPicture';
import { enterKeeps, openDesk, pressed, type Press } from '../read/deskState';
import { combOf, pickWithin, type Hand } from '../read/readingHand';
import { useDeskKeys } from '../read/useDeskKeys';

/** The comb that is to be read again. */
export interface ToReadAgain {
  readonly station: Station;
  readonly axis: OffsetAxis;
  readonly round: number;
  /** Of this round, kept already. */
  readonly done: number;
  readonly of: number;
}

const HAND: Hand = { task: 0, mode: 'fine', coarseMm: 0, coarseRead: null, steps: 0 };

/** One comb read again, with nothing shown of what was read before. */
export function AgainDesk({
  passId,
  sheet,
  set,
  next,
  mayTakeBack,
  simulated,
  unit,
}: {
  passId: string;
  sheet: ProofSheet;
  set: 1 | 2;
  next: ToReadAgain;
  /** Whoever reads has kept something. */
  mayTakeBack: boolean;
  simulated: readonly SimulatedComb[] | null;
  unit: LengthUnit;
}) {
  const [desk, setDesk] = useState(() => openDesk(HAND));
  const [refused, setRefused] = useState('');
  const [sending, startSending] = useTransition();
  const busy = useRef(false);
  const ready = useHydrated();
  const comb = combOf(next);
  const pick = { ...pickWithin(desk.hand.steps), lengths: 0 };
  const press = (p: Press): void => setDesk((d) => pressed(d, p, { comb, unit }));
  const send = (act: () => ReturnType<typeof keepAgain | typeof takeBackAgain>): void => {
    // Two presses before the page has drawn itself anew are one.
    if (busy.current) return;
    busy.current = true;
    startSending(async () => {
      const done = await act();
      busy.current = false;
      setRefused(done.ok ? '' : whyNotDone(done));
    });
  };
  const enter = (): void => {
    if (enterKeeps(desk)) {
      const { line, between } = pick;
      const look = { passId, stationId: next.station.id, axis: next.axis, round: next.round, line, between };
      send(() => keeping(['read again', look], (stamp) => keepAgain(look, stamp)));
    } else press({ kind: 'enter' });
  };
  const takeBack = (): void =>
    send(() => keeping(['take look back', passId, next], (stamp) => takeBackAgain(passId, stamp)));
  useDeskKeys(ready && !sending, desk.typed !== '', (kind, { by, key }) => {
    if (kind === 'enter') enter();
    else if (kind === 'clear' && mayTakeBack) takeBack();
    else if (kind === 'type') press({ kind, key });
    else if (kind === 'nudge') press({ kind, by: by! });
    else if (kind === 'between') press({ kind });
  });
  const name = `${next.station.id}, ${placeName(next.station.centre, sheet.spec.workArea)}, ${axisWords({ ...next })}`;
  const at = { task: next, name, pick, offsetMm: pickOffsetMm(comb, pick), open: false };
  return (
    <>
      <DeskMap
        {...{ sheet, set, simulated, unit }}
        readings={[]}
        task={next}
        mode="fine"
        onPick={() => undefined}
      />
      <div>
        <DeskPicture desk={desk} at={at} unit={unit} />
        <DeskButtons
          desk={desk}
          at={at}
          ready={ready && !sending}
          unit={unit}
          coarse={false}
          press={(kind, by) => {
            if (kind === 'enter') enter();
            else if (kind === 'nudge') press({ kind, by: by! });
            else press({ kind });
          }}
        />
        <p className="small-print mt-2">
          Round {next.round}, comb {next.done + 1} of {next.of}. Read it as if for the first time. What was
          read before is hidden; each round has its own order.
        </p>
        {mayTakeBack && (
          <Button variant="plain" disabled={!ready || sending} onClick={takeBack}>
            Take my last look back <kbd className="key-hint">Del</kbd>
          </Button>
        )}
        {refused && (
          <p className="field-error mt-2" role="alert">
            {refused}
          </p>
        )}
      </div>
    </>
  );
}
