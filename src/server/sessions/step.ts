import { sql } from 'drizzle-orm';

import type { Stage } from '@/core/setup';
import { sessions } from '@/db/schema';
import { OUT_OF_DATE, stepsOf } from '@/server/base/lockedStep';

import { getSession } from './loadSession';
import { CLOSED, NOT_FOUND, type Session } from './session';

interface How {
  readonly act: string;
  /** The stages in which this may be done. */
  readonly allowed: readonly Stage[];
}

/** The steps of a session; everybody’s page of it looks again after one. */
export const { step: sessionStep } = stepsOf<Session, How>({
  what: 'session',
  key: 'sessionId',
  table: sessions,
  load: getSession,
  missing: NOT_FOUND,
  refused: ({ stage, version }, how) => {
    if (stage === 'closed' && !how.allowed.includes('closed')) return CLOSED;
    if (how.version !== undefined && how.version !== version) return OUT_OF_DATE;
    return how.allowed.includes(stage) ? null : OUT_OF_DATE;
  },
  counts: () => ({ changes: sql`${sessions.changes} + 1` }),
});
