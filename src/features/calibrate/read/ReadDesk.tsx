'use client';

import Button from 'react-bootstrap/Button';
import { useCallback, useEffect, useMemo, useRef, useState, useTransition } from 'react';

import { passReading } from '@/core/calibration';
import { placeName } from '@/core/geometry';
import type { ProofSheet } from '@/core/proof';
import {
  coarseLeavesOpen,
  pickObservation,
  pickOffsetMm,
  pickUncertaintyMm,
  type LinePick,
} from '@/core/readings';
import { COARSE_GRADUATION_MM, COARSE_REACH_MM } from '@/core/tolerance';
import {
  directionWord,
  lengthText,
  signed,
  signedLengthFigure,
  type LengthUnit,
  type OffsetAxis,
} from '@/core/units';
import { SheetMap } from '@/ui/SheetMap';
import { useLater } from '@/ui/useLater';

import { keeping } from '@/features/forms/keeping';

import { readingIsDone } from '../actions';
import { CoarsePicture } from './CoarsePicture';
import { CombPicture, LoupeView } from './CombPicture';
import {
  combOf,
  handAt,
  keptOf,
  lengthsOf,
  nextOpen,
  pickWithin,
  readOffset,
  roughFor,
  stepsOfLabel,
  tasksOf,
  wrap,
  type Hand,
  type Task,
} from './readingHand';
import { useReadings, type KeptReading } from './useReadings';

const MOST_TYPED = 8;

const loadSums = () => import('./readingSums');

export interface SimulatedComb {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly landed: readonly number[];
  readonly coarseMm: number;
}

