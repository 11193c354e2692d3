import { expose } from 'comlink';

import { correctFile, fileRefusalText, type CutFormat } from '@/core/formats/file';
import type { PlaneMap } from '@/core/geometry';

/** A thin shell: the core corrects, off the page's own thread; the page ends the worker to cancel. */
const api = {
  correct(
    text: string,
    transform: PlaneMap,
    to: CutFormat | null,
    onProgress: (share: number) => Promise<void> | void,
  ) {
    const outcome = correctFile(text, transform, to, (share) => void onProgress(share));
    return outcome.ok ? outcome : { ok: false as const, message: fileRefusalText(outcome.refusal) };
  },
};

export type FileWorker = typeof api;

expose(api);
