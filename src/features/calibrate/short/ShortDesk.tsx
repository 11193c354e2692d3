'use client';

import Button from 'react-bootstrap/Button';
import { useMemo, useState, useTransition } from 'react';

import type { CorrectionWay } from '@/core/setup';
import type { Usual } from '@/core/record/plausible';
import { type LengthUnit } from '@/core/units';
import { ActButton } from '@/features/forms/acts/ActButton';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import type { SessionState } from '@/server/sessions/session';
import type { SimulatedComb } from '@/server/sessions/simulatedCombs';
import { Fold } from '@/ui/Fold';
import { useLater } from '@/ui/useLater';

import { shortIsTyped } from '../actions';
import type { PushView } from '../settingView';
import { CoarseAsked } from '../read/coarseDoubt';
import { useDeskKeys } from '../read/useDeskKeys';
import { ShortPictures, SimulatedLoupe } from './ShortPictures';
import {
  axisOf,
  between,
  bothStand,
  coarseAt,
  letStand,
  nudge,
  picksOf,
  takeTyped,
  turnCoarse,
  typeKey,
  type ShortHand,
  type ShortPicks,
} from './shortHand';
import type { ShortGiven } from './shortSums';
import { useShortDoubt } from './useShortDoubt';

const loadSums = () => import('./shortSums');

/** What can be done with two picks: carried by something, left alone, or looked at first. */
export type ShortHow = CorrectionWay | 'leave' | 'see';

type Says = ReturnType<typeof import('./shortSums').sayShort>;

/** Reading a short sheet: both combs at once, and what to type beside them as soon as they stand. */
export function ShortDesk({
  session,
  passId,
  given,
  ways,
  pushes,
  usual,
  first,
  unit,
  simulated,
}: {
  session: SessionState;
  passId: string;
  given: ShortGiven;
  /** What can carry a shift on this rig, the best first. */
  ways: readonly CorrectionWay[];
  /** What to type to learn which way settings go of which nobody knows. */
  pushes: readonly PushView[];
  /** What a reading is judged by. */
  usual: Usual;
  first: ShortHand;
  unit: LengthUnit;
  simulated: readonly SimulatedComb[] | null;
}) {
  const { station } = given;
  const sums = useLater(loadSums);
  const [hand, setHand] = useState(first);
  const [pending, start] = useTransition();
  const [message, setMessage] = useState('');
  const asking = useShortDoubt(hand, usual, unit);
  const picks = picksOf(hand, station);
  const key = JSON.stringify(picks);
  const worked = useMemo(
    () => sums?.sayShort(given, JSON.parse(key) as ShortPicks, unit) ?? null,
    [sums, given, key, unit],
  );
  const { doubt } = asking;
  const stand = bothStand(hand);
  const says = stand ? worked : null;
  const how = shortWay(ways, says);
  const send = (by: ShortHow): void => {
    if (!says || pending) return;
    const shown = [
      ...says.rows.map((r) => ({ settingId: r.id, to: r.to.value })),
      ...(by === 'push' ? pushes.map((p) => ({ settingId: p.id, to: p.value })) : []),
    ];
    start(async () => {
      const input = { sessionId: session.id, passId, picks, how: by, shown };
      const done = await keeping(['short', input], (stamp) => shortIsTyped(input, stamp), session.version);
      if (done?.ok === false) setMessage(whyNotDone(done));
    });
  };
  const turn = (): void => {
    if (!asking.asks()) setHand(turnCoarse);
  };
  const enter = (): void => {
    if (hand.typed !== '') setHand((h) => takeTyped(h, station, unit));
    else if (hand.coarse) turn();
    else if (!stand) setHand(letStand);
    else send(how);
  };
  useDeskKeys(sums !== null, hand.typed !== '', (kind, { by, key: pressed }) => {
    if (kind === 'enter') enter();
    else if (kind === 'between') setHand((h) => between(h, station, h.typesFor));
    else if (kind === 'coarse') turn();
    else if (kind === 'type') setHand((h) => typeKey(h, pressed));
    else if (kind === 'nudge') setHand((h) => nudge(h, station, axisOf(pressed), by!));
  });
  return (
    <div className="two short">
      <div>
        <h1 className="answer">Make both combs look like your loupe.</h1>
        <ShortPictures
          {...{ station, hand, unit }}
          offMm={worked?.offMm ?? null}
          ready={sums !== null}
          press={(axis, by) => setHand((h) => nudge(h, station, axis, by))}
          halve={(axis) => setHand((h) => between(h, station, axis))}
          coarse={() => setHand(turnCoarse)}
        />
        {doubt && <CoarseAsked doubt={doubt} onMeant={(mm) => setHand((h) => coarseAt(h, doubt.axis, mm))} />}
        {(hand.typed || hand.notThere) && (
          <p className="notice mt-2" role="status">
            {hand.typed ? (
              <>
                <span className="mono">{hand.typed}</span> {hand.typesFor}: <kbd>Enter</kbd>
              </>
            ) : (
              hand.notThere
            )}
          </p>
        )}
      </div>
      <div className="stack side">
        <div className="short-dock stack">
          <Panel {...{ says, how, pushes }} />
          <div>
            <Button
              variant={says ? 'main' : 'plain'}
              className="w-100 big-act"
              disabled={!worked || pending}
              onClick={enter}
            >
              {says ? DO_WORDS[how] : hand.coarse ? 'To the combs' : 'Both look like this'}{' '}
              <kbd className="key-hint">Enter</kbd>
            </Button>
            {message && (
              <span className="field-error" role="alert">
                {message}
              </span>
            )}
          </div>
        </div>
        {simulated && <SimulatedLoupe {...{ station, unit }} seen={simulated} coarse={hand.coarse} />}
        <div className="short-more">
          <p className="small-print">
            Then, on this same sheet: does the middle pair run straight through? Yes or no, twice.
          </p>
          {ways.length > 0 && (
            <Fold
              name="short-ways"
              words="Another way"
              usual={how === 'leave' ? 'type it all the same' : OTHER_WORDS(ways, how)}
            >
              <div className="stack">
                {[
                  ...ways.filter((w) => w !== how),
                  ...(how === 'leave' ? [] : (['leave'] as const)),
                  'see' as const,
                ].map((w) => (
                  <Button key={w} variant="plain" disabled={!says || pending} onClick={() => send(w)}>
                    {DO_WORDS[w]}
                  </Button>
                ))}
              </div>
            </Fold>
          )}
          <Fold name="short-unseen" words="Unseen" usual="turn, size and lean">
            <p className="small-print">
              Two picks tell the shift in the middle. What turn, size and lean add is taken from this rig’s
              log, or from what untouched rigs have.
            </p>
            <ActButton act="widen" session={session} words="Full sheet instead" />
          </Fold>
        </div>
      </div>
    </div>
  );
}

