import { SAME } from '@/core/tolerance';
import { type CorrectionWay, CORRECTION_WAYS } from '@/core/setup';
import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { transformToField } from '@/core/fit';
import type { Affine } from '@/core/geometry';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { corrections, sessions, setups } from '@/db/schema';

import type { Actor, Deps, Done, UseCaseRefusal } from '@/server/base/deps';
import { leaveIt } from './closeSession';
import { typeValue } from '@/server/rigs/machineValues';
import { lockRig } from '@/server/rigs/writeRig';
import { getSetup, getSimulation } from '@/server/setups/repository';
import { type Setup } from '@/server/setups/setup';
import { idSchema } from '@/server/base/shapes';
import {
  currentPass,
  figuresFor,
  fileTransformOf,
  isShort,
  mayRegisterAgain,
  pushesAtHand,
  waysOf,
  type Pass,
  type Session,
  type StoredCorrection,
} from './session';
import { defaultOptions, makeSheet } from './sheets';
import { addPass } from './startSession';
import { sessionStep } from './step';

/** “I have typed them” (or: the file does it all): the settings change, and the proof is next. */
export const applyCorrection = sessionStep(
  z.object({
    sessionId: idSchema,
    how: z.enum(CORRECTION_WAYS, 'Choose what carries the correction: the settings, the file, or both.'),
  }),
  { act: 'correct', allowed: ['correct'] },
  (inner, session, { how }, actor) => carryOut(inner, session, how, actor),
);

/** The same for a step that holds the session. */
export async function carryOut(
  inner: Deps,
  session: Session,
  how: CorrectionWay,
  actor: Actor,
): Done<{ needsNewSheet: boolean }> {
  const pass = currentPass(session);
  const correction = pass.correction;
  if (!correction)
    return refuse({ code: 'refused', message: 'There is nothing to type yet: read the sheet first.' });
  // Nobody edits the rig or types into its machines while its figures are compared and typed.
  await lockRig(inner, session.setup.rigId);
  const setup = (await getSetup(inner, session.setup.id))!;
  const refused = cannotCorrect(session, setup, correction, how);
  if (refused) return refuse(refused);
  await inner.db
    .update(corrections)
    .set({ done: how, doneBy: actor, doneAt: inner.now() })
    .where(eq(corrections.id, correction.id));
  if (how === 'settings' || how === 'both') await typeSettings(inner, actor, setup, correction);
  if (how === 'push') {
    await typeSettings(inner, actor, setup, correction);
    await pushSettings(inner, actor, session, setup, correction);
  }
  if (how === 'machine-page') await simulateOwnPage(inner, session, correction);
  const after = (await getSetup(inner, setup.id))!;
  // What is pushed has to tell: its set is cut with the file that the set before was cut with.
  const file = how === 'push' ? pass.fileTransform : fileTransformOf(correction, how);
  return openProof(inner, session, pass, after, file);
}

/** “Register again without unloading”: the second set is cut on the same load with nothing changed. */
export const registerAgain = sessionStep(
  idSchema,
  { act: 'register again', allowed: ['correct'] },
  async (inner, session, _, actor): Done => {
    const pass = currentPass(session);
    if (!mayRegisterAgain(session))
      return refuse({
        code: 'refused',
        message: 'Only a rig with marks registers, and only while set B of the sheet is not cut yet.',
      });
    await leaveIt(inner, pass, actor);
    const opened = await openProof(inner, session, pass, session.setup, pass.fileTransform);
    return opened.ok ? accept(null) : opened;
  },
);

