import { desc, eq } from 'drizzle-orm';
import { z } from 'zod';

import { accept, type Outcome, refuse } from '@/core/outcome';
import { events, rigs, rigSettings, settingChanges } from '@/db/schema';
import { keep } from '@/server/base/act';
import { type Actor, type Deps, fieldMessages, type UseCaseRefusal } from '@/server/base/deps';
import { eventInputSchema } from './shapes';

import { getRig } from './repository';

export interface SettingChangeEntry {
  readonly setting: string;
  readonly unit: string;
  /** Its smallest step: so many places its figures have. */
  readonly step: number;
  readonly from: number | null;
  readonly to: number;
  readonly reason: string;
  readonly by: string;
  readonly at: Date;
}

/** So much of a rig’s history its page shows; the export has all. */
const HISTORY_BACK = 100;

/** The newest changes of its settings, newest first. */
export async function settingHistory(deps: Deps, rigId: string): Promise<SettingChangeEntry[]> {
  return deps.db
    .select({
      setting: rigSettings.name,
      unit: rigSettings.unit,
      step: rigSettings.step,
      from: settingChanges.fromValue,
      to: settingChanges.toValue,
      reason: settingChanges.reason,
      by: settingChanges.changedBy,
      at: settingChanges.changedAt,
    })
    .from(settingChanges)
    .innerJoin(rigSettings, eq(rigSettings.id, settingChanges.settingId))
    .where(eq(rigSettings.rigId, rigId))
    .orderBy(desc(settingChanges.changedAt))
    .limit(HISTORY_BACK);
}

export async function recordEvent(
  deps: Deps,
  actor: Actor,
  input: unknown,
  request?: string,
): Promise<Outcome<null, UseCaseRefusal>> {
  const parsed = eventInputSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { rigId } = parsed.data;
  return keep(deps, actor, { act: 'event', subjectId: rigId, request }, async (inner) => {
    if (!(await getRig(inner, rigId))) return refuse({ code: 'not-found', what: 'rig' });
    await noteEvent(inner, actor, parsed.data);
    return accept(null);
  });
}

export const firstEdgeSchema = z.object({ rigId: z.uuid(), bobFirst: z.boolean() });

/** Which edge of a sheet leaves the printer first, as somebody saw it: kept with the rig, and in its log. */
export async function sayFirstEdge(
  deps: Deps,
  actor: Actor,
  input: unknown,
  request?: string,
): Promise<Outcome<null, UseCaseRefusal>> {
  const parsed = firstEdgeSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { rigId, bobFirst } = parsed.data;
  return keep(deps, actor, { act: 'first edge', subjectId: rigId, request }, async (inner) => {
    const [row] = await inner.db
      .update(rigs)
      .set({ bobFirst })
      .where(eq(rigs.id, rigId))
      .returning({ id: rigs.id });
    return row ? accept(null) : refuse({ code: 'not-found', what: 'rig' });
  });
}

/** Writes an event into the log, for a step that keeps something else too. */
export const noteEvent = (deps: Deps, actor: Actor, event: z.output<typeof eventInputSchema>) =>
  deps.db.insert(events).values({ ...event, recordedBy: actor, happenedAt: deps.now() });