const DO_WORDS: Readonly<Record<ShortHow, string>> = {
  settings: 'Typed: cut set B',
  both: 'Typed: cut set B',
  push: 'Pushed: cut set B',
  file: 'Cut set B with the corrected file',
  'machine-page': 'Keep both, and see what to do',
  leave: 'Leave it and close',
  see: 'See every figure first',
};

const OTHER_WORDS = (ways: readonly CorrectionWay[], how: ShortHow): string =>
  ways.some((w) => w !== how && w === 'file') ? 'in the file, or leave it' : 'leave it, or see every figure';

/** What the red act does. */
function shortWay(ways: readonly CorrectionWay[], says: Says): ShortHow {
  if (says?.leave) return 'leave';
  const [way] = ways;
  if (way === 'settings' && says && !says.types) return ways.includes('file') ? 'file' : 'leave';
  return way === undefined || way === 'machine-page' ? 'see' : way;
}

/** What to type, huge. */
function Panel({ says, how, pushes }: { says: Says; how: ShortHow; pushes: readonly PushView[] }) {
  if (!says)
    return (
      <section className="panel short-waits">
        <h2>Type into the cutter</h2>
        <p className="soft mb-0">As soon as both combs stand.</p>
      </section>
    );
  if (how === 'leave')
    return (
      <section className="panel">
        <h2>Leave it</h2>
        <p className="mb-0">It is no further off than reading and loading scatter. Type nothing.</p>
      </section>
    );
  if (how === 'file' || how === 'see')
    return (
      <section className="panel">
        <h2>{how === 'file' ? 'In the file' : 'Read'}</h2>
        <p className="mb-0">
          {how === 'file'
            ? 'The cut file of set B carries it. Leave the machine alone.'
            : 'See then what can be done.'}
        </p>
      </section>
    );
  const push = how === 'push';
  return (
    <section className="panel">
      <h2>{push ? 'Push: nobody knows yet which way' : 'Type into the cutter'}</h2>
      {[
        ...says.rows
          .filter((r) => !push || r.changed)
          .map((r) => ({ ...r, shownTo: r.to.shown, pushed: '' })),
        ...(push ? pushes : []).map((p) => ({ ...p, shownTo: p.to, pushed: ' pushed' })),
      ].map((r) => (
        <div key={r.id} className={`type-row type-row-big${r.pushed}`}>
          <strong>{r.name}</strong>
          <s className="mono from">{r.from}</s>
          <span className="arrow" aria-hidden="true">
            →
          </span>
          <span className="mono to" data-testid={`to-${r.name}`}>
            {r.shownTo}
          </span>
          <span className="small-print type-moves">
            {r.moves}
            {r.note ? ` ${r.note}` : ''}
          </span>
        </div>
      ))}
      {!push && says.left && (
        <p className="small-print mb-0 mt-2">Left: {says.left}, less than a step of the cutter.</p>
      )}
    </section>
  );
}
