import { max } from 'drizzle-orm';

import { acts } from '@/db/schema';
import type { Deps } from '@/server/base/deps';

/** A number that moves when anything is kept in the shop; pages that show several things ask for it and look again. */
export async function shopStamp(deps: Deps): Promise<number> {
  const [row] = await deps.db.select({ at: max(acts.at) }).from(acts);
  return row?.at?.getTime() ?? 0;
}
