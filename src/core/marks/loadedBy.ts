import type { Loaded } from '../geometry';

import type { MarkKit } from './types';

/** How media goes into the cutter: printed side up, the edge with the leading mark first; the near edge without marks. */
export const loadedBy = (marks: Pick<MarkKit, 'leading'> | null): Loaded => ({
  leadingEdge: marks?.leading.startsWith('far') ? 'far' : 'near',
  printedSideUp: true,
});
