'use server';

import { action, everyPage } from '@/features/forms/action';
import { setZone } from '@/server/shop/zone';

/** In which zone the shop keeps its days. */
export const saveZone = action(setZone, everyPage);
