'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';

import type { LinePick } from '@/core/comb';
import type { OffsetAxis } from '@/core/units';

import { keepAs, newNumber, whyNotDone } from '@/features/forms/keeping';

import { keepReading, takeBackReading } from '../actions';
import { answered, entered, notHeardOf, sameComb, shown, type Answered, type Waiting } from './waitingLine';

export interface KeptReading {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly pick: LinePick;
  readonly coarseMm: number | null;
  /** Who entered it; nothing for what was entered here a moment ago. */
  readonly by?: string;
}

export interface RefusedReading {
  readonly reading: KeptReading;
  readonly message: string;
}

const RETRY_MS = 3000;

/**
 * The readings of a pass: each is saved as it is entered. What gets no answer waits in this browser, is said, and is
 * sent again until it is in the log; what is refused leaves the line and is shown, and the rest goes on.
 * `kept` is what the log had after `changes` changes: other tablets' readings come in with it. `readLine` reads what
 * waits; nothing is kept before it is here.
 */
// eslint-disable-next-line max-lines-per-function -- one line of readings, its store, its sending and what is shown
export function useReadings(
  passId: string,
  kept: readonly KeptReading[],
  changes: number,
  readLine: ((text: string | null) => Waiting[]) | null,
) {
  const key = `red-plumb-unsaved-${passId}`;
  const [waiting, setWaiting] = useState<readonly Waiting[]>([]);
  /** Kept from here, until the page has heard of it from the log. */
  const [sent, setSent] = useState<readonly (KeptReading & Answered)[]>([]);
  const [cleared, setCleared] = useState<readonly ({ stationId: string; axis: OffsetAxis } & Answered)[]>([]);
  const [refused, setRefused] = useState<readonly RefusedReading[]>([]);
  const [message, setMessage] = useState('');
  const sending = useRef(false);

  // What the log tells is newer than what was remembered beside it, unless it was asked before that was answered.
  const [heard, setHeard] = useState(kept);
  if (heard !== kept) {
    setHeard(kept);
    setSent(notHeardOf(sent, changes));
    setCleared(notHeardOf(cleared, changes));
  }

  const remember = useCallback(
    (change: (line: readonly Waiting[]) => Waiting[]): void => {
      if (!readLine) return;
      const line = change(readLine(localStorage.getItem(key)));
      if (line.length === 0) localStorage.removeItem(key);
      else localStorage.setItem(key, JSON.stringify(line));
      setWaiting(line);
    },
    [key, readLine],
  );

  useEffect(() => {
    // eslint-disable-next-line react-hooks/set-state-in-effect -- the browser's store is read once, after hydration
    remember((line) => [...line]);
  }, [remember]);

  const flush = useCallback(async (): Promise<void> => {
    if (sending.current || !readLine) return;
    sending.current = true;
    try {
      for (;;) {
        const next = readLine(localStorage.getItem(key))[0];
        if (!next) return;
        const { request, ...reading } = next;
        const done = await keepAs({ request }, (stamp) => keepReading({ passId, ...reading }, stamp));
        // Only what a rule refuses leaves the line; what could not be done is tried again.
        if (!done.ok && done.said !== 'refused' && done.said !== 'stale') {
          setMessage(whyNotDone(done));
          return;
        }
        setMessage('');
        if (done.ok) setSent((list) => shown(list, [{ ...reading, ...done.value }]));
        else setRefused((list) => [...list, { reading, message: whyNotDone(done) }]);
        remember((line) => answered(line, request));
      }
    } finally {
      sending.current = false;
    }
  }, [key, passId, readLine, remember]);

  useEffect(() => {
    if (waiting.length === 0) return;
    const timer = setInterval(() => void flush(), RETRY_MS);
    return () => clearInterval(timer);
  }, [waiting.length, flush]);

  const keep = useCallback(
    (reading: KeptReading): void => {
      setCleared((list) => list.filter((c) => !sameComb(c, reading)));
      setRefused((list) => list.filter((r) => !sameComb(r.reading, reading)));
      remember((line) => entered(line, { ...reading, request: newNumber() }));
      void flush();
    },
    [flush, remember],
  );

  const takeBack = useCallback(
    async (stationId: string, axis: OffsetAxis): Promise<void> => {
      const comb = { stationId, axis };
      remember((line) => line.filter((w) => !sameComb(w, comb)));
      const done = await keepAs({ request: newNumber() }, (stamp) =>
        takeBackReading({ passId, comb }, stamp),
      );
      if (done.ok) {
        setCleared((list) => [...list, { ...comb, ...done.value }]);
        setSent((list) => list.filter((s) => !sameComb(s, comb)));
      } else setMessage(whyNotDone(done));
    },
    [passId, remember],
  );

  const readings = useMemo(() => {
    const known = shown<KeptReading>(kept, sent).filter((r) => !cleared.some((c) => sameComb(c, r)));
    return shown<KeptReading>(known, waiting);
  }, [kept, sent, cleared, waiting]);

  const forgetRefused = useCallback(() => setRefused([]), []);
  return { readings, unsaved: waiting.length, refused, forgetRefused, message, keep, takeBack };
}
