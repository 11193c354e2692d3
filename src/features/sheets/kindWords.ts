import type { LineKind, LineRole } from '@/core/sheetJob';

export const KIND_WORDS: Readonly<Record<LineKind, string>> = {
  'cut-through': 'cut through',
  'kiss-cut': 'kiss cut',
  score: 'score',
  perforate: 'perforate',
  pen: 'pen',
};

export const ROLE_WORDS: Readonly<Record<LineRole, string>> = {
  outline: 'outline',
  holes: 'holes',
  second: 'second line',
};
