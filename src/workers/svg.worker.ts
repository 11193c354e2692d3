import { expose } from 'comlink';

import { correctSvg, svgRefusalText } from '@/core/formats/svg';
import type { Affine } from '@/core/geometry';

/** A thin shell: the core corrects, off the page's own thread. */
const api = {
  correct(text: string, transform: Affine) {
    const outcome = correctSvg(text, transform);
    return outcome.ok ? outcome : { ok: false as const, message: svgRefusalText(outcome.refusal) };
  },
};

export type SvgWorker = typeof api;

expose(api);
