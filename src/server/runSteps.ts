import { and, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';

import { compressNodes, DRIFT_VERSION, FOLLOW_VERSION, type SectionOutlook } from '@/core/drift';
import { fileRefusalText } from '@/core/formats/file';
import { planRefusalText, registersOf, STRATEGIES } from '@/core/layout';
import { loadedBy } from '@/core/marks';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { rigs, runChecks, runEvents, runs, runSections, tapeMeasures } from '@/db/schema';

import { keep } from './base/act';
import { onRun, OPEN_RUN, type Stamp } from './base/step';
import { stored } from './base/stored';
import { fieldMessages, type Actor, type Deps, type UseCaseRefusal } from './deps';
import { driftResultSchema, driftRunsOf, rigDrift, type AxisKnowledge, type RigDrift } from './driftLog';
import { heavy } from './heavy/pool';
import { getRig, noteEvent, type Rig } from './rigs';
import {
  getRun,
  CHECK_PLACES,
  CHECK_U_MM,
  CHECK_WAYS,
  checkYMm,
  frozen,
  refusedRun,
  stretchOf,
  UNDOABLE,
  type Applied,
  type CheckPlace,
  type Run,
  type RunEventKind,
  type RunOutcome,
} from './runs';
import { feedSchema } from './schemas';
import { jobOf, planRequestSchema } from '@/shapes/plan';

/* The walk of a run, step by step: plan, release, section by section, close. */

type Done<T = null> = Promise<Outcome<T, UseCaseRefusal>>;

/** What the rig's marks allow. */
export function rollRigOf(rig: Rig) {
  return {
    registers: rig.marks !== null,
    bothEnds: (rig.marks?.count ?? 0) >= 2,
    // Else what it was calibrated over; farther marks were never tried.
    longestMm: rig.roll.longestMm ?? rig.sheetHeightMm,
    everyMm: rig.marks?.everyMm ?? null,
    farLed: loadedBy(rig.marks).leadingEdge === 'far',
  };
}

export const newRunSchema = z.object({
  rigId: z.uuid(),
  name: z
    .string()
    .trim()
    .min(1, 'Give the job a name, for example “luggage tags”.')
    .max(60, 'At most 60 characters.'),
  strategy: z.enum(STRATEGIES),
  request: planRequestSchema,
  /** It is known that this plan breaks the promise, and wanted so. */
  spoilsAccepted: z.boolean().default(false),
  itemFile: z.string().max(4_000_000, 'A cut file of one item may have at most 4 MB here.').nullable(),
});

/** What following a run needs to know: means and variances, not the tails that planning looks at. */
const followed = (axis: AxisKnowledge): AxisKnowledge => ({ ...axis, nodes: compressNodes(axis.nodes) });

/** Plans anew from what is known now, and freezes it. */
export async function startRun(
  deps: Deps,
  actor: Actor,
  input: unknown,
  request?: string,
): Done<{ runId: string }> {
  const parsed = newRunSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { rigId, name, strategy: wanted, request: planned, itemFile, spoilsAccepted } = parsed.data;
  const rig = await getRig(deps, rigId);
  const drift = await rigDrift(deps, rigId);
  if (!rig || !drift) return refuse({ code: 'not-found', what: 'rig' });
  if (rig.archived) return refusedRun('This rig is off the bench. Put it back first, on its own page.');
  if (itemFile !== null) {
    const read = await heavy('checkCutFile', itemFile);
    if (!read.ok) return refusedRun(fileRefusalText(read.refusal));
  }
  const roll = await heavy('planRoll', [
    jobOf(planned),
    { along: drift.along.nodes, across: drift.across.nodes },
    drift.sectionsOnRecord,
    rollRigOf(rig),
  ]);
  if (!roll.ok) return refusedRun(planRefusalText(roll.refusal));
  const strategy = roll.value.strategies.find((s) => s.name === wanted)!;
  if (strategy.missing) return refusedRun(`This way cannot be run: ${strategy.missing}. Choose another.`);
  if (!strategy.keepsPromise && !spoilsAccepted)
    return refusedRun(
      `About ${Math.round(100 * strategy.spoiledShare)} % of the items would be spoiled, and ${(100 * planned.promise).toFixed(1)} % is allowed. Make the sections shorter, or say that it shall be run so.`,
    );
  const expected = await heavy('expectedMiss', {
    run: {
      ...strategy,
      strategy: strategy.name,
      imposition: roll.value.imposition,
      markRoomMm: planned.markRoomMm,
    },
    knowledge: drift,
  });
  const plan = frozen(planned, roll.value, strategy, DRIFT_VERSION, expected);
  return keep(deps, actor, { act: 'start run', subjectId: rigId, request }, async (inner) => {
    const [row] = await inner.db
      .insert(runs)
      .values({
        rigId,
        kind: 'job',
        name,
        stage: 'release',
        mediaThen: rig.media,
        plan,
        knowledge: {
          along: followed(drift.along),
          across: followed(drift.across),
          sectionsOnRecord: drift.sectionsOnRecord,
        },
        itemFile,
        startedBy: actor,
        startedAt: deps.now(),
      })
      .returning({ id: runs.id });
    await inner.db
      .insert(runSections)
      .values(plan.sections.map((s) => ({ runId: row!.id, index: s.index, state: 'waiting' })));
    return accept({ runId: row!.id });
  });
}

async function note(
  deps: Deps,
  actor: Actor,
  runId: string,
  kind: RunEventKind,
  section: number | null = null,
  detail: object = {},
): Promise<void> {
  await deps.db.insert(runEvents).values({ runId, kind, section, detail, by: actor, happenedAt: deps.now() });
}

/** What has to be so before anything is sent. */
export function releaseItems(rig: Rig): readonly { readonly key: string; readonly words: string }[] {
  const one = rig.printer.trim().toLowerCase() === rig.cutter.trim().toLowerCase();
  return [
    {
      key: 'devices',
      words: one
        ? `The print and the cut both go to: ${rig.printer}.`
        : `The print goes to: ${rig.printer}. The cut goes to: ${rig.cutter}.`,
    },
    {
      key: 'media',
      words: `${rig.media} is loaded, printed side up, and the mode is the one of its recipe.`,
    },
    { key: 'halves', words: 'Both halves are sent: print data and cut data, of the same plan.' },
    { key: 'keep', words: 'The cut data stays where it is, unchanged, until the last section is cut.' },
  ];
}

export function releaseRun(
  deps: Deps,
  actor: Actor,
  runId: string,
  ticked: readonly string[],
  stamp: Stamp = {},
): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'release', allowed: OPEN_RUN }, async (inner, run) => {
    const missing = releaseItems(run.rig).filter((i) => !ticked.includes(i.key));
    if (missing.length > 0) return refusedRun(`Not released yet. Still to check: ${missing[0]!.words}`);
    if (run.stage !== 'release') return accept(null);
    await inner.db.update(runs).set({ stage: 'running' }).where(eq(runs.id, runId));
    await note(inner, actor, runId, 'released', null, { ticked });
    return accept(null);
  });
}

