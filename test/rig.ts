import type { Rig } from '@/server/rigs';
import { recipeSchema, rollKitSchema } from '@/server/schemas';

/** A rig with nothing special about it, for view models. */
export const plainRig = (more: Partial<Rig> = {}): Rig => ({
  id: 'rig',
  name: 'Roll rig',
  printer: 'printer',
  cutter: 'cutter',
  media: 'gloss white vinyl',
  sheetWidthMm: 1370,
  sheetHeightMm: 1000,
  workArea: { x0: 30, y0: 60, x1: 1340, y1: 940 },
  toleranceMm: 0.5,
  changeable: 'settings-and-file',
  mediaClass: 'film',
  marks: null,
  recipe: recipeSchema.parse({}),
  roll: rollKitSchema.parse({}),
  feedPercent: null,
  feedSetAt: null,
  settings: [],
  simulated: false,
  archived: false,
  version: 1,
  ...more,
});
