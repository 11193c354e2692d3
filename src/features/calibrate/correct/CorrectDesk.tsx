'use client';

import { type CorrectionWay } from '@/core/setup';
import Button from 'react-bootstrap/Button';
import FormCheckInput from 'react-bootstrap/FormCheckInput';
import { useState, useTransition, type ComponentProps } from 'react';

import type { LengthUnit } from '@/core/units';
import type { SessionState } from '@/server/sessions/session';

import type { BleedPoint } from '@/core/correction/bleedCurve';
import { BleedPanel } from '@/features/forms/setup/BleedPanel';
import { OwnPageForm } from '@/features/forms/setup/OwnPageForm';
import { ActButton } from '@/features/forms/acts/ActButton';
import { correctionIsDone } from '../actions';
import type { SettingView } from '../settingView';
import { FileDrop } from './FileDrop';
import { keeping, whyNotDone } from '@/features/forms/keeping';

const WAY_WORDS: Readonly<Record<CorrectionWay, string>> = {
  'machine-page': 'run the machine’s own calibration',
  settings: 'type the figures, leave the file as it is',
  both: 'type the figures, and the rest in the file',
  file: 'all of it in the file, leave the machine alone',
  push: 'push the figures once, to see which way they go',
};

const DONE_WORDS: Readonly<Record<CorrectionWay, string>> = {
  settings: 'I have typed them: prove it',
  both: 'I have typed them: prove it',
  file: 'The file carries it: prove it',
  'machine-page': 'It has been run: prove it',
  push: 'I have pushed them: cut the next set',
};

const TITLES: Readonly<Record<CorrectionWay, string>> = {
  settings: 'Type into the cutter',
  both: 'Type into the cutter',
  file: 'Use the corrected file',
  'machine-page': 'Run the machine’s own calibration',
  push: 'Which way? Push it once',
};

/** What to type, what the file carries, and “I have typed them”. The two never correct the same thing twice. */
export function CorrectDesk({
  session,
  correctionId,
  sheetLabel,
  leave,
  settings,
  pushes,
  moves,
  ways,
  bleed,
  after,
  ownPage,
  unit,
}: {
  session: SessionState;
  correctionId: string | null;
  sheetLabel: string;
  leave: boolean;
  settings: readonly SettingView[];
  /** What to type to learn which way settings go of which nobody knows. */
  pushes: readonly SettingView[];
  moves: string;
  /** What can carry the correction on this rig, the best first; empty: nothing can. */
  ways: readonly CorrectionWay[];
  bleed: readonly BleedPoint[];
  after: Readonly<Record<CorrectionWay, string>>;
  /** Where a run of the machine's own page is kept. */
  ownPage: ComponentProps<typeof OwnPageForm>;
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
  const typing = way === 'settings' || way === 'both';
  if (ways.length === 0) return <LiveWithIt session={session} bleed={bleed} leave={leave} unit={unit} />;
  const body = (
    <>
      {way === 'push' && (
        <p>
          Nobody knows yet which way {pushes.map((s) => s.name).join(' and ')} moves the cut, so no figure is
          told with a sign. Type this and nothing else, cut the next set and read it: then the direction is
          known, and from these same readings what to type.
        </p>
      )}
      {(typing || way === 'push') && (
        <>
          {(way === 'push' ? pushes : settings).map((s) => (
            <div key={s.id}>
              <div className="type-row">
                <span>{s.name}</span>
                <span className="mono from">
                  <span className="visually-hidden">from </span>
                  <s>{s.from}</s>
                </span>
                <span className="arrow" aria-hidden="true">
                  →
                </span>
                <span className="mono to" data-testid={`to-${s.name}`}>
                  <span className="visually-hidden">to </span>
                  {s.to}
                  <span className="fs-6 fw-normal"> {s.unit}</span>
                </span>
              </div>
              {!s.changed && <p className="small-print mb-1">It stays as it is.</p>}
              {s.changed && s.how.length > 0 && <p className="small-print mb-1">{s.how.join(' ')}</p>}
              {s.changed && s.note && <p className="mb-1">{s.note}</p>}
              {s.clamped && <p className="notice mb-1">{s.clamped}</p>}
            </div>
          ))}
          {typing && <p className="small-print">{moves}</p>}
        </>
      )}
      {way === 'machine-page' && <RunItsPage {...ownPage} />}
      {way === 'file' && <p>Leave the machine’s figures as they are and cut with the corrected file.</p>}
      {ways.length > 1 && (
        <fieldset className="choice">
          <legend className="visually-hidden">What carries the correction</legend>
          {ways.map((w) => (
            <div className="form-check ps-0" key={w}>
              <FormCheckInput
                type="radio"
                name="way"
                id={`way-${w}`}
                className="m-0"
                checked={way === w}
                onChange={() => setWay(w)}
              />
              <label htmlFor={`way-${w}`}>
                {WAY_WORDS[w]}
                {after[w] && (
                  <>
                    : <span className="mono">{after[w]}</span>
                  </>
                )}
              </label>
            </div>
          ))}
        </fieldset>
      )}
      <Button variant={leave ? 'plain' : 'main'} className="w-100" disabled={pending} onClick={done}>
        {DONE_WORDS[way]}
      </Button>
      {message && (
        <span className="field-error" role="alert">
          {message}
        </span>
      )}
      <div className="mt-3">
        {!typing && way !== 'file' ? null : way === 'settings' ? (
          <p className="small-print mb-0">
            {ways.includes('both')
              ? 'The file stays as drawn. Choose “and the rest in the file” above to correct a cut file too.'
              : 'The file needs no change.'}
          </p>
        ) : correctionId === null ? null : (
          <FileDrop
            correctionId={correctionId}
            restOnly={way === 'both'}
            sheetLabel={sheetLabel}
            unit={unit}
          />
        )}
      </div>
    </>
  );
  if (leave)
    return (
      <details className="panel working">
        <summary>Correct it all the same</summary>
        {body}
      </details>
    );
  return (
    <section className="panel">
      <h2>{TITLES[way]}</h2>
      {body}
    </section>
  );
}

/** The machine does it by itself: what was picked on its page is noted, and the proof tells. */
function RunItsPage(ownPage: ComponentProps<typeof OwnPageForm>) {
  return (
    <>
      <p>
        No figure and no file is in your hands on this rig. Run the calibration on the machine’s own page, as
        its manual says, while the sheet stays loaded; then cut the next set and read it here. It tells
        whether it worked.
      </p>
      <details className="working mb-3">
        <summary>What was picked on its page</summary>
        <OwnPageForm {...ownPage} />
      </details>
    </>
  );
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
