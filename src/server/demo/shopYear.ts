import type { Terms } from '@/core/fit';
import { normalDeviate } from '@/core/random/random';
import type { Queryable } from '@/db/client';

import { Shop } from './demoShop';
import { DESK, HONEY, ROLL, type DemoRig } from './demoRigs';

/*
 * A year of the same print room with all that it cuts: three rigs, twelve media, a change-over and a check on each rig every
 * week, a calibration when a check asks for one, forty jobs of which two are open. For pictures and measurements of a full
 * shop.
 */

const RIGS: readonly (readonly [DemoRig, readonly string[]])[] = [
  [DESK, ['card 300 g', 'gloss photo card', 'waxed paper']],
  [HONEY, ['matt label sheet', 'gold foil label']],
  [ROLL, ['clear film, reversed', 'matt white vinyl', 'silver foil', 'reflective film']],
];

const STAFF = ['KT', 'AF', 'RS', 'IM'];
const EVENTS = [
  [0, 0.55, 'moved', 'carried up to the chart room'],
  [2, 0.4, 'firmware', 'cutter’s new firmware from the maker’s page'],
  [1, 0.2, 'new-blade', 'blade 30° for foil'],
] as const;

/** What is cut on rolls: every other week a run, of this size. */
const ON_ROLLS = [
  { name: 'luggage tags', itemWidthMm: 185, itemHeightMm: 110, toleranceMm: 0.5, rowsPerSection: 4 },
  { name: 'hull numbers', itemWidthMm: 240, itemHeightMm: 180, toleranceMm: 0.8, rowsPerSection: 2 },
  { name: 'deck arrows', itemWidthMm: 300, itemHeightMm: 150, toleranceMm: 0.6, rowsPerSection: 3 },
] as const;
/** What is cut on sheets: every third week a job. */
const ON_SHEETS = ['honey-jar labels', 'crate labels', 'galley labels'] as const;

/** How far a rig moves from week to week, mm, and a medium lies from the next on it. */
const WEEK_SD_MM = 0.02;
const MEDIUM_SD_MM = 0.25;

export async function loadShopYear(db: Queryable, today = new Date(), weeks = 50): Promise<void> {
  const shop = new Shop(db, today);
  const deviate = (sd: number): number => sd * normalDeviate(shop.random);
  const who = (): string => STAFF[Math.floor(shop.random() * STAFF.length)]!;
  const first = 7 * (weeks + 2);
  const rigs: string[][] = [];
  for (const [r, [demo, more]] of RIGS.entries()) {
    const own = [await shop.add(demo, first + 20)];
    await shop.calibrate(own[0]!, first + 19, 'IM', 'settings');
    for (const [i, media] of more.entries()) {
      const seed = 100 * (r + 1) + i;
      const truth: Partial<Terms> = {
        shiftXMm: deviate(MEDIUM_SD_MM),
        shiftYMm: deviate(MEDIUM_SD_MM),
        scaleAlong: 1 + deviate(0.0004),
      };
      const { toleranceMm } = demo.input;
      const id = await shop.another(own[0]!, first + 15 - 3 * i, who(), { seed, media, toleranceMm, truth });
      await shop.calibrate(id, first + 14 - 3 * i, who(), 'settings');
      own.push(id);
    }
    rigs.push(own);
  }
  const jobOf = async (rig: number, week: number, setupId: string): Promise<void> => {
    const daysAgo = 7 * week - 1;
    if (rig === 2 && week % 2 === 1) {
      const what = ON_ROLLS[Math.floor(week / 2) % ON_ROLLS.length]!;
      const close = { note: '', spoiled: (section: number) => (section === 2 && week % 5 === 0 ? 3 : 0) };
      const all = { ...what, daysAgo, who: who(), copies: 36 + 12 * (week % 3), spoilsAccepted: true };
      // The newest of them is half cut.
      await shop.run(setupId, week === 1 ? { ...all, upTo: 1 } : { ...all, close });
    }
    if (rig === 1 && week % 3 === 1)
      await shop.labels(
        setupId,
        daysAgo,
        who(),
        12 + (week % 13),
        week > 1,
        ON_SHEETS[Math.floor(week / 3) % ON_SHEETS.length],
      );
  };
  for (let week = weeks; week > 0; week -= 1)
    for (const [r, own] of rigs.entries()) {
      const event = EVENTS.find(([rig, share]) => rig === r && Math.round(share * weeks) === week);
      if (event) await shop.event(own[0]!, 7 * week + 5, who(), event[2], event[3]);
      const setupId = own[(week + r) % own.length]!;
      await shop.changeOver(setupId, 7 * week + 3, who());
      const moved = { shiftXMm: deviate(WEEK_SD_MM), shiftYMm: deviate(WEEK_SD_MM) + (event ? 0.4 : 0) };
      const said = await shop.check(setupId, 7 * week + 2, who(), moved);
      // The last weeks are left as they were found: something needs doing.
      if (said !== 'plumb' && week > 2) await shop.calibrate(setupId, 7 * week, who(), 'settings');
      await jobOf(r, week, setupId);
    }
  await shop.another(rigs[1]![0]!, 1, 'KT', {
    ...{ seed: 999, media: 'kraft label', toleranceMm: 0.5, truth: { shiftXMm: 0.3 } },
  });
}