export function ReadDesk({
  sessionId,
  passId,
  sheet,
  set,
  initial,
  changes,
  first,
  toleranceMm,
  unit,
  simulated,
}: {
  sessionId: string;
  passId: string;
  sheet: ProofSheet;
  set: 1 | 2;
  initial: readonly KeptReading[];
  /** How many changes the session had seen when `initial` was read. */
  changes: number;
  /** Where reading goes on. */
  first: Hand;
  toleranceMm: number;
  unit: LengthUnit;
  simulated: readonly SimulatedComb[] | null;
}) {
  const sums = useLater(loadSums);
  const {
    readings,
    unsaved,
    refused: turnedAway,
    forgetRefused,
    message,
    keep,
    takeBack,
  } = useReadings(passId, initial, changes, sums?.readLine ?? null);
  const tasks = useMemo(() => tasksOf(sheet, set), [sheet, set]);
  const kept = useCallback((t: Task) => keptOf(readings, t), [readings]);
  const firstOpen = tasks.findIndex((t) => kept(t) === null);
  const [hand, setHand] = useState<Hand>(first);
  const [taken, setTaken] = useState<KeptReading | null>(null);
  const [finishing, startFinish] = useTransition();
  const [refused, setRefused] = useState('');

  const task = tasks[hand.task]!;
  const comb = combOf(task);
  const lengths = lengthsOf(task, hand, sums ? roughFor(task, tasks, readings, sums.predictOffset) : null);
  const pick: LinePick = { ...pickWithin(hand.steps), lengths };
  const offsetMm = pickObservation(task.station.id, comb, pick).offsetMm;
  const open =
    hand.mode === 'fine' && hand.coarseRead !== null && coarseLeavesOpen(comb, pick, hand.coarseRead);
  const all = firstOpen === -1;
  const area = sheet.spec.workArea;

  const assessment = useMemo(() => {
    if (!sums) return null;
    const found = readings.flatMap((r) => {
      const station = sheet.stations.find((s) => s.id === r.stationId);
      return station ? [passReading(station, r.axis, r.pick, r.coarseMm)] : [];
    });
    return sums.assessPass(found, [], area, toleranceMm);
  }, [sums, readings, sheet, area, toleranceMm]);

  const goTo = useCallback(
    (index: number) => {
      if (sums) setHand(handAt((index + tasks.length) % tasks.length, tasks, readings, sums.predictOffset));
    },
    [sums, tasks, readings],
  );

  const [typed, setTyped] = useState('');
  const [notThere, setNotThere] = useState('');
  /** Puts the hand where the typed label stands; Enter once more keeps it. */
  const take = (): void => {
    setTyped('');
    if (hand.mode === 'coarse') {
      const figure = Number(typed.replace(',', '.'));
      if (!Number.isFinite(figure) || Math.abs(figure) > COARSE_REACH_MM + 0.5)
        return setNotThere(`The cross goes from −${COARSE_REACH_MM} to +${COARSE_REACH_MM} mm.`);
      return setHand({ ...hand, coarseMm: COARSE_GRADUATION_MM * Math.round(figure / COARSE_GRADUATION_MM) });
    }
    const found = stepsOfLabel(comb, typed, unit);
    if ('message' in found) setNotThere(found.message);
    else setHand({ ...hand, steps: found.steps });
  };
  const type = (key: string): void => {
    setNotThere('');
    if (key === 'Escape') setTyped('');
    else if (key === 'Backspace') setTyped(typed.slice(0, -1));
    else if (typed.length < MOST_TYPED) setTyped(typed + key);
  };

  const enter = (): void => {
    if (!sums) return;
    if (typed !== '') return take();
    setNotThere('');
    if (hand.mode === 'coarse') {
      setHand({ ...hand, mode: 'fine', coarseRead: hand.coarseMm, steps: 0 });
      return;
    }
    const reading: KeptReading = {
      stationId: task.station.id,
      axis: task.axis,
      pick,
      coarseMm: hand.coarseRead,
    };
    keep(reading);
    setTaken(null);
    const next = nextOpen(tasks, hand.task, (t) => kept(t) !== null || t === task);
    if (next === null) return setHand({ ...hand });
    setPendingTask(next);
  };
  // The next comb is laid out once the reading before it counts: it may tell the whole lengths.
  const [pendingTask, setPendingTask] = useState<number | null>(null);
  if (pendingTask !== null && kept(task) !== null) {
    setPendingTask(null);
    goTo(pendingTask);
  }

  const nudge = (by: number): void => {
    if (hand.mode === 'coarse') {
      const next = hand.coarseMm + by * COARSE_GRADUATION_MM;
      setHand({ ...hand, coarseMm: Math.min(COARSE_REACH_MM + 0.5, Math.max(-COARSE_REACH_MM - 0.5, next)) });
      return;
    }
    setHand({
      ...hand,
      steps: wrap(comb, Math.trunc(hand.steps * 2) % 2 === 0 ? hand.steps + by : hand.steps + by / 2),
    });
  };
  const between = (): void => {
    if (hand.mode === 'fine')
      setHand({
        ...hand,
        steps: wrap(comb, Number.isInteger(hand.steps) ? hand.steps + 0.5 : hand.steps - 0.5),
      });
  };
  const coarse = (): void => setHand({ ...hand, mode: 'coarse', coarseMm: hand.coarseRead ?? 0 });
  const clear = (): void => {
    const before = kept(task);
    if (!before) return;
    setTaken(before);
    void takeBack(task.station.id, task.axis);
  };
  const undoClear = (): void => {
    if (taken) keep(taken);
    setTaken(null);
  };
  const finish = (): void =>
    startFinish(async () => {
      const done = await keeping(['reading is done', sessionId], (stamp) => readingIsDone(sessionId, stamp));
      if (done?.ok === false) setRefused(done.message);
    });

  const keys = useRef<(event: KeyboardEvent) => void>(() => undefined);
  useEffect(() => {
    keys.current = (event) => {
      const target = event.target as HTMLElement;
      if (
        !sums ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        /^(input|textarea|select|summary)$/i.test(target.tagName)
      )
        return;
      if (target.closest('.offcanvas, .modal')) return;
      if (/^[0-9.,+-]$/.test(event.key) || (typed !== '' && /^(Backspace|Escape)$/.test(event.key))) {
        event.preventDefault();
        return type(event.key);
      }
      const act = keyAction(event.key, {
        nudge,
        between,
        coarse,
        clear,
        enter,
        back: () => goTo(hand.task - 1),
        on: () => goTo(hand.task + 1),
      });
      // Enter on a focused button is that button's own.
      if (!act || (event.key === 'Enter' && target.closest('button, a'))) return;
      event.preventDefault();
      act();
    };
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => keys.current(event);
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);

  const place = placeName(task.station.centre, area);
  const axisWords = task.axis === 'across' ? 'across' : 'along the feed';
  const name = `${task.station.id}, ${place}, ${axisWords}`;
  const sim = simulated?.find((s) => s.stationId === task.station.id && s.axis === task.axis) ?? null;
  const done = readings.length;

  return (
    <div className="read">
      <div className="stack map">
        <SheetMap
          widthMm={sheet.spec.sheetWidthMm}
          heightMm={sheet.spec.sheetHeightMm}
          height={350}
          unit={unit}
          onPick={(id) => goTo(tasks.findIndex((t) => t.station.id === id))}
          stations={sheet.stations
            .filter((s) => s.set === set)
            .map((s) => ({
              id: s.id,
              xMm: s.centre.x,
              yMm: s.centre.y,
              dxMm: readOffset(sheet, readings, s.id, 'across'),
              dyMm: readOffset(sheet, readings, s.id, 'along'),
              current: s.id === task.station.id,
            }))}
        />
        {sim && (
          <section className="panel p-2">
            <h2 className="mb-1">Loupe of the simulated rig</h2>
            {hand.mode === 'fine' ? (
              <LoupeView
                comb={comb}
                unit={unit}
                landed={sim.landed}
                plumbAt={null}
                bold={null}
                compact
                words="Simulated loupe: match the large picture to this one."
              />
            ) : (
              <CoarsePicture
                axis={task.axis}
                atMm={sim.coarseMm}
                compact
                words={`Simulated loupe: the cut line crosses at ${sim.coarseMm} mm.`}
              />
            )}
          </section>
        )}
      </div>

      <div>
        <h1 className="answer" aria-live="polite">
          {hand.mode === 'coarse'
            ? `${name}: where does the cut line cross the cross?`
            : `${name}: which pair of lines runs straight through?`}
        </h1>
        {hand.mode === 'coarse' ? (
          <CoarsePicture
            axis={task.axis}
            atMm={hand.coarseMm}
            words={`Coarse cross, cut line at ${signed(hand.coarseMm, 1)} mm`}
          />
        ) : (
          <CombPicture
            comb={comb}
            steps={hand.steps}
            unit={unit}
            words={`Comb ${axisWords} as it looks at ${signedLengthFigure(offsetMm, unit)} ${unit}`}
          />
        )}
        {(typed !== '' || notThere !== '') && (
          <p className="notice mt-2 mb-2" role="status">
            {typed !== '' ? (
              <>
                <span className="mono">{typed}</span> {hand.mode === 'coarse' ? 'mm' : unit}: <kbd>Enter</kbd>{' '}
                puts the picture there, <kbd>Esc</kbd> forgets it
              </>
            ) : (
              notThere
            )}
          </p>
        )}
        {open && (
          <p className="notice mt-2 mb-2" role="status">
            The cross was read at {signed(hand.coarseRead!, 1)} mm; this comb could say{' '}
            {[lengths - 1, lengths, lengths + 1]
              .map((m) => pickOffsetMm(comb, { ...pick, lengths: m }))
              .sort((a, b) => Math.abs(a - hand.coarseRead!) - Math.abs(b - hand.coarseRead!))
              .slice(0, 2)
              .map((mm) => signedLengthFigure(mm, unit))
              .join(' or ')}{' '}
            {unit}. Read the cross again (<kbd>c</kbd>), then the comb.
          </p>
        )}
        <fieldset className="keys" disabled={!sums}>
          <Button
            variant="plain"
            onClick={() => nudge(-1)}
            aria-label={task.axis === 'across' ? 'One to the left' : 'One back'}
          >
            <kbd>{task.axis === 'across' ? '←' : '↓'}</kbd>
          </Button>
          <Button
            variant="plain"
            onClick={() => nudge(1)}
            aria-label={task.axis === 'across' ? 'One to the right' : 'One further'}
          >
            <kbd>{task.axis === 'across' ? '→' : '↑'}</kbd>
          </Button>
          {hand.mode === 'fine' && (
            <>
              <Button variant="plain" onClick={between} aria-pressed={pick.between}>
                between <kbd>b</kbd>
              </Button>
              <Button variant="plain" onClick={coarse}>
                coarse <kbd>c</kbd>
              </Button>
            </>
          )}
          <Button variant="main" onClick={enter}>
            {hand.mode === 'coarse'
              ? `On, ${signed(hand.coarseMm, 1)} mm`
              : `Keep ${sums ? signedLengthFigure(offsetMm, unit) : '…'}`}{' '}
            <kbd>Enter</kbd>
          </Button>
        </fieldset>
        <p className="small-print mt-2 mb-0">
          Nudge until the picture looks like your loupe, or type the label of the line. <kbd>PgUp</kbd>{' '}
          <kbd>PgDn</kbd> go to another comb
          {kept(task) && (
            <>
              , <kbd>Del</kbd> takes this reading back
            </>
          )}
          .
        </p>
        {taken && (
          <p className="notice mt-2" role="status">
            The reading of {taken.stationId} was taken back.{' '}
            <Button variant="plain" className="ms-2" onClick={undoClear}>
              Undo
            </Button>
          </p>
        )}
      </div>

      <aside className="panel side">
        <h2>{hand.mode === 'coarse' ? 'Coarse reading' : 'This reading'}</h2>
        {hand.mode === 'coarse' ? (
          <>
            <div className="mono big-figure">{signed(hand.coarseMm, 1)}</div>
            <p className="mb-0">
              mm, to the nearest half
              {hand.coarseMm !== 0 && (
                <>
                  : the cut is <strong>{directionWord(hand.coarseMm, task.axis)}</strong>
                </>
              )}
            </p>
          </>
        ) : (
          <>
            <div className="mono big-figure" data-testid="reading">
              {sums ? signedLengthFigure(offsetMm, unit) : '…'}
            </div>
            <p className="mb-1">
              {unit}, the cut is{' '}
              {Math.abs(offsetMm) < 0.005 ? (
                'on the print'
              ) : (
                <strong>{directionWord(offsetMm, task.axis)}</strong>
              )}
            </p>
            <p className="small-print mb-1">
              ±{lengthText(pickUncertaintyMm(comb.stepMm), unit)} from the comb’s step
              {lengths !== 0 && (
                <>
                  ; the label plus{' '}
                  {signedLengthFigure(
                    offsetMm - (offsetMm - lengths * (2 * comb.halfLines + 1) * comb.stepMm),
                    unit,
                  )}{' '}
                  {unit} from the coarse cross
                </>
              )}
            </p>
          </>
        )}
        <hr />
        <h2>
          So far, {done} of {tasks.length} combs
        </h2>
        {sums ? (
          <sums.SoFar assessment={assessment} area={area} unit={unit} />
        ) : (
          <p className="soft mb-0">Adding up …</p>
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
        {turnedAway.length > 0 && (
          <div className="notice notice-bad mt-3" role="alert">
            {turnedAway.map(({ reading, message: why }) => (
              <p key={`${reading.stationId} ${reading.axis}`} className="mb-1">
                {reading.stationId} {reading.axis} was not kept: {why}
              </p>
            ))}
            <Button variant="plain" onClick={forgetRefused}>
              I have seen it
            </Button>
          </div>
        )}
        <p className={unsaved > 0 ? 'notice notice-bad mt-3 mb-0' : 'small-print mt-3 mb-0'} role="status">
          {unsaved > 0
            ? `${unsaved} not saved yet. ${message ? `${message} It is tried again by itself.` : 'Saving …'}`
            : 'Every reading is saved as you enter it. Leave and come back at any time.'}
        </p>
      </aside>
    </div>
  );
}

interface KeyActs {
  nudge: (by: number) => void;
  between: () => void;
  coarse: () => void;
  clear: () => void;
  enter: () => void;
  back: () => void;
  on: () => void;
}

function keyAction(key: string, acts: KeyActs): (() => void) | null {
  switch (key) {
    case 'ArrowRight':
    case 'ArrowUp':
      return () => acts.nudge(1);
    case 'ArrowLeft':
    case 'ArrowDown':
      return () => acts.nudge(-1);
    case 'b':
      return acts.between;
    case 'c':
      return acts.coarse;
    case 'Delete':
    case 'Backspace':
      return acts.clear;
    case 'Enter':
      return acts.enter;
    case 'PageUp':
      return acts.back;
    case 'PageDown':
      return acts.on;
    default:
      return null;
  }
}