const offset = z
  .number()
  .min(-30, 'A check reads within 30 mm. Is the decimal point right?')
  .max(30, 'A check reads within 30 mm. Is the decimal point right?')
  .nullable();

export const checkSchema = z
  .object({
    runId: z.uuid(),
    section: z.int().min(1),
    place: z.enum(CHECK_PLACES),
    way: z.enum(CHECK_WAYS),
    dxMm: offset,
    dyMm: offset,
    /** The checks of this place that the sender has seen and means to replace; others count beside it. */
    replaces: z.array(z.uuid()).max(20).default([]),
  })
  .refine((c) => c.dxMm !== null || c.dyMm !== null, {
    path: ['dyMm'],
    message: 'Enter at least one offset; 0 when the cut is where it should be.',
  });

/** Keeps a check as it was read. What it replaces stays in the log; what its reader had not seen goes on counting. */
export async function saveCheck(deps: Deps, actor: Actor, input: unknown, stamp: Stamp = {}): Done {
  const parsed = checkSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { runId, section, place, way, dxMm, dyMm, replaces } = parsed.data;
  return onRun(deps, actor, runId, { ...stamp, act: 'check', allowed: OPEN_RUN }, async (inner, run) => {
    const own = run.sections[section - 1];
    if (!own) return refuse({ code: 'not-found', what: `section ${section} of this run` });
    if (own.state === 'waiting')
      return refusedRun(`Section ${section} is not cut yet. Say that it is cut, then check it.`);
    if (replaces.length > 0)
      await inner.db
        .update(runChecks)
        .set({ replacedAt: deps.now() })
        .where(
          and(currentChecks(runId, replaces), eq(runChecks.section, section), eq(runChecks.place, place)),
        );
    await inner.db.insert(runChecks).values({
      runId,
      section,
      place,
      way,
      yMm: checkYMm(run.plan, section, place),
      dxMm,
      dyMm,
      uMm: CHECK_U_MM[way],
      enteredBy: actor,
      enteredAt: deps.now(),
    });
    return accept(null);
  });
}

