'use client';

import Button from 'react-bootstrap/Button';
import { useMemo, useState, useTransition } from 'react';

import { placeName } from '@/core/geometry';
import type { ProofSheet, Station } from '@/core/proof';
import { coarseLeavesOpen, pickObservation, type LinePick } from '@/core/comb';
import type { LengthUnit, OffsetAxis } from '@/core/units';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import type { SimulatedComb } from '@/server/sessions/simulatedCombs';
import { useLater } from '@/ui/useLater';
import { passReading, type PassReading } from '@/core/readings';

import { readingIsDone } from '../actions';

import { DeskFigures } from './DeskFigures';
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
  readonly sheet: ProofSheet;
  readonly set: 1 | 2;
  /** The axis that is read by itself; null: both. */
  readonly only: OffsetAxis | null;
  readonly initial: readonly KeptReading[];
  /** What was read another way: it counts with the combs. */
  readonly others: readonly PassReading[];
  /** How many changes the session had seen when `initial` was read. */
  readonly changes: number;
  /** Where reading goes on. */
  readonly first: Hand;
  readonly toleranceMm: number;
  /** Acuity that a repeat study saw; null: as assumed. */
  readonly acuityMm: number | null;
  readonly unit: LengthUnit;
  readonly simulated: readonly SimulatedComb[] | null;
}

/** Reading by keys: the picture is moved until it looks like the loupe, and kept. */
export function ReadDesk(given: Given) {
  const { passId, sheet, set, only, initial, changes, first, toleranceMm, unit, simulated } = given;
  const sums = useLater(loadSums);
  const line = useReadings(passId, initial, changes, sums?.readLine ?? null);
  const { readings, keep, takeBack } = line;
  const tasks = useMemo(() => tasksOf(sheet, set, only), [sheet, set, only]);
  const [desk, setDesk] = useState(() => openDesk(first));
  const task = tasks[desk.hand.task]!;
  const under = { comb: combOf(task), unit };
  const press = (p: Press): void => setDesk((d) => pressed(d, p, under));
  const at = atHand(desk.hand, task, tasks, readings, sums?.predictOffset ?? null, sheet);

  const goTo = (index: number): void => {
    if (!sums) return;
    const hand = handAt((index + tasks.length) % tasks.length, tasks, readings, sums.predictOffset);
    press({ kind: 'lay-out', hand });
  };
  // The next comb is laid out once the reading before it counts.
  if (desk.awaiting !== null && keptOf(readings, task) !== null) goTo(desk.awaiting);

  const enter = (): void => {
    if (!sums) return;
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
  useDeskKeys(sums !== null, desk.typed !== '', (kind, { by, key }) => {
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
        <DeskPicture desk={desk} at={at} unit={unit} />
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
          sums={sums}
          sheet={sheet}
          readings={readings}
          others={given.others}
          combs={tasks.length}
          kept={tasks.filter((t) => keptOf(readings, t) !== null).length}
          stations={sheet.stations.filter((s) => s.set === set)}
          here={task.station.id}
          onGo={(id) => goTo(nextOpenOf(tasks, readings, id))}
          unsaved={line.unsaved}
          toleranceMm={toleranceMm}
          acuityMm={given.acuityMm}
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

/** What the readings say so far, and the way on. */
function Finish({
  sessionId,
  sums,
  sheet,
  readings,
  others,
  combs,
  kept,
  stations,
  here,
  onGo,
  unsaved,
  toleranceMm,
  acuityMm,
  unit,
}: {
  sessionId: string;
  sums: typeof import('./readingSums') | null;
  sheet: ProofSheet;
  readings: readonly KeptReading[];
  others: readonly PassReading[];
  combs: number;
  /** Of these, read. */
  kept: number;
  stations: readonly Station[];
  /** The station under the eye. */
  here: string;
  onGo: (stationId: string) => void;
  unsaved: number;
  toleranceMm: number;
  acuityMm: number | null;
  unit: LengthUnit;
}) {
  const [finishing, startFinish] = useTransition();
  const [refused, setRefused] = useState('');
  const area = sheet.spec.workArea;
  const { assessment, observations } = useMemo(() => {
    if (!sums) return { assessment: null, observations: [] };
    const found = readings.flatMap((r) => {
      const station = sheet.stations.find((s) => s.id === r.stationId);
      return station ? [passReading(station, r.axis, r.pick, r.coarseMm, acuityMm)] : [];
    });
    const all = [...found, ...others];
    return {
      assessment: sums.assessPass(all, [], area, toleranceMm),
      observations: all.map((r) => r.observation),
    };
  }, [sums, readings, others, sheet, area, toleranceMm, acuityMm]);
  const finish = (): void =>
    startFinish(async () => {
      const done = await keeping(['reading is done', sessionId], (stamp) => readingIsDone(sessionId, stamp));
      if (done?.ok === false) setRefused(whyNotDone(done));
    });
  const all = kept >= combs;
  return (
    <>
      <h2>
        So far, {kept} of {combs} combs
        {others.length > 0 && `, ${others.length} read another way`}
      </h2>
      {sums ? (
        <sums.SoFar assessment={assessment} area={area} unit={unit} />
      ) : (
        <p className="soft mb-0">Adding up …</p>
      )}
      {sums && assessment && !assessment.axis && (
        <sums.NextToRead {...{ assessment, observations, stations, area, here, unit, onGo }} />
      )}
      <Button
        variant={all ? 'main' : 'plain'}
        className="w-100 mt-3"
        disabled={assessment === null || finishing || unsaved > 0}
        onClick={finish}
      >
        {all ? 'See what it says' : 'See what these say'}
      </Button>
      {refused && <span className="field-error">{refused}</span>}
    </>
  );
}
