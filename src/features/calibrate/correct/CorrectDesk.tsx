'use client';

import { type CorrectionWay } from '@/core/setup';
import Button from 'react-bootstrap/Button';
import FormCheckInput from 'react-bootstrap/FormCheckInput';
import { useState, useTransition, type ComponentProps, type ReactNode } from 'react';

import type { LengthUnit } from '@/core/units';
import type { SessionState } from '@/server/sessions/session';

import type { BleedPoint } from '@/core/correction/bleedCurve';
import { BleedPanel } from '@/features/forms/setup/BleedPanel';
import { OwnPageForm } from '@/features/forms/setup/OwnPageForm';
import { ActButton } from '@/features/forms/acts/ActButton';
import { Fold } from '@/ui/Fold';
import { correctionIsDone } from '../actions';
import type { PushView, SettingView } from '../settingView';
import { WayAsked, WayUnknown } from './WayAsked';
import { WhatToDo } from './WhatToDo';
import { FileDrop } from './FileDrop';
import { keeping, whyNotDone } from '@/features/forms/keeping';

const WAY_WORDS: Readonly<Record<CorrectionWay, string>> = {
  'machine-page': 'Run the machine’s own calibration',
  settings: 'Leave it',
  both: 'Put it in cut files',
  file: 'All of it in the file',
  push: 'Push and see',
};

const DONE_WORDS: Readonly<Record<CorrectionWay, string>> = {
  settings: 'Typed: prove it',
  both: 'Typed: prove it',
  file: 'The file carries it: prove it',
  'machine-page': 'It has been run: prove it',
  push: 'Pushed: cut the next set',
};

/** What to type, what the file carries, and “typed”. The two never correct the same thing twice. */
export function CorrectDesk({
  session,
  correctionId,
  sheetLabel,
  leave,
  settings,
  pushes,
  ways,
  rest,
  bleed,
  after,
  ownPage,
  why,
  others,
  known,
  unit,
}: {
  session: SessionState;
  correctionId: string | null;
  sheetLabel: string;
  leave: boolean;
  settings: readonly SettingView[];
  /** What to type to learn which way settings go of which nobody knows. */
  pushes: readonly PushView[];
  /** What can carry the correction on this rig, the best first; empty: nothing can. */
  ways: readonly CorrectionWay[];
  /** What the figures do not reach: “turn of 0.09° anticlockwise”. */
  rest: string;
  bleed: readonly BleedPoint[];
  after: Readonly<Record<CorrectionWay, string>>;
  /** Where a run of the machine's own page is kept. */
  ownPage: ComponentProps<typeof OwnPageForm>;
  /** What it is made of, one press away. */
  why: ReactNode;
  /** What can be done instead of correcting. */
  others: ReactNode;
  /** Settings of which somebody said which way they go. */
  known: readonly Pick<SettingView, 'id' | 'name'>[];
  unit: LengthUnit;
}) {
  const [way, setWay] = useState<CorrectionWay>(ways[0] ?? 'settings');
  const [pending, start] = useTransition();
  const [message, setMessage] = useState('');
  const done = (): void =>
    start(async () => {
      const result = await keeping(
        ['correct', session.id, way],
        (stamp) => correctionIsDone({ sessionId: session.id, how: way }, stamp),
        session.version,
      );
      if (result?.ok === false) setMessage(whyNotDone(result));
    });
  const carries = way === 'both' || way === 'file';
  const folds = (
    <div className="folds-row">
      <Fold name="correct-why" words="Why">
        <div className="stack">{why}</div>
      </Fold>
      {carries && correctionId !== null && !leave && (
        <Fold name="correct-files" words="Give me cut files">
          <FileDrop {...{ correctionId, sheetLabel, unit }} restOnly={way === 'both'} />
        </Fold>
      )}
      <Fold name="correct-other" words="Another way">
        <div className="stack">
          {ways.includes('file') && ways.length > 1 && (
            <Choice of={ways.length === 2 ? ways : ['file']} {...{ way, setWay, after }} />
          )}
          {others}
          {known.map((setting) => (
            <WayUnknown key={setting.id} session={session} setting={setting} />
          ))}
        </div>
      </Fold>
    </div>
  );
  if (ways.length === 0)
    return (
      <>
        <LiveWithIt session={session} bleed={bleed} leave={leave} unit={unit} />
        {folds}
      </>
    );
  const cards = ways.filter((w) => w !== 'file');
  const body = (
    <>
      <WhatToDo {...{ way, settings, pushes, ownPage }} />
      {way === 'push' && pushes.map((push) => <WayAsked key={push.id} session={session} push={push} />)}
      {cards.length > 1 ? (
        <fieldset className="cards-row">
          <legend>And the {rest}?</legend>
          <Choice of={cards} {...{ way, setWay, after }} />
        </fieldset>
      ) : (
        after[way] && (
          <p className="mb-0">
            95 of 100 then within <strong className="mono">{after[way]}</strong>
          </p>
        )
      )}
      <div>
        <Button
          variant={leave ? 'plain' : 'main'}
          className="w-100 big-act"
          disabled={pending}
          onClick={done}
        >
          {way === 'push' && settings.some((s) => s.changed)
            ? 'Typed and pushed: cut the next set'
            : DONE_WORDS[way]}
        </Button>
        {message && (
          <span className="field-error" role="alert">
            {message}
          </span>
        )}
      </div>
    </>
  );
  return (
    <>
      {leave ? (
        <Fold name="correct-anyway" words="Correct it all the same">
          <div className="stack">{body}</div>
        </Fold>
      ) : (
        body
      )}
      {folds}
    </>
  );
}

/** One way each, with what 95 of 100 cuts stay within by it. */
function Choice({
  of,
  way,
  setWay,
  after,
}: {
  of: readonly CorrectionWay[];
  way: CorrectionWay;
  setWay: (way: CorrectionWay) => void;
  after: Readonly<Record<CorrectionWay, string>>;
}) {
  return of.map((w) => (
    <label key={w} className={way === w ? 'card-choice chosen' : 'card-choice'}>
      <FormCheckInput
        type="radio"
        name="way"
        className="mt-0"
        checked={way === w}
        onChange={() => setWay(w)}
      />
      <span className="way-card">
        <strong>
          {of.length > 1 && !of.includes('both') && w === 'settings' ? 'Type it' : WAY_WORDS[w]}
        </strong>
        {after[w] && (
          <>
            <span className="small-print">95 of 100 within</span>
            <strong className="mono">{after[w]}</strong>
          </>
        )}
      </span>
    </label>
  ));
}

/** Nothing can be changed: how much bleed hides it, and out. */
function LiveWithIt({
  session,
  bleed,
  leave,
  unit,
}: {
  session: SessionState;
  bleed: readonly BleedPoint[];
  leave: boolean;
  unit: LengthUnit;
}) {
  return (
    <>
      <BleedPanel curve={bleed} title="Live with it" unit={unit} />
      {!leave && <ActButton act="close" session={session} words="Close with what was found" main />}
    </>
  );
}