const currentChecks = (runId: string, ids: readonly string[]) =>
  and(eq(runChecks.runId, runId), inArray(runChecks.id, [...ids]), isNull(runChecks.replacedAt));

/** Takes a check back; it stays in the log as replaced. */
export function takeBackCheck(
  deps: Deps,
  actor: Actor,
  runId: string,
  checkId: string,
  stamp: Stamp = {},
): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'take check back', allowed: OPEN_RUN }, async (inner) => {
    await inner.db
      .update(runChecks)
      .set({ replacedAt: deps.now() })
      .where(currentChecks(runId, [checkId]));
    return accept(null);
  });
}

export interface NextSection {
  readonly index: number;
  readonly outlook: SectionOutlook;
  readonly stretch: number;
  readonly applied: Applied;
}

/** The outlook on a section from the log as it was when the run was planned and from this run's checks. */
export async function outlookOn(deps: Deps, run: Run, index: number, slips = true): Promise<NextSection> {
  const drift = await knowledgeOf(deps, run);
  const section = run.plan.sections[index - 1]!;
  // Checks of this section and of later ones say nothing about how it was cut.
  const before: Run = { ...run, checks: run.checks.filter((c) => c.section < index) };
  const axis = (name: 'along' | 'across') => ({
    run: driftRunsOf(before, name).at(-1) ?? { id: run.label, registeredAtM: [0], readings: [] },
    nodes: drift[name].nodes,
    unitVarMm2: drift[name].unitVarMm2,
    startSdMm: drift[name].startSdMm,
  });
  const registers = registersOf(run.plan);
  const stretch = stretchOf(run, index);
  const outlook = await heavy('sectionOutlook', {
    along: axis('along'),
    across: axis('across'),
    ahead: { startM: section.startMm / 1000, endM: section.endMm / 1000, registers, stretch, slips },
    seed: run.number * 1000 + index,
  });
  return {
    index,
    outlook,
    stretch,
    applied: { version: FOLLOW_VERSION, map: outlook.map, stretch, r95Mm: outlook.r95Mm },
  };
}

/** A slip that nobody has dealt with yet. */
export interface OpenSlip {
  readonly axis: 'along' | 'across';
  readonly sizeMm: number;
  readonly uMm: number;
  /** The checks before and after it. */
  readonly before: { readonly section: number; readonly place: CheckPlace };
  readonly after: { readonly section: number; readonly place: CheckPlace };
}

