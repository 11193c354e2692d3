'use client';

import { useCallback, useEffect, useRef, useState } from 'react';

import type { LinePick } from '@/core/readings';
import type { OffsetAxis } from '@/core/units';

import { keepReading, takeBackReading } from './actions';

export interface KeptReading {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly pick: LinePick;
  readonly coarseMm: number | null;
}

const RETRY_MS = 3000;

const same = (a: { stationId: string; axis: string }, b: { stationId: string; axis: string }): boolean =>
  a.stationId === b.stationId && a.axis === b.axis;

/** What waits in this browser because the server or its database is away. */
function stored(key: string): KeptReading[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(key) ?? '[]');
    return Array.isArray(found) ? (found as KeptReading[]) : [];
  } catch {
    return [];
  }
}

/**
 * The readings of a pass: each is saved as it is entered. What cannot be saved stays in this browser,
 * is said, and is tried again until it is in the log.
 */
export function useReadings(passId: string, initial: readonly KeptReading[]) {
  const key = `red-plumb-unsaved-${passId}`;
  const [readings, setReadings] = useState<readonly KeptReading[]>(initial);
  const [unsaved, setUnsaved] = useState<readonly KeptReading[]>([]);
  const [message, setMessage] = useState('');
  const sending = useRef(false);

  const remember = useCallback(
    (waiting: readonly KeptReading[]): void => {
      setUnsaved(waiting);
      if (waiting.length === 0) localStorage.removeItem(key);
      else localStorage.setItem(key, JSON.stringify(waiting));
    },
    [key],
  );

  useEffect(() => {
    const waiting = stored(key);
    if (waiting.length === 0) return;
    // eslint-disable-next-line react-hooks/set-state-in-effect -- the browser's store is read once, after hydration
    setUnsaved(waiting);
    setReadings((now) => [...now.filter((r) => !waiting.some((w) => same(w, r))), ...waiting]);
  }, [key]);

  const flush = useCallback(async (): Promise<void> => {
    if (sending.current) return;
    sending.current = true;
    try {
      for (let next = stored(key)[0]; next; next = stored(key)[0]) {
        const saved = await keepReading({ passId, ...next }).catch(() => null);
        if (!saved?.ok) {
          setMessage(saved?.message ?? 'The server does not answer. Your readings are kept in this browser.');
          return;
        }
        const sent = next;
        remember(stored(key).filter((w) => JSON.stringify(w) !== JSON.stringify(sent)));
        setMessage('');
      }
    } finally {
      sending.current = false;
    }
  }, [key, passId, remember]);

  useEffect(() => {
    if (unsaved.length === 0) return;
    const timer = setInterval(() => void flush(), RETRY_MS);
    return () => clearInterval(timer);
  }, [unsaved.length, flush]);

  const keep = useCallback(
    (reading: KeptReading): void => {
      setReadings((now) => [...now.filter((r) => !same(r, reading)), reading]);
      remember([...stored(key).filter((w) => !same(w, reading)), reading]);
      void flush();
    },
    [flush, key, remember],
  );

  const takeBack = useCallback(
    async (stationId: string, axis: OffsetAxis): Promise<void> => {
      setReadings((now) => now.filter((r) => !same(r, { stationId, axis })));
      remember(stored(key).filter((w) => !same(w, { stationId, axis })));
      const done = await takeBackReading(passId, stationId, axis).catch(() => null);
      if (!done?.ok)
        setMessage(done?.message ?? 'The server does not answer; reload the page when it is back.');
    },
    [key, passId, remember],
  );

  return { readings, unsaved: unsaved.length, message, keep, takeBack };
}
