import { CLOSED_WORDS, isClosed } from '@/db/closed';
import type { Deps } from '@/server/base/deps';
import { diskFullWords } from '@/server/base/disk';

/** Why nothing can be saved just now, in words; null when it can. */
export const whyClosed = async (deps: Deps): Promise<string | null> =>
  diskFullWords() ?? ((await isClosed(deps.db).catch(() => false)) ? CLOSED_WORDS : null);