/** The slip that an outlook found, told by the checks it lies between. */
export function openSlip(run: Run, next: NextSection | null): OpenSlip | null {
  if (!next) return null;
  const found = (['along', 'across'] as const)
    .map((axis) => ({ axis, slip: next.outlook[axis].slip }))
    .filter((f) => f.slip !== null)
    .sort((a, b) => Math.abs(b.slip!.sizeMm) - Math.abs(a.slip!.sizeMm))[0];
  if (!found?.slip) return null;
  const { axis, slip } = found;
  const at = (yM: number) => {
    const check = run.checks.find((c) => Math.abs(c.yMm / 1000 - yM) < 1e-9);
    return check && { section: check.section, place: check.place };
  };
  const before = at(slip.fromM);
  const after = at(slip.toM);
  return before && after ? { axis, sizeMm: slip.sizeMm, uMm: slip.uMm, before, after } : null;
}

const knowledgeSchema = z.object({ along: z.unknown(), across: z.unknown(), sectionsOnRecord: z.int() });

async function knowledgeOf(deps: Deps, run: Run): Promise<Pick<RigDrift, 'along' | 'across'>> {
  const [row] = await deps.db.select({ knowledge: runs.knowledge }).from(runs).where(eq(runs.id, run.id));
  const { along, across } = stored(knowledgeSchema, row!.knowledge, 'runs.knowledge');
  return stored(driftResultSchema, { along, across }, 'runs.knowledge');
}

/** “It is cut”: with the file of this section that was loaded, by its id, or as drawn. */
export function markSectionCut(
  deps: Deps,
  actor: Actor,
  runId: string,
  index: number,
  fileId: string | null,
  stamp: Stamp = {},
): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'cut', allowed: ['running'] }, async (inner, run) => {
    const own = run.sections[index - 1];
    if (!own) return refuse({ code: 'not-found', what: `section ${index} of this run` });
    // Said twice, by two tablets, is said once; what was cut and checked is not cut another way afterwards.
    if (own.state !== 'waiting')
      return fileId === own.fileId
        ? accept(null)
        : refusedRun(
            `Section ${index} is on record as cut ${own.fileId ? 'with another file' : 'as drawn'}. Take that back first.`,
          );
    const file = run.files.find((f) => f.id === fileId && f.section === index);
    if (fileId !== null && !file)
      return refusedRun(
        `That is no file of section ${index} of ${run.label}. Make it, cut with it, then say so.`,
      );
    await setSection(inner, runId, index, {
      state: 'cut',
      applied: file?.applied ?? null,
      fileId,
      cutBy: actor,
      cutAt: deps.now(),
    });
    return accept(null);
  });
}

const setSection = (
  deps: Deps,
  runId: string,
  index: number,
  values: Partial<typeof runSections.$inferInsert>,
) =>
  deps.db
    .update(runSections)
    .set(values)
    .where(and(eq(runSections.runId, runId), eq(runSections.index, index)));

/** Takes “it is cut” back, as long as nothing was read of it. */
export function unmarkSectionCut(
  deps: Deps,
  actor: Actor,
  runId: string,
  index: number,
  stamp: Stamp = {},
): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'not cut', allowed: OPEN_RUN }, async (inner, run) => {
    if (run.checks.some((c) => c.section === index))
      return refusedRun(`Section ${index} has been checked. Take its checks back first.`);
    await setSection(inner, runId, index, {
      state: 'waiting',
      applied: null,
      fileId: null,
      cutBy: null,
      cutAt: null,
      spoiled: null,
    });
    return accept(null);
  });
}

/** Cut off and weeded: how many of its items were spoiled. */
export function finishSection(
  deps: Deps,
  actor: Actor,
  runId: string,
  index: number,
  spoiled: number,
  stamp: Stamp = {},
): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'weeded', allowed: OPEN_RUN }, async (inner, run) => {
    const section = run.plan.sections[index - 1];
    if (!section) return refuse({ code: 'not-found', what: `section ${index} of this run` });
    if (run.sections[index - 1]!.state === 'waiting') return refusedRun(`Section ${index} is not cut yet.`);
    if (!Number.isInteger(spoiled) || spoiled < 0 || spoiled > section.copies)
      return refuse({
        code: 'invalid-input',
        fields: {
          spoiled: `A whole number from 0 to ${section.copies}: so many copies are in this section.`,
        },
      });
    await setSection(inner, runId, index, { state: 'finished', spoiled });
    return accept(null);
  });
}