function cannotCorrect(
  session: Session,
  setup: Setup,
  correction: StoredCorrection,
  how: CorrectionWay,
): UseCaseRefusal | null {
  const { changes } = correction;
  if (!waysOf(setup, { settings: { changes }, restWorthwhile: true }).includes(how))
    return {
      code: 'refused',
      message: 'This rig cannot be corrected that way. See what can be changed on its page.',
    };
  const figures = figuresFor(session, how, changes);
  const moved = setup.settings.find((s) =>
    figures.some((c) => c.settingId === s.id && Math.abs(c.from - s.value) > SAME),
  );
  if ((how === 'settings' || how === 'both' || how === 'push') && moved)
    return {
      code: 'stale',
      message: `${moved.name} has been changed to ${moved.value} since this sheet was cut, so these figures no longer hold. Print and read a new sheet.`,
    };
  return null;
}

async function typeSettings(
  deps: Deps,
  actor: Actor,
  setup: Setup,
  correction: StoredCorrection,
): Promise<void> {
  const why = { reason: 'typed from a calibration', setup, correctionId: correction.id };
  for (const { settingId, from, to } of correction.changes) {
    const setting = setup.settings.find((s) => s.id === settingId);
    if (setting && from !== to) await typeValue(deps, actor, { setting, from, to }, why);
  }
}

/** Types the pushes: each setting of unknown direction by one easy amount. */
async function pushSettings(
  deps: Deps,
  actor: Actor,
  session: Session,
  setup: Setup,
  correction: StoredCorrection,
): Promise<void> {
  const why = { reason: 'pushed to see which way it goes', setup, correctionId: correction.id };
  for (const { settingId, from, to } of pushesAtHand(session)) {
    const setting = setup.settings.find((s) => s.id === settingId);
    if (setting) await typeValue(deps, actor, { setting, from, to }, why);
  }
}

/** How finely a stand-in's own calibration page is picked, mm. */
const OWN_PAGE_STEP_MM = 0.1;

/** A simulated rig's own calibration page takes out the shift, to its step. A real rig has done it by itself. */
async function simulateOwnPage(deps: Deps, session: Session, correction: StoredCorrection): Promise<void> {
  const simulation = await getSimulation(deps, session.setup.id);
  if (!simulation) return;
  const found = transformToField(correction.wholeTransform, simulation.centre);
  const picked = (mm: number): number => OWN_PAGE_STEP_MM * Math.round(mm / OWN_PAGE_STEP_MM);
  const truth = {
    ...simulation.truth,
    shiftXMm: simulation.truth.shiftXMm - picked(found.exMm),
    shiftYMm: simulation.truth.shiftYMm - picked(found.eyMm),
  };
  await deps.db
    .update(setups)
    .set({ simulation: { ...simulation, truth } })
    .where(eq(setups.id, session.setup.id));
}

/** The second set of the same sheet while it is loaded; else a new sheet. */
async function openProof(
  deps: Deps,
  session: Session,
  pass: Pass,
  setup: Setup,
  fileTransform: Affine | null,
): Promise<Outcome<{ needsNewSheet: boolean }, UseCaseRefusal>> {
  const position = pass.position + 1;
  const toStage = (stage: 'prove' | 'print') =>
    deps.db.update(sessions).set({ stage }).where(eq(sessions.id, session.id));
  const unused = pass.set === 1 && pass.sheet.geometry.spec.secondSet;
  if (unused) {
    await addPass(deps, session.id, position, setup, pass.sheet, 2, 'prove', pass.load, fileTransform);
    await toStage('prove');
    return accept({ needsNewSheet: false });
  }
  const { spec } = pass.sheet.geometry;
  const how = isShort(pass) ? ({ ringStep: null, readBy: 'short', chosen: true } as const) : undefined;
  const full = defaultOptions(setup, spec.unit, how);
  // A few stations are enough to prove; the layout can be changed on Print.
  const options = { ...full, columns: Math.min(2, full.columns), rows: Math.min(2, full.rows) };
  const sheet = await makeSheet(deps, setup, options);
  if (!sheet.ok) return sheet;
  await addPass(deps, session.id, position, setup, sheet.value, 1, 'prove', pass.load + 1, fileTransform);
  await toStage('print');
  return accept({ needsNewSheet: true });
}
