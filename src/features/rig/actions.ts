'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';

import { acting, actingForAll } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import { idSchema } from '@/server/base/shapes';
import { saveCutter, saveMat, saveTool } from '@/server/rigs/equipment';
import { makeOneRig, type oneRigSchema } from '@/server/rigs/sameMachines';
import { addRig, changeRig } from '@/server/rigs/writeRig';
import { archiveSetup } from '@/server/setups/archiveSetup';
import { recordEvent } from '@/server/setups/history';
import { setPolicy, type policyInputSchema } from '@/server/watch/setPolicy';
import { addSetup } from '@/server/setups/writeSetup';

const Given = z.object({ version: z.int(), input: z.unknown() });
type Given = z.input<typeof Given>;
type Saved = ActionResult<{ readonly goTo: string | null }>;

const saved = <T>(result: ActionResult<T>, goTo: (value: T) => string | null): Saved => {
  if (!result.ok) return result;
  revalidatePath('/', 'layout');
  return { ok: true, value: { goTo: goTo(result.value) } };
};

/** Adds a rig with its first setup, and goes back to the bench. */
export async function saveNewRig(given: Given, stamp: BrowserStamp): Promise<Saved> {
  const done = await acting(
    'add rig',
    Given,
    given,
    (deps, actor, { input }, { request }) => addRig(deps, actor, input, request),
    stamp,
  );
  return saved(done, () => '/');
}

/** Saves changes to a rig and its machines; `version` is what the form was loaded with. */
export async function saveRig(rigId: string, given: Given, stamp: BrowserStamp): Promise<Saved> {
  const done = await acting(
    'save rig',
    Given,
    given,
    (deps, actor, { version, input }, { request }) =>
      changeRig(deps, actor, idSchema.parse(rigId), version, input, request),
    stamp,
  );
  return saved(done, () => null);
}

/** Another medium or size on a rig. */
export async function saveAnother(rigId: string, given: Given, stamp: BrowserStamp): Promise<Saved> {
  const done = await acting(
    'add setup',
    Given,
    given,
    (deps, actor, { input }, { request }) => addSetup(deps, actor, idSchema.parse(rigId), input, request),
    stamp,
  );
  return saved(done, ({ setupId }) => `/setups/${setupId}`);
}

const Back = z.object({ setupId: idSchema });

/** Puts a setup that was taken off the bench back on it. */
export async function putBack(given: z.input<typeof Back>, stamp: BrowserStamp): Promise<ActionResult> {
  return actingForAll(
    'put setup back',
    Back,
    given,
    (deps, actor, { setupId }, { request }) => archiveSetup(deps, actor, setupId, false, request),
    stamp,
  );
}

export async function noteEvent(input: unknown, stamp: BrowserStamp): Promise<ActionResult> {
  return actingForAll(
    'note event',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => recordEvent(deps, actor, given, request),
    stamp,
  );
}

/** When a rig asks to be checked. */
export async function savePolicy(
  input: z.input<typeof policyInputSchema>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return actingForAll(
    'check policy',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => setPolicy(deps, actor, given, request),
    stamp,
  );
}

/** Two rigs that are the same machines become one. */
export async function putTogether(
  input: z.input<typeof oneRigSchema>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return actingForAll(
    'make one rig',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => makeOneRig(deps, actor, given, request),
    stamp,
  );
}

const EQUIPMENT = { tool: saveTool, mat: saveMat, cutter: saveCutter } as const;
const Equipped = z.object({ what: z.enum(['tool', 'mat', 'cutter']), input: z.unknown() });

/** A tool, a mat, or what is done when the cutter is switched on. */
export async function keepEquipment(
  given: z.input<typeof Equipped>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return actingForAll(
    'equipment',
    Equipped,
    given,
    (deps, actor, { what, input }, { request }) => EQUIPMENT[what](deps, actor, input, request),
    stamp,
  );
}