/** The cutter found its marks from scratch before a section: what went before says nothing about it any more. */
export function registerAnew(
  deps: Deps,
  actor: Actor,
  runId: string,
  before: number,
  stamp: Stamp = {},
): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'register', allowed: OPEN_RUN }, async (inner, run) => {
    if (!run.sections[before - 1]) return refuse({ code: 'not-found', what: `section ${before}` });
    await note(inner, actor, runId, 'registered', before);
    return accept(null);
  });
}

export const slipSchema = z.object({
  axis: z.enum(['along', 'across']),
  section: z.int().min(1),
  place: z.enum(CHECK_PLACES),
  sizeMm: z.number().min(-30, 'A slip is read within 30 mm.').max(30, 'A slip is read within 30 mm.'),
});

/** A slip is taken as it is: the files of the sections to come make up for it. */
export function keepSlip(
  deps: Deps,
  actor: Actor,
  runId: string,
  { axis, section, place, sizeMm }: z.output<typeof slipSchema>,
  stamp: Stamp = {},
): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'keep slip', allowed: OPEN_RUN }, async (inner, run) => {
    if (!run.sections[section - 1]) return refuse({ code: 'not-found', what: `section ${section}` });
    await note(inner, actor, runId, 'slip-kept', section, { axis, section, place, sizeMm });
    return accept(null);
  });
}

/** Takes a registration, a kept slip or a laminate back: it stays in the log and counts no more. */
export function undoEvent(deps: Deps, actor: Actor, runId: string, eventId: string, stamp: Stamp = {}): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'undo', allowed: OPEN_RUN }, async (inner, run) => {
    const event = run.events.find((e) => e.id === eventId);
    if (!event || !UNDOABLE.some((kind) => kind === event.kind))
      return refuse({ code: 'not-found', what: 'step of this run to undo' });
    if (event.undone) return accept(null);
    await note(inner, actor, runId, 'undone', event.section, { undoes: eventId });
    return accept(null);
  });
}

export const laminateSchema = z.object({
  runId: z.uuid(),
  from: z.int().min(1),
  nominalMm: z.number().min(50, 'Measure at least 50 mm, better the whole mark spacing.').max(60_000),
  measuredMm: z.number().min(50, 'Measure at least 50 mm, better the whole mark spacing.').max(60_000),
});

/** Mark spacing measured again after laminating: the sections from here on are cut longer or shorter by it. */
export async function laminate(
  deps: Deps,
  actor: Actor,
  input: unknown,
  stamp: Stamp = {},
): Done<{ stretch: number }> {
  const parsed = laminateSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { runId, from, nominalMm, measuredMm } = parsed.data;
  const stretch = measuredMm / nominalMm;
  if (Math.abs(stretch - 1) > 0.02)
    return refuse({
      code: 'invalid-input',
      fields: {
        measuredMm: `That would be ${((stretch - 1) * 100).toFixed(1)} %: laminate stretches by a few tenths of a percent at most. Measure both again.`,
      },
    });
  return onRun(deps, actor, runId, { ...stamp, act: 'laminate', allowed: OPEN_RUN }, async (inner, run) => {
    if (!run.sections[from - 1]) return refuse({ code: 'not-found', what: `section ${from}` });
    await note(inner, actor, runId, 'laminated', from, { nominalMm, measuredMm, uMm: 0.2, stretch });
    return accept({ stretch });
  });
}

export function pauseRun(deps: Deps, actor: Actor, runId: string, rest: boolean, stamp: Stamp = {}): Done {
  return onRun(deps, actor, runId, { ...stamp, act: 'rest', allowed: OPEN_RUN }, async (inner, run) => {
    if (run.stage !== (rest ? 'running' : 'paused')) return accept(null);
    await inner.db
      .update(runs)
      .set({ stage: rest ? 'paused' : 'running' })
      .where(eq(runs.id, runId));
    await note(inner, actor, runId, rest ? 'paused' : 'resumed');
    return accept(null);
  });
}

