'use client';

import Button from 'react-bootstrap/Button';
import FormCheckInput from 'react-bootstrap/FormCheckInput';
import { useState, useTransition } from 'react';

import type { EffectDirection } from '@/core/correction';
import { capital } from '@/core/units';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import type { SessionState } from '@/server/sessions/session';
import { DIRECTION_WORDS } from '@/ui/words/settingWords';

import { wayIsSaid } from '../actions';
import type { PushView, SettingView } from '../settingView';

/** Says which way a setting goes, or that nobody knows. */
function useSay(session: SessionState, settingId: string) {
  const [pending, start] = useTransition();
  const [message, setMessage] = useState('');
  const say = (direction: EffectDirection | null): void =>
    start(async () => {
      const given = { sessionId: session.id, settingId, direction };
      const done = await keeping(['way', given], (stamp) => wayIsSaid(given, stamp), session.version);
      setMessage(done?.ok === false ? whyNotDone(done) : '');
    });
  return {
    pending,
    say,
    failed: message && (
      <span className="field-error" role="alert">
        {message}
      </span>
    ),
  };
}

/** “Which way does more of Y move the cut?” Who knows turns the push into a figure. */
export function WayAsked({ session, push }: { session: SessionState; push: PushView }) {
  const { pending, say, failed } = useSay(session, push.id);
  return (
    <fieldset className="way-asked" disabled={pending}>
      <legend>Which way does more of {push.name} go?</legend>
      <label className="card-choice chosen">
        <FormCheckInput type="radio" name={`way-${push.id}`} className="mt-0" defaultChecked />
        <strong>Push and see</strong>
      </label>
      {push.ways.map((direction) => (
        <label key={direction} className="card-choice">
          <FormCheckInput
            type="radio"
            name={`way-${push.id}`}
            className="mt-0"
            onChange={() => say(direction)}
          />
          <strong>{capital(DIRECTION_WORDS[direction])}</strong>
        </label>
      ))}
      {failed}
    </fieldset>
  );
}

/** Takes back that somebody knew: it is pushed once more. */
export function WayUnknown({
  session,
  setting,
}: {
  session: SessionState;
  setting: Pick<SettingView, 'id' | 'name'>;
}) {
  const { pending, say, failed } = useSay(session, setting.id);
  return (
    <div>
      <Button variant="plain" disabled={pending} onClick={() => say(null)}>
        Not sure which way {setting.name} goes: push it
      </Button>
      {failed}
    </div>
  );
}
