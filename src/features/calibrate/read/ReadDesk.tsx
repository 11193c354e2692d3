'use client';

import Button from 'react-bootstrap/Button';
import { useMemo, useRef, useState } from 'react';

import { placeName } from '@/core/geometry';
import type { ProofSheet } from '@/core/proof';
import { coarseLeavesOpen, pickObservation, type LinePick } from '@/core/comb';
import type { LengthUnit, OffsetAxis } from '@/core/units';
import type { SimulatedComb } from '@/server/sessions/simulatedCombs';
import type { Usual } from '@/core/record/plausible';
import { useLater } from '@/ui/useLater';
import type { PassReading } from '@/core/readings';

import { coarseDoubt } from './coarseDoubt';
import { DeskFigures } from './DeskFigures';
import { allReadWords, Finish, useSoFar } from './Finish';
import { DeskMap } from './DeskMap';
import { axisWords, DeskButtons, DeskPicture, type AtHand } from './DeskPicture';
import { enterKeeps, openDesk, pressed, type Press } from './deskState';
import {
  combOf,
  handAt,
  keptOf,
  lengthsOf,
  nextOpen,
  pickWithin,
  roughFor,
  tasksOf,
  type Hand,
  type Predict,
  type Task,
} from './readingHand';
import { Unsaved } from './Unsaved';
import { useDeskKeys } from './useDeskKeys';
import { useReadings, type KeptReading } from './useReadings';

const loadSums = () => import('./readingSums');

interface Given {
  readonly sessionId: string;
  readonly passId: string;
  /** As it is called: “sheet 0022”. */
  readonly sheetLabel: string;
  readonly sheet: ProofSheet;
  readonly set: 1 | 2;
  /** The axis that is read by itself; null: both. */
  readonly only: OffsetAxis | null;
  /** The keys are its own: not where another way of reading was chosen. */
  readonly keys: boolean;
  readonly initial: readonly KeptReading[];
  /** What was read another way: it counts with the combs. */
  readonly others: readonly PassReading[];
  /** How many changes the session had seen when `initial` was read. */
  readonly changes: number;
  /** Where reading goes on. */
  readonly first: Hand;
  readonly toleranceMm: number;
  /** What a reading is judged by. */
  readonly usual: Usual;
  /** Acuity that a repeat study saw; null: as assumed. */
  readonly acuityMm: number | null;
  readonly unit: LengthUnit;
  readonly simulated: readonly SimulatedComb[] | null;
}

