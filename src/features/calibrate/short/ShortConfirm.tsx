'use client';

import Button from 'react-bootstrap/Button';
import { useEffect, useState, useTransition } from 'react';

import type { Station } from '@/core/proof';
import { passReading } from '@/core/readings';
import { OFFSET_AXES, type LengthUnit, type OffsetAxis } from '@/core/units';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import type { SessionState } from '@/server/sessions/session';
import type { SimulatedComb } from '@/server/sessions/simulatedCombs';
import { useHydrated } from '@/ui/useHydrated';

import { shortIsAnswered } from '../actions';
import { CombPicture, LoupeView } from '../read/CombPicture';
import { useDeskKeys } from '../read/useDeskKeys';
import { AXIS_NAMES, ShortPictures, SimulatedLoupe } from './ShortPictures';
import {
  axisOf,
  between,
  BOTH_STRAIGHT,
  nudge,
  picksOf,
  takeTyped,
  turnCoarse,
  typeKey,
  type ShortHand,
  type ShortPicks,
} from './shortHand';

type Answer = 'yes' | 'no';
type Answers = Readonly<Record<OffsetAxis, Answer | null>>;

interface Shown {
  readonly station: Station;
  readonly unit: LengthUnit;
  readonly simulated: readonly SimulatedComb[] | null;
  /** Nothing is sent just now, and the page's code runs. */
  readonly ready: boolean;
}

/** The second set: does the middle pair run straight through? Yes or no, twice; a no opens the combs. */
export function ShortConfirm({
  session,
  passId,
  first,
  opened,
  ...shown
}: Omit<Shown, 'ready'> & {
  session: SessionState;
  passId: string;
  first: ShortHand;
  /** The combs are picked at once: read before, or pushed to see which way a setting goes. */
  opened: boolean;
}) {
  const hydrated = useHydrated();
  const [answers, setAnswers] = useState<Answers>({
    across: opened ? 'no' : null,
    along: opened ? 'no' : null,
  });
  const [pending, start] = useTransition();
  const [message, setMessage] = useState('');
  const ready = hydrated && !pending;
  const send = (picks: ShortPicks): void => {
    if (!ready) return;
    start(async () => {
      const input = { sessionId: session.id, passId, picks };
      const done = await keeping(
        ['confirm', input],
        (stamp) => shortIsAnswered(input, stamp),
        session.version,
      );
      if (done?.ok === false) setMessage(whyNotDone(done));
    });
  };
  const answer = (axis: OffsetAxis, by: Answer | null): void => {
    const next = { ...answers, [axis]: by };
    setAnswers(next);
    if (OFFSET_AXES.every((a) => next[a] === 'yes')) send(BOTH_STRAIGHT);
  };
  const picking =
    OFFSET_AXES.every((a) => answers[a] !== null) && OFFSET_AXES.some((a) => answers[a] === 'no');
  return (
    <>
      {picking ? (
        <PickBoth
          {...{ ...shown, ready, first, answers }}
          keep={send}
          back={opened ? null : () => setAnswers({ across: null, along: null })}
        />
      ) : (
        <YesOrNo {...{ ...shown, ready, answers, answer }} />
      )}
      {message && (
        <span className="field-error" role="alert">
          {message}
        </span>
      )}
    </>
  );
}

