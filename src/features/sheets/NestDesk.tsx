'use client';

import { proxy, wrap } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Spinner from 'react-bootstrap/Spinner';

import type { NestedSheets, NestJob } from '@/core/layout/nest';
import { useHydrated } from '@/ui/useHydrated';
import type { NestWorker } from '@/workers/nest.worker';

import { anew, useDraft } from './DraftWork';
import { nestingWords } from './nesting.view';

/** So long better nestings are looked for when nobody stops it. */
const LOOKED_FOR_S = 60;

/** True shapes nested while somebody waits; what it saves is shown before it is taken. */
export function NestDesk({
  job,
  now,
}: {
  job: NestJob;
  /** Pieces on each sheet as they lie now. */
  now: readonly number[];
}) {
  const ready = useHydrated();
  const { laid, pending, change } = useDraft();
  const [looking, setLooking] = useState(false);
  const [found, setFound] = useState<NestedSheets | null>(null);
  const worker = useRef<Worker | null>(null);
  const stop = (): void => {
    worker.current?.terminate();
    worker.current = null;
    setLooking(false);
  };
  useEffect(() => () => worker.current?.terminate(), []);
  const start = async (): Promise<void> => {
    stop();
    const raw = new Worker(new URL('../../workers/nest.worker.ts', import.meta.url), { type: 'module' });
    worker.current = raw;
    setFound(null);
    setLooking(true);
    await wrap<NestWorker>(raw)
      .nest(
        job,
        LOOKED_FOR_S,
        proxy((sheets: NestedSheets) => setFound(sheets)),
      )
      .catch(() => undefined);
    if (worker.current === raw) stop();
  };
  const words = found && nestingWords(now, found);
  return (
    <section className="panel" aria-busy={looking || pending}>
      <h2>Nest true shapes</h2>
      <p className="small-print">
        Pieces are laid into each other’s corners instead of beside each other’s rectangles. It looks for up
        to a minute; stop it any time.
      </p>
      {(words || looking) && (
        <p aria-live="polite" className="mb-2">
          {words?.said ?? 'Looking; many pieces take a while.'}
        </p>
      )}
      <div className="d-flex gap-2 align-items-center flex-wrap">
        {looking ? (
          <>
            <Spinner size="sm" aria-hidden />
            <Button variant="plain" className="btn-small" onClick={stop}>
              Stop looking
            </Button>
          </>
        ) : (
          <Button
            variant="plain"
            className="btn-small"
            disabled={!ready || pending}
            onClick={() => void start()}
          >
            {found ? 'Look again' : 'See what it saves'}
          </Button>
        )}
        {found && words?.saves && (
          <Button
            variant="main"
            className="btn-small"
            disabled={pending}
            onClick={() => {
              stop();
              change({ ...laid, layout: { ...laid.layout, nudged: [], nested: found.map((s) => [...s]) } });
              setFound(null);
            }}
          >
            Take it
          </Button>
        )}
        {laid.layout.nested && (
          <Button variant="plain" className="btn-small" disabled={pending} onClick={() => change(anew(laid))}>
            Back to rectangles
          </Button>
        )}
      </div>
    </section>
  );
}
