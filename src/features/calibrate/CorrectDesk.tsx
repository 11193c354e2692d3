'use client';

import { useState, useTransition } from 'react';

import type { Affine } from '@/core/geometry';
import type { LengthUnit } from '@/core/units';
import { type CorrectionWay } from '@/server/session';

import { correctionIsDone } from './actions';
import { FileDrop } from './FileDrop';

export interface SettingView {
  readonly id: string;
  readonly name: string;
  readonly unit: string;
  readonly from: string;
  readonly to: string;
  readonly changed: boolean;
  readonly note: string | null;
  readonly clamped: string | null;
}

const WAY_WORDS: Readonly<Record<CorrectionWay, string>> = {
  settings: 'type the figures, leave the file as it is',
  both: 'type the figures, and the rest in the file',
  file: 'all of it in the file, leave the machine alone',
};

/** What to type, what the file carries, and “I have typed them”. The two never correct the same thing twice. */
export function CorrectDesk({
  sessionId,
  correctionId,
  sheetLabel,
  leave,
  settings,
  moves,
  restWorthwhile,
  rest,
  whole,
  after,
  unit,
}: {
  sessionId: string;
  correctionId: string | null;
  sheetLabel: string;
  leave: boolean;
  settings: readonly SettingView[];
  moves: string;
  restWorthwhile: boolean;
  rest: Affine;
  whole: Affine;
  after: Readonly<Record<CorrectionWay, string>>;
  unit: LengthUnit;
}) {
  const canType = settings.some((s) => s.changed);
  const ways: CorrectionWay[] = canType
    ? restWorthwhile
      ? ['both', 'settings', 'file']
      : ['settings', 'file']
    : ['file'];
  const [way, setWay] = useState<CorrectionWay>(ways[0]!);
  const [pending, start] = useTransition();
  const [message, setMessage] = useState('');
  const done = (): void =>
    start(async () => {
      const result = await correctionIsDone(sessionId, way);
      if (!result.ok) setMessage(result.message);
    });
  const buttonWords = way === 'file' ? 'The file carries it: prove it' : 'I have typed them: prove it';
  const body = (
    <>
      {way !== 'file' && (
        <>
          {settings.map((s) => (
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
              {s.changed && s.note && <p className="mb-1">{s.note}</p>}
              {s.clamped && <p className="notice mb-1">{s.clamped}</p>}
            </div>
          ))}
          <p className="small-print">{moves}</p>
        </>
      )}
      {way === 'file' && <p>Leave the machine’s figures as they are and cut with the corrected file.</p>}
      {ways.length > 1 && (
        <fieldset className="choice">
          <legend className="visually-hidden">What carries the correction</legend>
          {ways.map((w) => (
            <div className="form-check ps-0" key={w}>
              <input
                type="radio"
                name="way"
                id={`way-${w}`}
                className="form-check-input m-0"
                checked={way === w}
                onChange={() => setWay(w)}
              />
              <label htmlFor={`way-${w}`}>
                {WAY_WORDS[w]}: <span className="mono">{after[w]}</span>
              </label>
            </div>
          ))}
        </fieldset>
      )}
      <button
        type="button"
        className={`btn w-100 ${leave ? 'btn-plain' : 'btn-main'}`}
        disabled={pending}
        onClick={done}
      >
        {buttonWords}
      </button>
      {message && (
        <span className="field-error" role="alert">
          {message}
        </span>
      )}
      <div className="mt-3">
        {way === 'settings' ? (
          <p className="small-print mb-0">
            {restWorthwhile
              ? 'The file stays as drawn. Choose “and the rest in the file” above to correct a cut file too.'
              : 'Nothing worth correcting is left for the file.'}
          </p>
        ) : (
          <FileDrop
            transform={way === 'file' ? whole : rest}
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
      <h2>{way === 'file' ? 'Use the corrected file' : 'Type into the cutter'}</h2>
      {body}
    </section>
  );
}
