import { type SessionKind } from '@/core/setup';
import { z } from 'zod';

import type { Affine } from '@/core/geometry';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { layoutAreaOf, READ_BY, stationsThatFit, type StationSet } from '@/core/proof';
import { passes, sessions } from '@/db/schema';
import { isTaken } from '@/db/transaction';

import { keep } from '@/server/base/act';
import { type Actor, type Deps, type UseCaseRefusal, type Done } from '@/server/base/deps';
import { openSession } from './loadSession';
import { holdSetup } from '@/server/setups/holdSetup';
import { changeOverFirst } from '@/server/setups/mustType';
import { getSetup } from '@/server/setups/repository';
import { type Setup } from '@/server/setups/setup';
import { withShape } from '@/server/base/useCase';
import { idSchema } from '@/server/base/shapes';
import type { SheetOptions } from './shapes';
import type { Pass } from './session';
import { defaultOptions, readLastTime, makeSheet, type StoredSheet } from './sheets';

export interface Started {
  readonly sessionId: string;
  readonly resumed: boolean;
}

const startSchema = z.object({
  setupId: idSchema,
  kind: z.enum(['calibration', 'quick-check']),
  unit: z.enum(['mm', 'in']).default('mm'),
  /** How its sheet is to be read; nothing: as the last one was, or as the rig is usually read. */
  readBy: z.enum(READ_BY).optional(),
});

export type ToStart = z.input<typeof startSchema>;

/** The rig, held so that nobody takes it off the bench meanwhile. */
async function setupInUse(deps: Deps, setupId: string): Promise<Outcome<Setup, UseCaseRefusal>> {
  const held = await holdSetup(deps, setupId);
  return held.ok ? accept((await getSetup(deps, setupId))!) : held;
}

/** Opens a session with a sheet of its own, or joins the one that is open for this rig and kind already. */
async function start(
  deps: Deps,
  actor: Actor,
  setupId: string,
  kind: SessionKind,
  request: string | undefined,
  /** `last`: how the setup's newest sheet was read, in a unit. */
  layOut: (
    setup: Setup,
    last: (unit: 'mm' | 'in') => ReturnType<typeof readLastTime>,
  ) => Promise<{ readonly on: Setup; readonly options: SheetOptions }>,
): Promise<Outcome<Started, UseCaseRefusal>> {
  const joined = async (inner: Deps): Promise<Outcome<Started, UseCaseRefusal> | null> => {
    const open = await openSession(inner, setupId, kind);
    return open ? accept({ sessionId: open, resumed: true }) : null;
  };
  try {
    return await keep(deps, actor, { act: `start ${kind}`, subjectId: setupId, request }, async (inner) => {
      const setup = await setupInUse(inner, setupId);
      if (!setup.ok) return setup;
      const open = await joined(inner);
      if (open) return open;
      const wrong = changeOverFirst(setup.value);
      if (wrong) return refuse(wrong);
      const { on, options } = await layOut(setup.value, (unit) => readLastTime(inner, setup.value, unit));
      const sheet = await makeSheet(inner, on, options);
      if (!sheet.ok) return sheet;
      const [row] = await inner.db
        .insert(sessions)
        .values({ setupId, kind, stage: 'print', startedBy: actor, startedAt: deps.now() })
        .returning({ id: sessions.id });
      const purpose = kind === 'quick-check' ? 'prove' : 'measure';
      // A check asks whether the rig is as it was left: its cut carries what every cut file of the rig carries.
      const carried = kind === 'quick-check' ? setup.value.standing.fileTransform : null;
      await addPass(inner, row!.id, 1, setup.value, sheet.value, 1, purpose, 1, carried);
      return accept({ sessionId: row!.id, resumed: false });
    });
  } catch (error) {
    // Two tablets pressed the button at once: the second joins the first.
    const open = isTaken(error) ? await joined(deps) : null;
    if (open) return open;
    throw error;
  }
}

export const startSession = withShape(
  startSchema,
  'start session',
  (deps, actor, { setupId, kind, unit, readBy: wanted }, { request }): Done<Started> =>
    start(deps, actor, setupId, kind, request, async (setup, last) => {
      const like = await last(unit);
      const how = wanted ? { ...like, readBy: wanted } : like;
      if (kind === 'calibration') return { on: setup, options: defaultOptions(setup, unit, how) };
      const one = { columns: 1, rows: 1, secondSet: false };
      const whole = { ...how, readBy: how.readBy === 'short' ? ('comb' as const) : how.readBy };
      return { on: setup, options: { ...defaultOptions(setup, unit, whole), ...one } };
    }),
);

export const stripSchema = z.object({
  setupId: idSchema,
  length: z
    .number()
    .min(1000, 'A strip is at least 1 m long: over less nothing drifts that can be read.')
    .max(30_000, 'At most 30 m of strip.'),
  spacing: z
    .number()
    .min(150, 'Rows of stations stand at least 150 mm apart.')
    .max(3000, 'Rows of stations stand at most 3 m apart.'),
});

/** Opens a session with a long strip: stations along both edges and the middle. Lengths in mm. */
export const startRollProof = withShape(
  stripSchema,
  'start strip',
  (deps, actor, { setupId, length, spacing }, { request }): Done<Started> =>
    start(deps, actor, setupId, 'roll-proof', request, async (setup) => {
      const strip: Setup = {
        ...setup,
        sheetHeightMm: length,
        workArea: { ...setup.workArea, y1: length - setup.workArea.y0 },
        // The strip is read where it lies: its own stations are its marks.
        marks: null,
      };
      const options = { ...defaultOptions(strip, 'mm'), secondSet: false };
      const fits = stationsThatFit(layoutAreaOf(strip), options.stepMm, false);
      const rows = Math.floor((strip.workArea.y1 - strip.workArea.y0) / spacing) + 1;
      return {
        on: strip,
        options: {
          ...options,
          columns: Math.min(3, fits.columns),
          rows: Math.max(2, Math.min(rows, fits.rows)),
        },
      };
    }),
);

export const valuesOf = (setup: Setup): Record<string, number> =>
  Object.fromEntries(setup.settings.map((s) => [s.id, s.value]));

export async function addPass(
  deps: Deps,
  sessionId: string,
  position: number,
  setup: Setup,
  sheet: StoredSheet,
  stationSet: StationSet,
  purpose: Pass['purpose'],
  load: number,
  fileTransform: Affine | null = null,
): Promise<void> {
  await deps.db.insert(passes).values({
    sessionId,
    position,
    sheetId: sheet.id,
    stationSet,
    purpose,
    settingsAtCut: valuesOf(setup),
    load,
    fileTransform,
    createdAt: deps.now(),
  });
}
