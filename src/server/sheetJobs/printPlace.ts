import { and, desc, eq } from 'drizzle-orm';
import { z } from 'zod';

import { markPlaces } from '@/core/marks';
import { accept, refuse } from '@/core/outcome';
import { repeatedShift, type RepeatedShift } from '@/core/record';
import { printPlacements, printShifts, rigs } from '@/db/schema';
import type { Deps, UseCaseRefusal, Done } from '@/server/base/deps';
import { getSetup } from '@/server/setups/repository';
import { useCase } from '@/server/base/useCase';

import type { SheetJob } from './job';
import { getJob } from './repository';
import { jobStep } from './step';

/*
 * Where prints lie on their sheets, by tray and size of one printer: kept from what a rule says of frozen jobs, and, once the
 * same shift comes again and again, moved against in the print files of jobs that are frozen from then on.
 */

interface Tray {
  readonly printerId: string;
  readonly tray: string;
  readonly sheetWidthMm: number;
  readonly sheetHeightMm: number;
}

export interface Placement {
  readonly xMm: number;
  readonly yMm: number;
}

/** No more of the newest are looked at: a printer that was serviced is another one. */
const NEWEST = 8;
/** A print that lies farther off was measured from another edge, or in another unit, mm. */
const MOST_OFF_MM = 30;

/** The tray that a job is printed from, as its recipe has it. */
async function trayOf(deps: Deps, job: SheetJob): Promise<Tray> {
  const setup = (await getSetup(deps, job.setupId))!;
  const [rig] = await deps.db
    .select({ printerId: rigs.printerId })
    .from(rigs)
    .where(eq(rigs.id, setup.rigId));
  const { sheetWidthMm, sheetHeightMm } = job.geometry.sheet;
  const { tray } = job.frozenAs?.recipe ?? setup.recipe;
  return { printerId: rig!.printerId, tray, sheetWidthMm, sheetHeightMm };
}

const ofTray = (table: typeof printShifts | typeof printPlacements, tray: Tray) =>
  and(
    eq(table.printerId, tray.printerId),
    eq(table.tray, tray.tray),
    eq(table.sheetWidthMm, tray.sheetWidthMm),
    eq(table.sheetHeightMm, tray.sheetHeightMm),
  );

/** How print files of a job's tray are moved now; null: not at all. */
export async function placementNow(deps: Deps, job: SheetJob): Promise<Placement | null> {
  const [row] = await deps.db
    .select({ xMm: printPlacements.xMm, yMm: printPlacements.yMm })
    .from(printPlacements)
    .where(ofTray(printPlacements, await trayOf(deps, job)))
    .orderBy(desc(printPlacements.at), desc(printPlacements.id))
    .limit(1);
  return row && (row.xMm !== 0 || row.yMm !== 0) ? row : null;
}

export interface PrintPlaceTold {
  readonly tray: string;
  readonly measured: number;
  /** What prints of it have in common; null while nothing is sure. */
  readonly repeats: RepeatedShift | null;
  readonly placement: Placement | null;
}

/** What is known of where prints of a job's tray lie. */
export async function printPlaceOf(deps: Deps, job: SheetJob): Promise<PrintPlaceTold> {
  const tray = await trayOf(deps, job);
  const shifts = await deps.db
    .select({ dxMm: printShifts.dxMm, dyMm: printShifts.dyMm })
    .from(printShifts)
    .where(ofTray(printShifts, tray))
    .orderBy(desc(printShifts.at), desc(printShifts.id))
    .limit(NEWEST);
  return {
    tray: tray.tray,
    measured: shifts.length,
    repeats: repeatedShift(shifts),
    placement: await placementNow(deps, job),
  };
}

const fromEdge = z
  .number('Type the distance as a number, in mm.')
  .min(0, 'A distance from the edge is 0 or more.')
  .max(60_000, 'At most 60,000 mm.');
export const printPlaceSchema = z.object({ jobId: z.uuid(), fromLeftMm: fromEdge, fromNearMm: fromEdge });

/** Keeps where a printed sheet of a job lies: from its edges to the middle of the leading mark. */
export const keepPrintPlace = jobStep(
  printPlaceSchema,
  { act: 'keep print place', allowed: ['frozen'] },
  async (inner, job, { jobId, fromLeftMm, fromNearMm }, actor): Done => {
    const { marks } = job.geometry.sheet;
    const leading = marks && markPlaces(marks, job.geometry.sheet)[0]?.centre;
    if (!leading)
      return refuse({ code: 'refused', message: 'This sheet has no marks to measure from its edges.' });
    const placed = job.frozenAs?.placement ?? { xMm: 0, yMm: 0 };
    const dxMm = fromLeftMm - leading.x - placed.xMm;
    const dyMm = fromNearMm - leading.y - placed.yMm;
    const far = (field: string, mm: number): UseCaseRefusal => ({
      code: 'invalid-input',
      fields: {
        [field]: `It should be near ${mm.toFixed(1)} mm: measure from that edge, and check the unit.`,
      },
    });
    if (Math.abs(dxMm) > MOST_OFF_MM) return refuse(far('fromLeftMm', leading.x));
    if (Math.abs(dyMm) > MOST_OFF_MM) return refuse(far('fromNearMm', leading.y));
    await inner.db
      .insert(printShifts)
      .values({ ...(await trayOf(inner, job)), jobId, dxMm, dyMm, by: actor, at: inner.now() });
    return accept(null);
  },
);

export const setPlacementSchema = z.object({ jobId: z.uuid(), move: z.boolean() });

/** Moves the print files of a job's tray against what repeats from now on, or no longer. */
export const setPlacement = useCase(
  setPlacementSchema,
  { act: 'print placement', about: 'jobId' },
  async (inner, { jobId, move }, actor): Done => {
    const job = await getJob(inner, jobId);
    if (!job) return refuse({ code: 'not-found', what: 'job' });
    const { repeats } = await printPlaceOf(inner, job);
    if (move && !repeats)
      return refuse({
        code: 'refused',
        message: 'Nothing repeats that is sure enough to move prints by. Measure more of them.',
      });
    const against = (mm: number): number => (mm === 0 ? 0 : -mm);
    await inner.db.insert(printPlacements).values({
      ...(await trayOf(inner, job)),
      ...{ xMm: move ? against(repeats!.dxMm) : 0, yMm: move ? against(repeats!.dyMm) : 0 },
      ...{ by: actor, at: inner.now() },
    });
    return accept(null);
  },
);
