'use server';

import { actingForAll } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import { setZone, zoneInputSchema } from '@/server/shop/zone';

/** In which zone the shop keeps its days. */
export async function saveZone(
  given: { readonly zone: string | null },
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return actingForAll(
    'time zone',
    zoneInputSchema,
    given,
    (deps, actor, input, { request }) => setZone(deps, actor, input, request),
    stamp,
  );
}