/** The combs that did not run straight through, picked. */
function PickBoth({
  station,
  unit,
  simulated,
  ready,
  first,
  answers,
  keep,
  back,
}: Shown & {
  first: ShortHand;
  answers: Answers;
  keep: (picks: ShortPicks) => void;
  back: (() => void) | null;
}) {
  const [hand, setHand] = useState(first);
  const open = (axis: OffsetAxis): boolean => answers[axis] !== 'yes';
  const own = picksOf(hand, station);
  const picks = {
    across: open('across') ? own.across : BOTH_STRAIGHT.across,
    along: open('along') ? own.along : BOTH_STRAIGHT.along,
  };
  const press = (axis: OffsetAxis, by: 1 | -1): void => {
    if (open(axis)) setHand((h) => nudge(h, station, axis, by));
  };
  const halve = (axis: OffsetAxis): void => {
    if (open(axis)) setHand((h) => between(h, station, axis));
  };
  useDeskKeys(ready, hand.typed !== '', (kind, { by, key }) => {
    if (kind === 'enter') {
      if (hand.typed !== '') setHand((h) => takeTyped(h, station, unit));
      else if (hand.coarse) setHand(turnCoarse);
      else keep(picks);
    } else if (kind === 'between') halve(hand.typesFor);
    else if (kind === 'coarse') setHand(turnCoarse);
    else if (kind === 'type') setHand((h) => typeKey(h, key));
    else if (kind === 'nudge') press(axisOf(key), by!);
  });
  const readMm = (axis: OffsetAxis): number =>
    passReading(station, axis, picks[axis].pick).observation.offsetMm;
  return (
    <>
      <ShortPictures
        {...{ station, hand, unit, ready, press, halve }}
        offMm={{ across: readMm('across'), along: readMm('along') }}
        coarse={() => setHand(turnCoarse)}
      />
      {simulated && <SimulatedLoupe {...{ station, unit }} seen={simulated} coarse={hand.coarse} />}
      <div className="d-flex gap-2 mt-3 flex-wrap">
        <Button variant="main" disabled={!ready || hand.coarse} onClick={() => keep(picks)}>
          Keep both <kbd className="key-hint">Enter</kbd>
        </Button>
        {back && (
          <Button variant="plain" onClick={back}>
            Back to yes or no
          </Button>
        )}
      </div>
    </>
  );
}

/** Both questions, with what a yes looks like. */
function YesOrNo({
  station,
  unit,
  simulated,
  ready,
  answers,
  answer,
}: Shown & { answers: Answers; answer: (axis: OffsetAxis, by: Answer | null) => void }) {
  useAnswerKeys(ready, (key) => {
    const said = OFFSET_AXES.filter((a) => answers[a] !== null);
    const asked = OFFSET_AXES.find((a) => answers[a] === null);
    if (key === 'Backspace') {
      if (said.length > 0) answer(said.at(-1)!, null);
    } else if (asked) answer(asked, key === 'y' ? 'yes' : 'no');
  });
  return (
    <>
      <div className="confirm-pair">
        {OFFSET_AXES.map((axis) => (
          <section
            key={axis}
            className="confirm"
            aria-label={`${AXIS_NAMES[axis]}: does it run straight through?`}
          >
            <div className="confirm-picture">
              <p className="m-0">
                <strong>{AXIS_NAMES[axis]}</strong>: a yes looks like this
              </p>
              <CombPicture
                comb={station[axis]}
                steps={0}
                unit={unit}
                size="pair"
                words={`Comb ${axis}: the middle pair runs straight through.`}
              />
              {simulated && (
                <div className="confirm-loupe" data-testid={`loupe-${axis}`}>
                  <LoupeView
                    comb={station[axis]}
                    unit={unit}
                    landed={simulated.find((s) => s.axis === axis)!.landed}
                    plumbAt={null}
                    bold={null}
                    words={`Loupe of the simulated rig, ${axis}.`}
                  />
                </div>
              )}
            </div>
            <div className="confirm-answers">
              {(['yes', 'no'] as const).map((by) => (
                <Button
                  key={by}
                  variant="plain"
                  className={answers[axis] === by ? 'answered' : ''}
                  aria-pressed={answers[axis] === by}
                  disabled={!ready}
                  onClick={() => answer(axis, answers[axis] === by ? null : by)}
                >
                  {by === 'yes' ? 'Yes' : 'No'}
                </Button>
              ))}
            </div>
          </section>
        ))}
      </div>
      <p className="small-print key-hint mt-2 mb-0">
        <kbd>y</kbd> <kbd>n</kbd> answer, <kbd>⌫</kbd> goes back. A no opens the combs; nothing is lost.
      </p>
    </>
  );
}

/** Letters that answer, wherever the focus is but in fields. */
function useAnswerKeys(ready: boolean, does: (key: string) => void): void {
  useEffect(() => {
    if (!ready) return;
    const listen = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (/^(input|textarea|select)$/i.test(target.tagName) || target.closest('.offcanvas, .modal')) return;
      if (!['y', 'n', 'Backspace'].includes(event.key)) return;
      event.preventDefault();
      does(event.key);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  });
}