/** Reading by keys: the picture is moved until it looks like the loupe, and kept. */
export function ReadDesk(given: Given) {
  const { passId, sheet, set, only, initial, changes, first, unit, simulated } = given;
  const sums = useLater(loadSums);
  const line = useReadings(passId, initial, changes, sums?.readLine ?? null);
  const { readings, keep, takeBack } = line;
  const { assessment, observations } = useSoFar(sums, readings, given);
  const tasks = useMemo(() => tasksOf(sheet, set, only), [sheet, set, only]);
  const [desk, setDesk] = useState(() => openDesk(first, keptOf(initial, tasks[first.task]!) === null));
  const task = tasks[desk.hand.task]!;
  const under = {
    comb: combOf(task),
    unit,
    doubt: (coarseMm: number) =>
      coarseDoubt(
        coarseMm,
        sums && (roughFor(task, tasks, readings, sums.predictOffset)?.offsetMm ?? null),
        given.usual,
        unit,
      ),
  };
  const press = (p: Press): void => setDesk((d) => pressed(d, p, under));
  const at = atHand(desk.hand, task, tasks, readings, sums?.predictOffset ?? null, sheet);

  const goTo = (index: number, overtaken = ''): void => {
    if (!sums) return;
    const to = (index + tasks.length) % tasks.length;
    const hand = handAt(to, tasks, readings, sums.predictOffset);
    press({ kind: 'lay-out', hand, open: keptOf(readings, tasks[to]!) === null, overtaken });
  };
  const kept = keptOf(readings, task);
  // The next comb is laid out once the reading before it counts.
  if (desk.awaiting !== null && kept !== null) goTo(desk.awaiting);
  else if (desk.open && kept !== null && sums) {
    // Another tablet has read it meanwhile: nobody reads it twice.
    const overtaken = `${kept.by ?? 'Somebody'} has read ${task.station.id} ${axisWords(task)}.`;
    const next = nextOpen(tasks, desk.hand.task, (t) => keptOf(readings, t) !== null);
    if (next === null) press({ kind: 'all-read', overtaken });
    else goTo(next, overtaken);
  }

  const finishing = useRef<HTMLButtonElement>(null);
  const enter = (): void => {
    if (!sums) return;
    if (desk.finished) return void finishing.current?.click();
    if (enterKeeps(desk)) {
      keep({ stationId: task.station.id, axis: task.axis, pick: at.pick, coarseMm: desk.hand.coarseRead });
      const next = nextOpen(tasks, desk.hand.task, (t) => keptOf(readings, t) !== null || t === task);
      press({ kind: 'kept', next });
    }
    press({ kind: 'enter' });
  };
  const clear = (): void => {
    const reading = keptOf(readings, task);
    if (!reading) return;
    press({ kind: 'taken-back', reading });
    void takeBack(task.station.id, task.axis);
  };
  useDeskKeys(given.keys && sums !== null, desk.typed !== '', (kind, { by, key }) => {
    if (kind === 'clear') clear();
    else if (kind === 'back' || kind === 'on') goTo(desk.hand.task + (kind === 'on' ? 1 : -1));
    else if (kind === 'enter') enter();
    else if (kind === 'type') press({ kind, key });
    else if (kind === 'nudge') press({ kind, by: by! });
    else if (kind === 'between' || kind === 'coarse') press({ kind });
  });
  const undoClear = (): void => {
    if (desk.taken) keep(desk.taken);
    press({ kind: 'undone' });
  };

  return (
    <div className="read">
      <DeskMap
        sheet={sheet}
        set={set}
        readings={readings}
        task={task}
        mode={desk.hand.mode}
        simulated={simulated}
        unit={unit}
        onPick={(id) => goTo(tasks.findIndex((t) => t.station.id === id))}
      />
      <div>
        <DeskPicture
          desk={desk}
          at={at}
          unit={unit}
          onMeant={(coarseMm) => press({ kind: 'meant', coarseMm })}
          done={desk.finished && assessment ? allReadWords(tasks.length, assessment, unit) : null}
        />
        <DeskButtons
          desk={desk}
          at={at}
          ready={sums !== null}
          unit={unit}
          press={(kind, by) => {
            if (kind === 'enter') enter();
            else if (kind === 'nudge') press({ kind, by: by! });
            else press({ kind });
          }}
        />
        <p className="small-print mt-2 mb-0">
          Make it look like your loupe, or type the label.
          <span className="key-hint">
            {' '}
            <kbd>PgUp</kbd> <kbd>PgDn</kbd> another comb
            {keptOf(readings, task) && (
              <>
                , <kbd>Del</kbd> takes it back
              </>
            )}
          </span>
        </p>
        {desk.taken && (
          <p className="notice mt-2" role="status">
            The reading of {desk.taken.stationId} was taken back.{' '}
            <Button variant="plain" className="ms-2" onClick={undoClear}>
              Undo
            </Button>
          </p>
        )}
      </div>
      <aside className="panel side">
        <DeskFigures hand={desk.hand} at={at} ready={sums !== null} unit={unit} />
        <hr />
        <Finish
          sessionId={given.sessionId}
          sheetLabel={given.sheetLabel}
          usual={given.usual}
          sums={sums}
          assessment={assessment}
          observations={observations}
          area={sheet.spec.workArea}
          others={given.others.length}
          combs={tasks.length}
          kept={tasks.filter((t) => keptOf(readings, t) !== null).length}
          stations={sheet.stations.filter((s) => s.set === set)}
          here={task.station.id}
          onGo={(id) => goTo(nextOpenOf(tasks, readings, id))}
          unsaved={line.unsaved}
          button={finishing}
          unit={unit}
        />
        <Unsaved line={line} />
      </aside>
    </div>
  );
}

/** The comb of a station to go to: the one that is not read yet, else its first. */
function nextOpenOf(tasks: readonly Task[], readings: readonly KeptReading[], stationId: string): number {
  const own = (t: Task): boolean => t.station.id === stationId;
  const open = tasks.findIndex((t) => own(t) && keptOf(readings, t) === null);
  return open >= 0 ? open : tasks.findIndex(own);
}

/** What the hand reads: pick, offset, and whether the cross leaves its whole lengths open. */
function atHand(
  hand: Hand,
  task: Task,
  tasks: readonly Task[],
  readings: readonly KeptReading[],
  predict: Predict | null,
  sheet: ProofSheet,
): AtHand {
  const comb = combOf(task);
  const lengths = lengthsOf(task, hand, predict && roughFor(task, tasks, readings, predict));
  const pick: LinePick = { ...pickWithin(hand.steps), lengths };
  return {
    task,
    name: `${task.station.id}, ${placeName(task.station.centre, sheet.spec.workArea)}, ${axisWords(task)}`,
    pick,
    offsetMm: pickObservation(task.station.id, comb, pick).offsetMm,
    open: hand.mode === 'fine' && hand.coarseRead !== null && coarseLeavesOpen(comb, pick, hand.coarseRead),
  };
}
