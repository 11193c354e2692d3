import { and, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';

import { passReading } from '@/core/readings';
import { accept, refuse } from '@/core/outcome';
import { CORRECTION_WAYS } from '@/core/setup';
import { SAME } from '@/core/tolerance';
import { OFFSET_AXES } from '@/core/units';
import { readings } from '@/db/schema';
import type { Actor, Deps, Done, UseCaseRefusal } from '@/server/base/deps';
import { idSchema } from '@/server/base/shapes';

import { carryOut } from './applyCorrection';
import { closeNow, leaveIt } from './closeSession';
import { concludeReading } from './finishReading';
import { getSession } from './loadSession';
import { setStage } from './printSheet';
import { currentPass, figuresFor, isShort, type Session } from './session';
import { shortPicksSchema, type ShortPicks } from './shapes';
import { defaultOptions, makeSheet } from './sheets';
import { addPass } from './startSession';
import { sessionStep } from './step';

/* A short sheet: both combs are picked on one screen, typed, and confirmed on the same sheet by two answers. */

const NOT_SHORT: UseCaseRefusal = {
  code: 'stale',
  message: 'This set is not read by two picks, or another has been cut since. Look at the page again.',
};

/** Keeps both picks of the newest set; what was picked before stays in the log as replaced. */
async function keepPicks(inner: Deps, session: Session, actor: Actor, picks: ShortPicks): Promise<Session> {
  const pass = currentPass(session);
  const station = pass.stations[0]!;
  const at = inner.now();
  await inner.db
    .update(readings)
    .set({ replacedAt: at })
    .where(
      and(
        ...[eq(readings.passId, pass.id), eq(readings.stationId, station.id), isNull(readings.replacedAt)],
        inArray(readings.axis, [...OFFSET_AXES]),
      ),
    );
  await inner.db.insert(readings).values(
    OFFSET_AXES.map((axis) => {
      const { pick, coarseMm } = picks[axis];
      const { xMm, yMm, offsetMm, uMm } = passReading(station, axis, pick).observation;
      const of = { passId: pass.id, stationId: station.id, axis, pick, coarseMm };
      return { ...of, ...{ xMm, yMm, offsetMm, uMm, enteredBy: actor, enteredAt: at } };
    }),
  );
  return (await getSession(inner, session.id))!;
}

const isNewest = (session: Session, passId: string): boolean =>
  currentPass(session).id === passId && isShort(currentPass(session));

/** “Typed both: cut set B”: the picks are kept, worked out, and what they say is carried out, all or nothing. */
export const typeShort = sessionStep(
  z.object({
    sessionId: idSchema,
    passId: idSchema,
    picks: shortPicksSchema,
    /** What carries it; or it is left alone, or only worked out to be looked at. */
    how: z.enum([...CORRECTION_WAYS, 'leave', 'see'], 'Choose what carries the correction.'),
    /** What the screen showed to type: what is carried out is that and nothing else. */
    shown: z.array(z.object({ settingId: idSchema, to: z.number() })).max(40),
  }),
  { act: 'type short', allowed: ['read', 'correct'] },
  async (inner, session, { passId, picks, how, shown }, actor): Done<{ needsNewSheet: boolean }> => {
    if (!isNewest(session, passId)) return refuse(NOT_SHORT);
    const read = await keepPicks(inner, session, actor, picks);
    const concluded = await concludeReading(inner, actor, read);
    if (!concluded.ok) return concluded;
    const worked = (await getSession(inner, session.id))!;
    if (how === 'leave') {
      const closed = await closeNow(inner, worked, actor, false);
      return closed.ok ? accept({ needsNewSheet: false }) : closed;
    }
    if (how === 'see') return accept({ needsNewSheet: false });
    const { correction } = currentPass(worked);
    const figures = figuresFor(worked, how, correction?.changes ?? []);
    const asShown = figures.every((f) =>
      shown.some((s) => s.settingId === f.settingId && Math.abs(s.to - f.to) < SAME),
    );
    if ((how === 'settings' || how === 'push') && !asShown)
      return refuse({
        code: 'stale',
        message: 'What is to be typed has changed since this page was opened. Look at the figures again.',
      });
    return carryOut(inner, worked, how, actor);
  },
);

/** The two answers, or what was picked where the answer was no: what the second set says. */
export const answerShort = sessionStep(
  z.object({ sessionId: idSchema, passId: idSchema, picks: shortPicksSchema }),
  { act: 'answer short', allowed: ['read', 'prove'] },
  async (inner, session, { passId, picks }, actor): Done => {
    if (!isNewest(session, passId)) return refuse(NOT_SHORT);
    const done = await concludeReading(inner, actor, await keepPicks(inner, session, actor, picks));
    return done.ok ? accept(null) : done;
  },
);

/** “Full sheet instead”: another sheet is read in the same session; what was picked stays. */
export const widenSheet = sessionStep(
  idSchema,
  { act: 'widen', allowed: ['read', 'correct', 'prove'] },
  async (inner, session, sessionId, actor): Done => {
    const pass = currentPass(session);
    if (!isShort(pass)) return refuse(NOT_SHORT);
    await leaveIt(inner, pass, actor);
    const how = { ringStep: null, readBy: 'comb', chosen: false } as const;
    const options = defaultOptions(session.setup, pass.sheet.geometry.spec.unit, how);
    const sheet = await makeSheet(inner, session.setup, options);
    if (!sheet.ok) return sheet;
    const { position, load, fileTransform } = pass;
    await addPass(
      ...([inner, sessionId, position + 1, session.setup, sheet.value, 1, 'measure', load + 1] as const),
      fileTransform,
    );
    await setStage(inner, sessionId, 'print');
    return accept(null);
  },
);
