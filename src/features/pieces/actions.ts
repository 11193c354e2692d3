'use server';

import { redirect } from 'next/navigation';
import { z } from 'zod';

import type { OffsetAxis } from '@/core/units';
import { acting, actingForAll } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import { preferences } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { changeOver, type changeOverSchema } from '@/server/rigs/changeOver';
import { firstEdgeSchema, sayFirstEdge } from '@/server/setups/history';
import { keepOwnPage, takeBackOwnPage } from '@/server/setups/ownPage';
import { startSession } from '@/server/sessions/startSession';

/** “The machine shows them all.” */
export async function changedOver(
  input: z.input<typeof changeOverSchema>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return actingForAll(
    'change over',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => changeOver(deps, actor, given, request),
    stamp,
  );
}

/** Which edge of a sheet came out of the printer first. */
export async function firstEdgeIs(
  input: z.input<typeof firstEdgeSchema>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return actingForAll(
    'first edge',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => sayFirstEdge(deps, actor, given, request),
    stamp,
  );
}

const Start = z.object({ setupId: idSchema, kind: z.enum(['calibration', 'quick-check']) });

/** Starts (or goes on with) a calibration or a quick check, and goes there. */
export async function startOnSetup(
  given: z.input<typeof Start>,
  stamp: BrowserStamp,
): Promise<ActionResult<never>> {
  const started = await acting(
    'start session',
    Start,
    given,
    async (deps, actor, { setupId, kind }, { request }) =>
      startSession(deps, actor, setupId, kind, (await preferences()).unit, request),
    stamp,
  );
  if (!started.ok) return started;
  redirect(`/calibrate/${started.value.sessionId}`);
}

/** Keeps a run of the machine's own calibration. */
export async function ownPageWasRun(
  input: unknown,
  stamp: BrowserStamp,
): Promise<ActionResult<{ readonly atEnd: readonly OffsetAxis[] }>> {
  return actingForAll(
    'own page',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => keepOwnPage(deps, actor, given, request),
    stamp,
  );
}

export async function ownPageTakenBack(id: string, stamp: BrowserStamp): Promise<ActionResult> {
  return actingForAll(
    'take own page back',
    idSchema,
    id,
    (deps, actor, given, { request }) => takeBackOwnPage(deps, actor, given, request),
    stamp,
  );
}
