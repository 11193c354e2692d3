import { normalDeviate, type Random } from '@/core/random/random';

import { ROLL_DRIFT } from './demoRigs';

export interface DemoRun {
  readonly daysAgo: number;
  readonly who: string;
  readonly name: string;
  readonly copies: number;
  readonly itemWidthMm: number;
  readonly itemHeightMm: number;
  readonly toleranceMm: number;
  readonly rowsPerSection: number;
  /** Sections to cut; the others wait. */
  readonly upTo?: number;
  /** Run although more may be spoiled than is allowed. */
  readonly spoilsAccepted?: boolean;
  readonly slip?: { readonly before: number; readonly alongMm: number };
  readonly close?: { readonly note: string; readonly spoiled: (section: number) => number };
}

const DECALS: DemoRun = {
  daysAgo: 96,
  who: 'RS',
  name: 'hull numbers',
  copies: 90,
  itemWidthMm: 240,
  itemHeightMm: 180,
  toleranceMm: 0.8,
  rowsPerSection: 2,
  close: { note: '', spoiled: () => 0 },
};

const TAGS = { name: 'luggage tags', itemWidthMm: 185, itemHeightMm: 110, toleranceMm: 0.5 };

export const RUNS: readonly DemoRun[] = [
  DECALS,
  {
    ...DECALS,
    ...TAGS,
    daysAgo: 71,
    who: 'AF',
    copies: 250,
    rowsPerSection: 4,
    slip: { before: 7, alongMm: 0.62 },
    close: { note: 'take-up reel caught between 6 and 7', spoiled: (s) => (s === 7 ? 9 : 0) },
  },
  { ...DECALS, daysAgo: 33, who: 'RS', name: 'deck arrows', copies: 120, rowsPerSection: 3 },
  { ...DECALS, ...TAGS, daysAgo: 12, who: 'AF', copies: 230, rowsPerSection: 4 },
  { ...DECALS, ...TAGS, daysAgo: 0, who: 'RS', copies: 140, rowsPerSection: 4, upTo: 2, close: undefined },
];

/** The drift of one run: registered at each section, creeping and wandering from there. */
export function rollOf(demo: DemoRun, random: Random) {
  const deviate = (sd: number): number => sd * normalDeviate(random);
  const creep = {
    x: ROLL_DRIFT.creepMmPerM.x + deviate(ROLL_DRIFT.creepSdMmPerM.x),
    y: ROLL_DRIFT.creepMmPerM.y + deviate(ROLL_DRIFT.creepSdMmPerM.y),
  };
  const home = { x: 0.08 + deviate(0.05), y: 0.1 + deviate(0.06) };
  let level = { x: 0, y: 0 };
  let atM = 0;
  return {
    register: (section: number): void => {
      if (section === demo.slip?.before) home.y += demo.slip.alongMm;
      level = { x: home.x + deviate(0.025), y: home.y + deviate(0.025) };
      atM = 0;
    },
    at: (tM: number): { x: number; y: number } => {
      const sd = Math.sqrt(ROLL_DRIFT.wanderMm2PerM * (tM - atM));
      level = {
        x: level.x + creep.x * (tM - atM) + deviate(sd),
        y: level.y + creep.y * (tM - atM) + deviate(sd),
      };
      atM = tM;
      return level;
    },
  };
}
