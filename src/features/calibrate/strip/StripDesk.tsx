'use client';

import { useRef, useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';

import { OFFSET_AXES, offsetText, type LengthUnit, type OffsetAxis } from '@/core/units';
import type { StripStation } from '@/core/layout';
import { coarseLeavesOpen, pickOffsetMm } from '@/core/comb';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import { useHydrated } from '@/ui/useHydrated';

import { keepWitness } from '../actions';
import { axisWords, DeskButtons, DeskPicture } from '../read/DeskPicture';
import { enterKeeps, openDesk, pressed, type Press } from '../read/deskState';
import { combOf, lengthsOf, pickWithin, type Hand } from '../read/readingHand';
import { useDeskKeys } from '../read/useDeskKeys';

interface Pick {
  readonly line: number;
  readonly between: boolean;
  readonly coarseMm: number | null;
}

const HAND: Hand = { task: 0, mode: 'fine', coarseMm: 0, coarseRead: null, steps: 0 };

/** A witness beside a run's rows: both combs matched by keys, then kept as the check of its row. */
export function StripDesk({
  runId,
  section,
  station,
  replaces,
  unit,
}: {
  runId: string;
  section: number;
  station: StripStation;
  /** Checks of this row that the page knows: the witness counts instead of them. */
  replaces: readonly string[];
  unit: LengthUnit;
}) {
  const [desk, setDesk] = useState(() => openDesk(HAND));
  const [axis, setAxis] = useState<OffsetAxis>('across');
  const [across, setAcross] = useState<Pick | null>(null);
  const [refused, setRefused] = useState('');
  const [sending, startSending] = useTransition();
  const busy = useRef(false);
  const ready = useHydrated();
  const task = { station, axis };
  const comb = combOf(task);
  const pick = {
    ...pickWithin(desk.hand.steps),
    lengths: lengthsOf(task, desk.hand, { offsetMm: 0, uMm: 0 }),
  };
  const offsetMm = pickOffsetMm(comb, pick);
  const press = (p: Press): void => setDesk((d) => pressed(d, p, { comb, unit }));
  const goTo = (to: OffsetAxis): void => {
    setAxis(to);
    setDesk(openDesk(HAND));
  };
  const keep = (along: Pick | null): void => {
    if (busy.current) return;
    busy.current = true;
    startSending(async () => {
      const witness = { runId, section, place: station.place, across, along, replaces: [...replaces] };
      const done = await keeping(['witness', witness], (stamp) => keepWitness(witness, stamp));
      busy.current = false;
      setRefused(done.ok ? '' : whyNotDone(done));
    });
  };
  const enter = (): void => {
    if (!enterKeeps(desk)) return press({ kind: 'enter' });
    const read: Pick = { line: pick.line, between: pick.between, coarseMm: desk.hand.coarseRead };
    if (axis === 'across') {
      setAcross(read);
      goTo('along');
    } else keep(read);
  };
  useDeskKeys(ready && !sending, desk.typed !== '', (kind, { by, key }) => {
    if (kind === 'enter') enter();
    else if (kind === 'back') goTo('across');
    else if (kind === 'type') press({ kind, key });
    else if (kind === 'nudge') press({ kind, by: by! });
    else if (kind === 'between' || kind === 'coarse') press({ kind });
  });
  const { coarseRead, mode } = desk.hand;
  const open = mode === 'fine' && coarseRead !== null && coarseLeavesOpen(comb, pick, coarseRead);
  const at = { task, name: `Section ${section}, ${station.place}, ${axisWords(task)}`, pick, offsetMm, open };
  return (
    <div>
      <DeskPicture desk={desk} at={at} unit={unit} />
      <DeskButtons
        desk={desk}
        at={at}
        ready={ready && !sending}
        unit={unit}
        press={(kind, by) => {
          if (kind === 'enter') enter();
          else if (kind === 'nudge') press({ kind, by: by! });
          else press({ kind });
        }}
      />
      <p className="small-print mt-2">
        {OFFSET_AXES.indexOf(axis) + 1} of 2 combs of this witness. If the cut is further off than half a
        comb, read the cross first (<kbd>c</kbd>).
      </p>
      {axis === 'along' && (
        <div className="d-flex flex-wrap gap-2 align-items-center">
          <span>
            Across: {across ? offsetText(offsetOfPick(station, across), 'across', unit) : 'not read'}.
          </span>
          <Button variant="plain" className="btn-small" disabled={sending} onClick={() => goTo('across')}>
            Read it again
          </Button>
          <Button
            variant="plain"
            className="btn-small"
            disabled={sending || !across}
            onClick={() => keep(null)}
          >
            Keep across alone
          </Button>
        </div>
      )}
      {refused && (
        <p className="field-error mt-2" role="alert">
          {refused}
        </p>
      )}
    </div>
  );
}

const offsetOfPick = (station: StripStation, { line, between, coarseMm }: Pick): number => {
  const hand: Hand = { ...HAND, steps: line + (between ? 0.5 : 0), coarseRead: coarseMm };
  const lengths = lengthsOf({ station, axis: 'across' }, hand, { offsetMm: 0, uMm: 0 });
  return pickOffsetMm(station.across, { line, between, lengths });
};