export const closeSchema = z.object({
  runId: z.uuid(),
  note: z.string().trim().max(400, 'At most 400 characters.').default(''),
  costPerItem: z.number().min(0, 'A cost cannot be negative.').max(1e6).nullable().default(null),
});

/** Closes a run: what was predicted, what happened, and what it taught about the rig. */
export async function closeRun(deps: Deps, actor: Actor, input: unknown, stamp: Stamp = {}): Done {
  const parsed = closeSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { runId, note: words, costPerItem } = parsed.data;
  // Worked out and stored before the run is held: inside, it is found.
  const open = await getRun(deps, runId);
  if (open) await rigDrift(deps, open.rig.id);
  return onRun(deps, actor, runId, { ...stamp, act: 'close', allowed: OPEN_RUN }, async (inner, run) => {
    const before = await knowledgeOf(inner, run);
    const after = (await rigDrift(inner, run.rig.id))!;
    const outcome = { ...toldBy(run, costPerItem), note: words, taught: taught(before, after) };
    await inner.db
      .update(runs)
      .set({ stage: 'closed', closedBy: actor, closedAt: deps.now(), outcome })
      .where(eq(runs.id, runId));
    await note(inner, actor, runId, 'closed');
    return accept(null);
  });
}

/** What the counted spoils and the checks of a run say. */
function toldBy(run: Run, costPerItem: number | null): Omit<RunOutcome, 'note' | 'taught'> {
  const counted = run.sections.flatMap((s) => (s.spoiled === null ? [] : [s.spoiled]));
  const spoiled = counted.length > 0 ? counted.reduce((a, b) => a + b, 0) : null;
  const misses = run.checks.map((c) => Math.hypot(c.dxMm ?? 0, c.dyMm ?? 0));
  return {
    predictedSpoiled: run.plan.spoiled,
    spoiled,
    // Of the plan as it was frozen; `expected` stands beside it there.
    predictedR95Mm: run.plan.expected?.thenMm ?? run.plan.expected?.untilCheckedMm ?? run.plan.worstR95Mm,
    worstCheckMm: misses.length > 0 ? Math.max(...misses) : null,
    checks: run.checks.length,
    costSpoiled: costPerItem === null || spoiled === null ? null : costPerItem * spoiled,
  };
}

type Knowledge = Pick<RigDrift, 'along' | 'across'>;

const taught = (before: Knowledge, after: Knowledge): RunOutcome['taught'] =>
  (['along', 'across'] as const).map((axis) => ({
    axis,
    creepBefore: before[axis].creep.value,
    creepAfter: after[axis].creep.value,
    wanderBefore: before[axis].wander?.value ?? null,
    wanderAfter: after[axis].wander?.value ?? null,
  }));

/** Undo of closing. */
export function reopenRun(deps: Deps, actor: Actor, runId: string, stamp: Stamp = {}): Done {
  const step = { ...stamp, act: 'open again', allowed: [...OPEN_RUN, 'closed' as const] };
  return onRun(deps, actor, runId, step, async (inner, run) => {
    if (run.stage !== 'closed') return accept(null);
    await inner.db
      .update(runs)
      .set({
        // One that was given up before its release goes back to its card.
        stage: run.events.some((e) => e.kind === 'released') ? 'running' : 'release',
        closedBy: null,
        closedAt: null,
        outcome: null,
      })
      .where(eq(runs.id, runId));
    await note(inner, actor, runId, 'reopened');
    return accept(null);
  });
}

export const twoMarksSchema = z.object({
  rigId: z.uuid(),
  lengthMm: z.number().min(200, 'The marks lie at least 200 mm apart.').max(60_000, 'At most 60 m.'),
  first: z.object({ dxMm: offset, dyMm: offset }),
  last: z.object({ dxMm: offset, dyMm: offset }),
});

