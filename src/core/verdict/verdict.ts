/** How a rig stands against its tolerance. */
export const PLUMB_STATES = ['plumb', 'leaning', 'out-of-plumb'] as const;
export type PlumbState = (typeof PLUMB_STATES)[number];

/** Plumb up to this share of the tolerance, leaning up to all of it. */
export const LEANING_FROM = 0.75;

/** 95 of 100 cuts within the tolerance is the promise; close to it is “leaning”, beyond it “out of plumb”. */
export function plumbState(r95Mm: number, toleranceMm: number): PlumbState {
  const ratio = r95Mm / toleranceMm;
  if (ratio > 1) return 'out-of-plumb';
  return ratio > LEANING_FROM ? 'leaning' : 'plumb';
}

export const STATE_WORDS: Readonly<Record<PlumbState, string>> = {
  plumb: 'Plumb',
  leaning: 'Leaning',
  'out-of-plumb': 'Out of plumb',
};
