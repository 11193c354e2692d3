import { eq, sql } from 'drizzle-orm';
import { z } from 'zod';

import {
  contradictions,
  DIRECTIONS_OF_KIND,
  EFFECT_DIRECTIONS,
  pushed,
  trueDirection,
  type DoneInstead,
  type EffectDirection,
} from '@/core/correction';
import { addFields, fieldToTransform, transformToField, zeroField, type ModelFit } from '@/core/fit';
import { compose } from '@/core/geometry';
import { accept, refuse } from '@/core/outcome';
import { machineSettings, rigs } from '@/db/schema';
import type { Actor, Deps, Done } from '@/server/base/deps';
import { lockRig } from '@/server/rigs/writeRig';
import { loadScatterOf } from '@/server/setups/setupRecord';
import type { SetupSetting } from '@/server/setups/setup';
import { idSchema } from '@/server/base/shapes';

import { concludeReading } from './finishReading';
import { getSession } from './loadSession';
import { currentPass, type Pass, previousPass, settingsAtCut, unknownOf, type Session } from './session';
import { assess } from './assess';
import { sessionStep } from './step';

/** A setting of which the proof says that it did something else than it is declared to do. */
export interface FoundOut {
  readonly settingId: string;
  /** Told: nobody knew which way it goes, and now it is known. */
  readonly did: DoneInstead | 'told';
  readonly times: number;
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
  const unknown = new Set(unknownOf(now).map((s) => s.id));
  const asked = <D extends DoneInstead | 'told'>(settingId: string, did: D, times: number) => {
    const at = now.findIndex((s) => s.id === settingId);
    const setting = now[at]!;
    return { settingId, did, times, setting, from: was[at]!.value, to: setting.value };
  };
  if (unknown.size > 0)
    return pushed(now, unknown, change, apart * shiftMm).map(({ settingId, did, times }): FoundOut => {
      const { setting } = asked(settingId, 'told', 1);
      const direction = did === null ? setting.direction : trueDirection(setting.direction, did);
      return { ...asked(settingId, direction ? 'told' : (did ?? 'unclear'), times), direction };
    });
  return contradictions(now, change, apart * shiftMm).map(({ settingId, did, times }): FoundOut => {
    const found = asked(settingId, did, times);
    return { ...found, direction: trueDirection(found.setting.direction, did) };
  });
}

/** Linear terms that two picks do not see: both sets of a load have the same, so that their difference is none. */
const UNSEEN = 1e-2;

/** Of a short sheet: its shift. What is only shifted by what was typed, is told by that. */
function atOnePlace({ field: { origin, exMm, eyMm }, covarianceKnownU }: ModelFit, pass: Pass) {
  if (pass.fileTransform) return null;
  const covariance = covarianceKnownU.map((row, i) =>
    row.map((v, j) => (i === j && i < 4 ? UNSEEN ** 2 : v)),
  );
  return { field: { ...zeroField(origin), exMm, eyMm }, covariance };
}

/** A set as the machine cut it, with what its file undid taken out; null where it does not tell all six terms. */
function machineOf(session: Session, pass: Pass) {
  const a = assess(session, pass);
  if (a?.middle) return atOnePlace(a.fit, pass);
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

/** Somebody knows which way more of a setting moves the cut, or no longer does: what to type is worked out anew. */
export const sayDirection = sessionStep(
  z.object({
    sessionId: idSchema,
    settingId: idSchema,
    direction: z.enum(EFFECT_DIRECTIONS, 'Choose one of the ways on offer, or that nobody knows.').nullable(),
  }),
  { act: 'say direction', allowed: ['correct'] },
  async (inner, session, { settingId, direction }, actor): Done => {
    await lockRig(inner, session.setup.rigId);
    const setting = session.setup.settings.find((s) => s.id === settingId);
    if (!setting) return refuse({ code: 'not-found', what: 'setting' });
    if (direction !== null && !DIRECTIONS_OF_KIND[setting.kind].includes(direction))
      return refuse({
        code: 'refused',
        message: `${setting.name} cannot do that: choose ${DIRECTIONS_OF_KIND[setting.kind].join(', ')}.`,
      });
    return declare(inner, session, actor, [{ settingId, direction }]);
  },
);

/** Declares which way settings go, on a rig that is locked, and works the session out anew. */
async function declare(
  inner: Deps,
  session: Session,
  actor: Actor,
  ways: readonly { readonly settingId: string; readonly direction: EffectDirection | null }[],
): Done {
  for (const { settingId, direction } of ways)
    await inner.db
      .update(machineSettings)
      .set({ ...(direction === null ? {} : { direction }), directionKnown: direction !== null })
      .where(eq(machineSettings.id, settingId));
  // A page that edits the rig and was opened before is out of date.
  await inner.db
    .update(rigs)
    .set({ version: sql`${rigs.version} + 1` })
    .where(eq(rigs.id, session.setup.rigId));
  const again = await concludeReading(inner, actor, (await getSession(inner, session.id))!);
  return again.ok ? accept(null) : again;
}

/** “It is so”: the settings that were found out are declared as they were seen, and what to type is worked out anew. */
export const takeDirections = sessionStep(
  idSchema,
  { act: 'take directions', allowed: ['prove'] },
  async (inner, session, _, actor): Done => {
    await lockRig(inner, session.setup.rigId);
    const found = foundOut(session).filter((f) => f.direction !== null);
    if (found.length === 0)
      return refuse({
        code: 'stale',
        message: 'The readings no longer say so. Look at the page again.',
      });
    return declare(inner, session, actor, found);
  },
);