/** First and last mark of a long piece: the short way to learn the creep. */
export async function saveTwoMarks(deps: Deps, actor: Actor, input: unknown, request?: string): Done {
  const parsed = twoMarksSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { rigId, lengthMm, first, last } = parsed.data;
  const both = (axis: 'dxMm' | 'dyMm'): boolean => (first[axis] === null) === (last[axis] === null);
  if (!both('dxMm') || !both('dyMm') || (first.dxMm === null && first.dyMm === null))
    return refusedRun('Read the same direction at both marks: across, along or both.');
  return keep(deps, actor, { act: 'two marks', subjectId: rigId, request }, async (inner) => {
    if (!(await getRig(inner, rigId))) return refuse({ code: 'not-found', what: 'rig' });
    const [row] = await inner.db
      .insert(runs)
      .values({
        rigId,
        kind: 'two-marks',
        name: 'first and last mark',
        stage: 'closed',
        startedBy: actor,
        startedAt: deps.now(),
        closedBy: actor,
        closedAt: deps.now(),
      })
      .returning({ id: runs.id });
    await inner.db.insert(runChecks).values(
      [
        { place: 'first row', yMm: 0, ...first },
        { place: 'last row', yMm: lengthMm, ...last },
      ].map((c) => ({
        ...c,
        runId: row!.id,
        section: 1,
        way: 'comb',
        uMm: CHECK_U_MM.comb,
        enteredBy: actor,
        enteredAt: deps.now(),
      })),
    );
    return accept(null);
  });
}

export const tapeSchema = z
  .object({
    rigId: z.uuid(),
    of: z.enum(['print', 'cut']),
    nominalMm: z.number().min(300, 'Measure at least 300 mm.').max(60_000, 'At most 60 m.'),
    measuredMm: z.number().min(300, 'Measure at least 300 mm.').max(60_000, 'At most 60 m.'),
    uMm: z.number().min(0.05).max(5),
  })
  .refine((t) => Math.abs(t.measuredMm / t.nominalMm - 1) < 0.03, {
    path: ['measuredMm'],
    message: 'That is more than 3 % off. Is it the same distance, in the same unit?',
  });

export async function saveTape(deps: Deps, actor: Actor, input: unknown, request?: string): Done {
  const parsed = tapeSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { rigId } = parsed.data;
  return keep(deps, actor, { act: 'tape', subjectId: rigId, request }, async (inner) => {
    if (!(await getRig(inner, rigId))) return refuse({ code: 'not-found', what: 'rig' });
    await inner.db.insert(tapeMeasures).values({ ...parsed.data, enteredBy: actor, enteredAt: deps.now() });
    return accept(null);
  });
}

export const setFeedSchema = z.object({ rigId: z.uuid(), feedPercent: feedSchema });

/** What the printer's feed compensation is now; after a change the print is measured anew. */
export async function setFeed(deps: Deps, actor: Actor, input: unknown, request?: string): Done {
  const parsed = setFeedSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { rigId, feedPercent } = parsed.data;
  return keep(deps, actor, { act: 'feed', subjectId: rigId, request }, async (inner) => {
    await inner.db.select({ id: rigs.id }).from(rigs).where(eq(rigs.id, rigId)).for('update');
    const rig = await getRig(inner, rigId);
    if (!rig) return refuse({ code: 'not-found', what: 'rig' });
    // Told for the first time, it is what the earlier measures were made with.
    const changed = rig.feedPercent !== null && rig.feedPercent !== feedPercent;
    await inner.db
      .update(rigs)
      .set({ feedPercent, ...(changed ? { feedSetAt: deps.now() } : {}) })
      .where(eq(rigs.id, rigId));
    if (changed)
      await noteEvent(inner, actor, {
        rigId,
        kind: 'feed',
        note: `from ${rig.feedPercent!.toFixed(2)} % to ${feedPercent.toFixed(2)} %`,
      });
    return accept(null);
  });
}
