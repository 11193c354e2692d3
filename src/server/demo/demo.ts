import type { Queryable } from '@/db/client';

import { CLEAR, DESK, HONEY, ROLL } from './demoRigs';
import { RUNS } from './demoRuns';
import { Shop } from './demoShop';

/*
 * The print room of “Skerrow Line”, an invented small island ferry company: initials only, months of log,
 * one machine move, one firmware change and one slow creep that someone should have seen.
 */

export async function loadDemo(db: Queryable, today = new Date()): Promise<void> {
  const shop = new Shop(db, today);
  const desk = await shop.add(DESK);
  const honey = await shop.add(HONEY);
  const roll = await shop.add(ROLL);
  await shop.calibrate(desk, 152, 'IM', 'both');
  await shop.calibrate(honey, 149, 'IM', 'settings');
  await shop.calibrate(roll, 145, 'RS', 'both');
  // The slow creep: each check a little further off, until the chart should have spoken.
  for (const [i, daysAgo] of [131, 117, 103, 88, 74, 60, 47].entries()) {
    await shop.drift(roll, { shiftYMm: 0.05 * (i + 1) });
    await shop.check(roll, daysAgo, i % 2 ? 'RS' : 'AF');
  }
  await shop.event(roll, 40, 'RS', 'firmware', 'cutter’s new firmware from the maker’s page');
  await shop.drift(roll, { shiftYMm: 0.55, shiftXMm: -0.1 });
  await shop.calibrate(roll, 39, 'RS', 'settings');
  // Windows are lettered on clear film: the same machines, other figures.
  await shop.changeOver(roll, 37, 'RS');
  const clear = await shop.another(roll, 36, 'RS', CLEAR);
  await shop.calibrate(clear, 35, 'RS', 'settings');
  await shop.changeOver(roll, 34, 'AF');
  for (const daysAgo of [110, 61, 24]) await shop.check(honey, daysAgo, 'KT');
  await shop.tried(roll, 38, 'RS', 'less-light', false);
  await shop.tried(roll, 38, 'RS', 'matte', true);
  await shop.tried(roll, 17, 'IM', 'matte', true);
  await shop.event(desk, 20, 'KT', 'moved', 'carried up to the chart room');
  await shop.drift(desk, { shiftXMm: 0.45, shiftYMm: 0.38, turnRad: 0.0009 });
  await shop.calibrate(desk, 19, 'KT', 'both');
  await shop.check(desk, 6, 'IM');
  await shop.check(roll, 27, 'RS', { shiftYMm: 0.13 });
  await shop.check(roll, 14, 'AF', { shiftYMm: 0.1 });
  await shop.check(roll, 5, 'AF', { shiftYMm: 0.12, shiftXMm: 0.06 });
  await shop.event(honey, 1, 'KT', 'media-change', 'next batch of gloss labels');
  await shop.drift(honey, { shiftXMm: -0.42, shiftYMm: 0.36 });
  await shop.printLength(roll, 98, 'RS');
  await shop.strip(roll, 97, 'RS');
  for (const run of RUNS) await shop.run(roll, run);
  // Something to go on with: a sheet that was printed, cut and half read this morning.
  await shop.drift(desk, { shiftXMm: 0.31, shiftYMm: 0.14 });
  await shop.halfRead(desk, 0, 'KT', 4);
  // Labels of the apiary: a batch that is on its jars, and one that waits to be printed.
  await shop.labels(honey, 23, 'KT', 24, true);
  await shop.labels(honey, 2, 'KT', 18, false);
}
