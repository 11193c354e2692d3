import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { GRIPS, TOOL_KINDS, WEARS, type Grip, type ToolKind, type Wear } from '@/core/setup';
import { machines, mats, rigs, tools } from '@/db/schema';
import { type Deps, type Done } from '@/server/base/deps';
import { finite, side, words } from '@/server/base/shapes';
import { noteRigEvent } from '@/server/setups/history';
import { useCase } from '@/server/base/useCase';

/* What belongs to a cutter: tools for its holder, mats for its sheets, what is done when it is switched on. */

export interface Tool {
  readonly id: string;
  readonly name: string;
  readonly kind: ToolKind;
  readonly holder: string;
  readonly fittedAt: Date;
  /** How far it has cut, m; null where nobody keeps count. */
  readonly metresRun: number | null;
}

export interface Mat {
  readonly id: string;
  readonly name: string;
  readonly grip: Grip;
  readonly colour: string;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly wear: Wear;
}

export interface Equipment {
  readonly tools: readonly Tool[];
  readonly mats: readonly Mat[];
  /** The widest that the carriage reaches, mm; null where nobody told. */
  readonly reachMm: number | null;
  readonly startUp: readonly string[];
}

/** What a cutter has in use. */
export async function equipmentOf(deps: Deps, cutterId: string): Promise<Equipment> {
  const [machine] = await deps.db.select().from(machines).where(eq(machines.id, cutterId));
  const own = await deps.db
    .select()
    .from(tools)
    .where(and(eq(tools.machineId, cutterId), isNull(tools.retiredAt)))
    .orderBy(asc(tools.fittedAt), asc(tools.name));
  const sheets = await deps.db
    .select()
    .from(mats)
    .where(and(eq(mats.machineId, cutterId), isNull(mats.retiredAt)))
    .orderBy(asc(mats.name));
  return {
    tools: own.map(({ id, name, kind, holder, fittedAt, metresRun }) => ({
      id,
      name,
      kind,
      holder,
      fittedAt,
      metresRun,
    })),
    mats: sheets.map(({ id, name, grip, colour, widthMm, heightMm, wear }) => ({
      id,
      name,
      grip,
      colour,
      widthMm,
      heightMm,
      wear,
    })),
    reachMm: machine?.reachMm ?? null,
    startUp: machine?.startUp ?? [],
  };
}

const note = z.string().trim().max(40, 'At most 40 characters.').default('');

export const toolSchema = z.object({
  rigId: z.uuid(),
  /** Absent: a tool that was fitted just now. */
  id: z.uuid().optional(),
  name: words('a name, for example “45° knife”', 40),
  kind: z.enum(TOOL_KINDS),
  holder: note,
  metresRun: finite.nonnegative('A run is not negative.').max(1e6, 'At most 1000 km.').nullable(),
  retired: z.boolean().default(false),
});

export const matSchema = z.object({
  rigId: z.uuid(),
  id: z.uuid().optional(),
  name: words('a name, for example “blue mat”', 40),
  grip: z.enum(GRIPS),
  colour: note,
  widthMm: side('The mat’s width'),
  heightMm: side('The mat’s length'),
  wear: z.enum(WEARS),
  retired: z.boolean().default(false),
});

const MOST_STEPS = 12;

export const cutterSchema = z.object({
  rigId: z.uuid(),
  reachMm: finite.positive('A cutter reaches more than 0.').max(10_000, 'At most 10 m.').nullable(),
  startUp: z
    .array(z.string().trim().min(1).max(120, 'At most 120 characters a step.'))
    .max(MOST_STEPS, `At most ${MOST_STEPS} steps.`),
});

/** The cutter of a rig, held while its equipment is written. */
async function cutterOf(deps: Deps, rigId: string): Promise<string | null> {
  const [rig] = await deps.db.select({ cutterId: rigs.cutterId }).from(rigs).where(eq(rigs.id, rigId));
  if (!rig) return null;
  await deps.db.select({ id: machines.id }).from(machines).where(eq(machines.id, rig.cutterId)).for('update');
  return rig.cutterId;
}

/** A tool is fitted, described anew, or taken out for good; a tool that comes new is an event of the rig. */
export const saveTool = useCase(
  toolSchema,
  { act: 'tool', about: 'rigId' },
  async (inner, { rigId, id, retired, ...tool }, actor): Done => {
    const machineId = await cutterOf(inner, rigId);
    if (!machineId) return refuse({ code: 'not-found', what: 'rig' });
    if (id === undefined) {
      await inner.db.insert(tools).values({ ...tool, machineId, fittedAt: inner.now() });
      await noteRigEvent(inner, actor, rigId, 'new-blade', `${tool.name} fitted`);
      return accept(null);
    }
    const done = await inner.db
      .update(tools)
      .set({ ...tool, retiredAt: retired ? inner.now() : null })
      .where(and(eq(tools.id, id), eq(tools.machineId, machineId)))
      .returning({ id: tools.id });
    return done.length > 0 ? accept(null) : refuse({ code: 'not-found', what: 'tool' });
  },
);

/** A mat is added, described anew, or thrown away. */
export const saveMat = useCase(
  matSchema,
  { act: 'mat', about: 'rigId' },
  async (inner, { rigId, id, retired, ...mat }): Done => {
    const machineId = await cutterOf(inner, rigId);
    if (!machineId) return refuse({ code: 'not-found', what: 'rig' });
    if (id === undefined) {
      await inner.db.insert(mats).values({ ...mat, machineId });
      return accept(null);
    }
    const done = await inner.db
      .update(mats)
      .set({ ...mat, retiredAt: retired ? inner.now() : null })
      .where(and(eq(mats.id, id), eq(mats.machineId, machineId)))
      .returning({ id: mats.id });
    return done.length > 0 ? accept(null) : refuse({ code: 'not-found', what: 'mat' });
  },
);

/** How far a cutter reaches, and what is done when it is switched on. */
export const saveCutter = useCase(
  cutterSchema,
  { act: 'cutter', about: 'rigId' },
  async (inner, { rigId, reachMm, startUp }): Done => {
    const machineId = await cutterOf(inner, rigId);
    if (!machineId) return refuse({ code: 'not-found', what: 'rig' });
    await inner.db
      .update(machines)
      .set({ reachMm, startUp, version: sql`${machines.version} + 1` })
      .where(eq(machines.id, machineId));
    return accept(null);
  },
);
