import Button from 'react-bootstrap/Button';

import { pickOffsetMm, type LinePick } from '@/core/comb';
import { signed, signedLengthFigure, type LengthUnit } from '@/core/units';

import { CoarseAsked } from './coarseDoubt';
import { CoarsePicture } from './CoarsePicture';
import { CombPicture } from './CombPicture';
import type { Desk } from './deskState';
import { combOf, type Task } from './readingHand';

/** What the hand at a comb reads. */
export interface AtHand {
  readonly task: Task;
  /** Station, place and axis in words. */
  readonly name: string;
  readonly pick: LinePick;
  readonly offsetMm: number;
  /** The coarse cross leaves the comb’s whole lengths open. */
  readonly open: boolean;
}

/** The large picture, the question above it, and what typed labels and doubtful crosses say below. */
export function DeskPicture({
  desk,
  at,
  unit,
  done = null,
  onMeant = () => undefined,
}: {
  desk: Desk;
  at: AtHand;
  unit: LengthUnit;
  /** What all readings say, once nothing is left; null before. */
  done?: string | null;
  /** What was asked about was something else. */
  onMeant?: (coarseMm: number) => void;
}) {
  const { hand, typed, notThere } = desk;
  const { task, name, pick, offsetMm, open } = at;
  const comb = combOf(task);
  const coarse = hand.mode === 'coarse';
  return (
    <>
      <h1 className="answer" aria-live="polite">
        {done ??
          (coarse
            ? `${name}: where does the cut line cross the cross?`
            : `${name}: which pair of lines runs straight through?`)}
      </h1>
      {desk.overtaken !== '' && (
        <p className="notice mb-2" role="status">
          {desk.overtaken}
        </p>
      )}
      {coarse ? (
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
          words={`Comb ${axisWords(task)} as it looks at ${signedLengthFigure(offsetMm, unit)} ${unit}`}
        />
      )}
      {(typed !== '' || notThere !== '') && (
        <p className="notice mt-2 mb-2" role="status">
          {typed !== '' ? (
            <>
              <span className="mono">{typed}</span> {coarse ? 'mm' : unit}: <kbd>Enter</kbd> puts the picture
              there, <kbd>Esc</kbd> forgets it
            </>
          ) : (
            notThere
          )}
        </p>
      )}
      {desk.doubt && <CoarseAsked doubt={desk.doubt} onMeant={onMeant} />}
      {open && (
        <p className="notice mt-2 mb-2" role="status">
          The cross was read at {signed(hand.coarseRead!, 1)} mm; this comb could say{' '}
          {[pick.lengths - 1, pick.lengths, pick.lengths + 1]
            .map((lengths) => pickOffsetMm(comb, { ...pick, lengths }))
            .sort((a, b) => Math.abs(a - hand.coarseRead!) - Math.abs(b - hand.coarseRead!))
            .slice(0, 2)
            .map((mm) => signedLengthFigure(mm, unit))
            .join(' or ')}{' '}
          {unit}. Read the cross again (<kbd>c</kbd>), then the comb.
        </p>
      )}
    </>
  );
}

export const axisWords = ({ axis }: Task): string => (axis === 'across' ? 'across' : 'along the feed');

/** The same presses as the keys, for a finger. */
export function DeskButtons({
  desk,
  at,
  ready,
  unit,
  coarse = true,
  press,
}: {
  desk: Desk;
  at: AtHand;
  ready: boolean;
  unit: LengthUnit;
  /** False where the whole lengths are known: no cross is asked for. */
  coarse?: boolean;
  press: (kind: 'nudge' | 'between' | 'coarse' | 'enter', by?: 1 | -1) => void;
}) {
  const { hand } = desk;
  const across = at.task.axis === 'across';
  return (
    <fieldset className="keys" disabled={!ready}>
      <Button
        variant="plain"
        onClick={() => press('nudge', -1)}
        aria-label={across ? 'One to the left' : 'One back'}
      >
        <kbd>{across ? '←' : '↓'}</kbd>
      </Button>
      <Button
        variant="plain"
        onClick={() => press('nudge', 1)}
        aria-label={across ? 'One to the right' : 'One further'}
      >
        <kbd>{across ? '→' : '↑'}</kbd>
      </Button>
      {hand.mode === 'fine' && (
        <>
          <Button variant="plain" onClick={() => press('between')} aria-pressed={at.pick.between}>
            between <kbd className="key-hint">b</kbd>
          </Button>
          {coarse && (
            <Button variant="plain" onClick={() => press('coarse')}>
              coarse <kbd className="key-hint">c</kbd>
            </Button>
          )}
        </>
      )}
      <Button variant={desk.finished ? 'plain' : 'main'} onClick={() => press('enter')}>
        {hand.mode === 'coarse'
          ? `On, ${signed(hand.coarseMm, 1)} mm`
          : `Keep ${ready ? signedLengthFigure(at.offsetMm, unit) : '…'}`}{' '}
        <kbd className="key-hint">Enter</kbd>
      </Button>
    </fieldset>
  );
}
