'use client';

import { useCallback, useEffect, useRef, useState } from 'react';

import { FILE_LIMIT_BYTES } from '@/core/drawing/file';
import { keepAs, newNumber, type ActionResult } from '@/features/forms/keeping';
import type { DailyAnswer } from '@/server/files/dailyFile';
import type { CutFormat } from '@/core/drawing/formats';

/** How a file was given: for whom, as what, and what was said about it. */
export interface Given {
  readonly setupId: string;
  readonly to: CutFormat | 'same';
  /** Its own axes are the sheet’s. */
  readonly own: boolean;
  readonly again: boolean;
  /** Layers that are cut although the file hides them. */
  readonly cutAll: readonly string[];
}

interface Base {
  readonly key: string;
  readonly file: File;
  readonly given: Given;
}

export type DeskFile = Base &
  (
    | { readonly state: 'working' }
    | { readonly state: 'refused'; readonly code: string; readonly message: string }
    | { readonly state: 'done'; readonly answer: DailyAnswer; readonly url: string }
  );

const MEGABYTE = 1024 * 1024;

/** So many go to the server at once. */
const AT_ONCE = 2;

/** Files on their way to the server and back, newest last. */
export function useFiles() {
  const [files, setFiles] = useState<readonly DeskFile[]>([]);
  const waiting = useRef<Base[]>([]);
  const asking = useRef(new Map<string, AbortController>());
  useEffect(() => {
    const open = asking.current;
    return () => open.forEach((one) => one.abort());
  }, []);

  const settle = useCallback((next: DeskFile): void => {
    setFiles((list) => list.map((f) => (f.key === next.key ? next : f)));
  }, []);

  const goOn = useCallback(async (): Promise<void> => {
    while (asking.current.size < AT_ONCE) {
      const next = waiting.current.shift();
      if (!next) return;
      const mine = new AbortController();
      asking.current.set(next.key, mine);
      const done = await correct(next, mine.signal);
      asking.current.delete(next.key);
      if (mine.signal.aborted) continue;
      settle(
        done.ok
          ? {
              ...next,
              state: 'done',
              answer: done.value,
              url: URL.createObjectURL(new Blob([done.value.content], { type: 'application/octet-stream' })),
            }
          : { ...next, state: 'refused', code: done.fields.code ?? '', message: done.message },
      );
    }
  }, [settle]);

  const take = useCallback(
    (list: readonly File[], given: Given): void => {
      const added = list.map((file): Base => ({ key: newNumber(), file, given }));
      setFiles((before) => [...before, ...added.map((b): DeskFile => ({ ...b, state: 'working' }))]);
      waiting.current.push(...added);
      for (let i = 0; i < AT_ONCE; i += 1) void goOn();
    },
    [goOn],
  );

  /** The same file once more, with something else said about it. */
  const retry = useCallback(
    (file: DeskFile, said: Partial<Given>): void => {
      const next: Base = { key: newNumber(), file: file.file, given: { ...file.given, ...said } };
      setFiles((list) => list.map((f): DeskFile => (f.key === file.key ? { ...next, state: 'working' } : f)));
      waiting.current.push(next);
      void goOn();
    },
    [goOn],
  );

  const remove = useCallback((key: string): void => {
    waiting.current = waiting.current.filter((w) => w.key !== key);
    asking.current.get(key)?.abort();
    setFiles((list) => list.filter((f) => f.key !== key));
  }, []);

  return { files, take, retry, remove };
}

const refused = (message: string, code = ''): ActionResult<DailyAnswer> => ({
  ok: false,
  said: 'refused',
  message,
  fields: { code },
});

/** One file through the address; who is at the machine is asked for first. */
const correct = ({ key, file, given }: Base, signal: AbortSignal): Promise<ActionResult<DailyAnswer>> =>
  keepAs<DailyAnswer>({ request: key }, async (stamp) => {
    if (file.size > FILE_LIMIT_BYTES)
      return refused(
        `The file has ${Math.round(file.size / MEGABYTE)} MB; at most ${FILE_LIMIT_BYTES / MEGABYTE} MB can be corrected. Split it into parts.`,
      );
    if (!/(?:^|; )who=\S/.test(document.cookie))
      return {
        ok: false,
        said: 'who',
        message: 'Type your initials first, then give the file again.',
        fields: {},
      };
    const body = new FormData();
    body.set('file', file);
    body.set('setup', given.setupId);
    body.set('frame', given.own ? 'sheet' : 'setup');
    body.set('again', String(given.again));
    for (const layer of given.cutAll) body.append('cutAll', layer);
    body.set('answer', 'whole');
    body.set('request', stamp.request);
    if (given.to !== 'same') body.set('to', given.to);
    const answer = await fetch('/api/correct', { method: 'POST', body, signal }).catch(() => null);
    if (answer?.ok) return { ok: true, value: (await answer.json()) as DailyAnswer };
    const said = (await answer?.json().catch(() => null)) as
      { error?: { code?: string; message?: unknown } } | null | undefined;
    const why = said?.error?.message;
    return typeof why === 'string'
      ? refused(why, said?.error?.code)
      : refused('The server does not answer; give the file again in a moment.', 'away');
  });
