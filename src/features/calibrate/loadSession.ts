import { type Stage } from '@/core/setup';
import 'server-only';

import { notFound, redirect } from 'next/navigation';

import { requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { getSession } from '@/server/sessions/loadSession';
import type { Session } from '@/server/sessions/session';

const ORDER: readonly Stage[] = ['print', 'read', 'correct', 'prove'];

/** The session of a page's address; a step that is not reached yet leads to the present one. */
export async function sessionAt(id: string, wanted: Stage): Promise<Session> {
  const parsed = idSchema.safeParse(id);
  if (!parsed.success) notFound();
  const session = await getSession(requestDeps(), parsed.data);
  if (!session) notFound();
  if (session.stage === 'closed') redirect(`/logbook/${session.id}`);
  const firstRound = session.passes.length === 1;
  const ahead = ORDER.indexOf(wanted) > ORDER.indexOf(session.stage);
  const otherStep = wanted !== session.stage && (ahead || !firstRound);
  if (otherStep && wanted !== 'print') redirect(`/calibrate/${session.id}/${session.stage}`);
  return session;
}
