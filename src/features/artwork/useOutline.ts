'use client';

import { wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';

import type { CutLine, CutLineRecipe } from '@/core/artwork';
import type { OutlineWorker } from '@/workers/outline.worker';
import type { CutFormat } from '@/core/drawing/formats';

import type { Opened } from './outline.view';

export type OutlineState =
  | { readonly kind: 'none' }
  | { readonly kind: 'opening'; readonly name: string }
  | { readonly kind: 'refused'; readonly message: string }
  | {
      readonly kind: 'open';
      readonly opened: Opened;
      /** The picture that is traced, sent and kept. */
      readonly file: File;
      readonly url: string;
    };

interface Running {
  readonly raw: Worker;
  readonly api: Remote<OutlineWorker>;
}

const start = (): Running => {
  const raw = new Worker(new URL('../../workers/outline.worker.ts', import.meta.url), { type: 'module' });
  return { raw, api: wrap<OutlineWorker>(raw) };
};

/** What the worker itself could not do: mostly a picture larger than the browser's memory. */
const FAILED = {
  ok: false,
  message: 'This picture is too much for this browser. Scale it down, then try again.',
} as const;

/** What this browser decodes by itself. */
const DECODED_HERE = ['image/png', 'image/jpeg', 'image/webp'];

/** Artwork as a picture: what the browser does not decode, a drawing mostly, the shop's own server draws. */
async function asPicture(
  chosen: File,
): Promise<{ readonly ok: true; readonly file: File } | { readonly ok: false; readonly message: string }> {
  if (DECODED_HERE.includes(chosen.type)) return { ok: true, file: chosen };
  const form = new FormData();
  form.set('image', chosen);
  const answer = await fetch('/api/picture', { method: 'POST', body: form }).catch(() => null);
  if (answer?.ok)
    return { ok: true, file: new File([await answer.blob()], chosen.name, { type: 'image/png' }) };
  const told = (await answer?.json().catch(() => null)) as { error?: { message: string } } | null;
  return { ok: false, message: told?.error?.message ?? 'No answer. Choose it again.' };
}

/** Decodes and traces in a worker; stopped and begun anew when another picture comes, or when somebody stops it. */
export function useOutline(recipe: CutLineRecipe | null) {
  const [state, setState] = useState<OutlineState>({ kind: 'none' });
  const [line, setLine] = useState<CutLine | null>(null);
  const [message, setMessage] = useState('');
  const [tracing, setTracing] = useState(false);
  const worker = useRef<Running | null>(null);
  const file = useRef<File | null>(null);
  const turn = useRef(0);

  const stop = useCallback((): void => {
    turn.current += 1;
    worker.current?.raw.terminate();
    worker.current = null;
    setTracing(false);
  }, []);
  useEffect(() => stop, [stop]);

  const open = useCallback(
    async (chosen: File): Promise<void> => {
      stop();
      const mine = turn.current;
      setLine(null);
      setMessage('');
      setState({ kind: 'opening', name: chosen.name });
      const picture = await asPicture(chosen);
      if (mine !== turn.current) return;
      if (!picture.ok) return setState({ kind: 'refused', message: picture.message });
      file.current = picture.file;
      worker.current = start();
      const opened = await worker.current.api.open(picture.file).catch(() => FAILED);
      if (mine !== turn.current) return;
      if (!opened.ok) return setState({ kind: 'refused', message: opened.message });
      const { width, height, dpi } = opened;
      setState({
        kind: 'open',
        opened: { name: chosen.name, width, height, dpi },
        file: picture.file,
        url: URL.createObjectURL(picture.file),
      });
    },
    [stop],
  );

  const opened = state.kind === 'open' ? state.opened : null;
  const url = state.kind === 'open' ? state.url : null;
  useEffect(() => (url === null ? undefined : () => URL.revokeObjectURL(url)), [url]);
  useEffect(() => {
    if (!opened || !recipe) return;
    const mine = (turn.current += 1);
    // What is typed in one go is traced once.
    const timer = setTimeout(() => {
      void (async () => {
        setTracing(true);
        if (!worker.current) {
          worker.current = start();
          await worker.current.api.open(file.current!);
        }
        const done = await worker.current.api.cutLine(recipe).catch(() => FAILED);
        if (mine !== turn.current) return;
        setTracing(false);
        setMessage(done.ok ? '' : done.message);
        setLine(done.ok ? done.line : null);
      })();
    }, 200);
    return () => clearTimeout(timer);
  }, [opened, recipe]);

  const save = useCallback(
    async (format: CutFormat): Promise<string | null> =>
      recipe && worker.current ? worker.current.api.file(recipe, format) : null,
    [recipe],
  );
  return { state, line, message, tracing, open, stop, save };
}
