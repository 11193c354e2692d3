import { eq, sql } from 'drizzle-orm';

import { contradictions, trueDirection, type Contradiction, type EffectDirection } from '@/core/correction';
import { addFields, fieldToTransform, transformToField } from '@/core/fit';
import { compose } from '@/core/geometry';
import { accept, refuse } from '@/core/outcome';
import { machineSettings, rigs } from '@/db/schema';
import type { Actor, Deps, Done } from '@/server/base/deps';
import { onSession, type Stamp } from '@/server/base/step';
import { lockRig } from '@/server/rigs/writeRig';
import { loadScatterOf } from '@/server/setups/setupRecord';
import type { SetupSetting } from '@/server/setups/setup';

import { concludeReading } from './finishReading';
import { getSession } from './loadSession';
import { assess, currentPass, type Pass, previousPass, settingsAtCut, type Session } from './session';

/** A setting of which the proof says that it did something else than it is declared to do. */
export interface FoundOut extends Contradiction {
  readonly setting: SetupSetting;
  readonly from: number;
  readonly to: number;
  /** What to declare instead; null where the direction is not what is wrong. */
  readonly direction: EffectDirection | null;
}

/** What the set that was read after typing says of the settings; empty where it agrees with them, or tells nothing. */
export function foundOut(session: Session): FoundOut[] {
  const pass = currentPass(session);
  const previous = previousPass(session);
  if (session.stage !== 'prove' || !previous?.correction?.done) return [];
  const [before, after] = [machineOf(session, previous), machineOf(session, pass)];
  if (!before || !after) return [];
  const was = settingsAtCut(session, previous);
  const now = settingsAtCut(session, pass);
  const by = Object.fromEntries(now.map((s, i) => [s.id, s.value - was[i]!.value]));
  const { shiftMm } = loadScatterOf(session.setup, pass.sheet.geometry.spec.marks, session.record.loads);
  const apart = previous.load === pass.load ? 1 : Math.SQRT2;
  const change = {
    by,
    moved: addFields(after.field, before.field, -1),
    covariance: after.covariance.map((row, i) => row.map((v, j) => v + before.covariance[i]![j]!)),
  };
  return contradictions(now, change, apart * shiftMm).map((c) => {
    const at = now.findIndex((s) => s.id === c.settingId);
    const setting = now[at]!;
    return {
      ...c,
      setting,
      from: was[at]!.value,
      to: setting.value,
      direction: trueDirection(setting.direction, c.did),
    };
  });
}

/** A set as the machine cut it, with what its file undid taken out; null where it does not tell all six terms. */
function machineOf(session: Session, pass: Pass) {
  const a = assess(session, pass);
  if (a?.scope !== 'whole-area' || (a.fit.model !== 'affine' && a.fit.model !== 'projective')) return null;
  const { fit } = a;
  const field = fieldToTransform(fit.field);
  return {
    field: transformToField(
      pass.fileTransform ? compose(field, pass.fileTransform) : field,
      fit.field.origin,
    ),
    covariance: fit.covarianceKnownU.map((row) => row.map((v) => v * fit.noise.factor ** 2)),
  };
}

/** “It is so”: the settings that were found out are declared as they were seen, and what to type is worked out anew. */
export function takeDirections(deps: Deps, actor: Actor, sessionId: string, stamp: Stamp = {}): Done {
  const step = { ...stamp, act: 'take directions', allowed: ['prove'] as const };
  return onSession(deps, actor, sessionId, step, async (inner, session) => {
    await lockRig(inner, session.setup.rigId);
    const found = foundOut(session).filter((f) => f.direction !== null);
    if (found.length === 0)
      return refuse({
        code: 'stale',
        message: 'The readings no longer say so. Look at the page again.',
      });
    for (const { settingId, direction } of found)
      await inner.db
        .update(machineSettings)
        .set({ direction: direction! })
        .where(eq(machineSettings.id, settingId));
    // A page that edits the rig and was opened before is out of date.
    await inner.db
      .update(rigs)
      .set({ version: sql`${rigs.version} + 1` })
      .where(eq(rigs.id, session.setup.rigId));
    const again = await concludeReading(inner, actor, (await getSession(inner, sessionId))!);
    return again.ok ? accept(null) : again;
  });
}
