import { z } from 'zod';

import { STRATEGIES, type StrategyName } from '@/core/layout';
import { fieldLength, lengthRefusalText, parseLength, type LengthUnit } from '@/core/units';
import type { Rig } from '@/server/rigs';
import { planRequestSchema, type PlanRequest } from '@/server/scriptRoll';

/** What the plan form holds: as typed, lengths in the user's unit. */
export interface PlanFields {
  readonly name: string;
  readonly itemWidth: string;
  readonly itemHeight: string;
  readonly copies: string;
  readonly gap: string;
  readonly printableWidth: string;
  readonly tolerance: string;
  readonly promise: string;
  readonly outline: 'rectangle' | 'round';
  readonly mayTurn: boolean;
  readonly lanes: string;
  readonly laneGap: string;
  readonly centreLastRow: boolean;
  readonly markRoom: string;
  readonly between: string;
  readonly lead: string;
  readonly tail: string;
  readonly rollLeft: string;
  readonly correctCreep: boolean;
  readonly oneMachine: boolean;
  readonly printSpeed: string;
  readonly cutSpeed: string;
  readonly registerTime: string;
  readonly wait: string;
  readonly typingStep: string;
  readonly rowsPerSection: number | null;
  readonly strategy: StrategyName | null;
}

export type PlanErrors = Readonly<Partial<Record<keyof PlanFields, string>>>;

/** Half a mark with its clear zone, in whole 5 mm: from its middle to the first row. */
export function markRoomOf(rig: Pick<Rig, 'marks'>): number {
  const { marks } = rig;
  return marks === null ? 0 : Math.ceil((0.75 * marks.sizeMm + marks.clearMm) / 5) * 5;
}

/** Until something was planned on a rig. Common practice, no source. */
const FIRST_SPEEDS = { printMmPerHour: 8000, cutMmPerS: 150, registerS: 90, waitS: 0 };

/** What of an earlier plan belongs to the rig rather than to its job. */
export type RigHabits = Pick<PlanRequest, 'speeds' | 'oneMachine' | 'betweenMm'>;

export const habitsOf = ({ speeds, oneMachine, betweenMm }: PlanRequest): RigHabits => ({
  speeds,
  oneMachine,
  betweenMm,
});

/** The form as it opens for a rig; speeds and the like as they were planned there last. */
export function initialFields(rig: Rig, unit: LengthUnit, habits: RigHabits | null = null): PlanFields {
  const speeds = habits?.speeds ?? FIRST_SPEEDS;
  const one = rig.printer.trim().toLowerCase() === rig.cutter.trim().toLowerCase();
  return {
    name: 'luggage tags',
    itemWidth: fieldLength(185, unit),
    itemHeight: fieldLength(110, unit),
    copies: '400',
    gap: fieldLength(4, unit),
    printableWidth: fieldLength(rig.workArea.x1 - rig.workArea.x0, unit),
    tolerance: fieldLength(rig.toleranceMm, unit),
    promise: '1',
    outline: 'rectangle',
    mayTurn: false,
    lanes: '1',
    laneGap: '0',
    centreLastRow: false,
    markRoom: fieldLength(markRoomOf(rig), unit),
    between: fieldLength(habits?.betweenMm ?? 10, unit),
    lead: fieldLength(rig.roll.leadMm, unit),
    tail: fieldLength(rig.roll.tailMm, unit),
    rollLeft: '',
    correctCreep: rig.changeable !== 'settings' && rig.changeable !== 'nothing',
    oneMachine: habits?.oneMachine ?? one,
    printSpeed: String(speeds.printMmPerHour / 1000),
    cutSpeed: String(speeds.cutMmPerS),
    registerTime: String(speeds.registerS),
    wait: String(speeds.waitS / 60),
    typingStep: unit === 'mm' ? '1' : '0.01',
    rowsPerSection: null,
    strategy: null,
  };
}

const LENGTHS = [
  'itemWidth',
  'itemHeight',
  'gap',
  'printableWidth',
  'tolerance',
  'laneGap',
  'markRoom',
  'between',
  'lead',
  'tail',
  'rollLeft',
] as const satisfies readonly (keyof PlanFields)[];

/** What was typed in one unit, shown in another; what cannot be read stays as it was typed. */
export function inOtherUnit(fields: PlanFields, from: LengthUnit, to: LengthUnit): PlanFields {
  if (from === to) return fields;
  const lengths = LENGTHS.map((name) => {
    const parsed = parseLength(fields[name], from);
    return [name, parsed.ok ? fieldLength(parsed.value, to) : fields[name]];
  });
  return { ...fields, ...Object.fromEntries(lengths), typingStep: to === 'mm' ? '1' : '0.01' };
}

const text = z.string().max(60);

/** A plan that was left half typed, as the browser keeps it. */
const draftSchema = z.object({
  unit: z.enum(['mm', 'in']),
  fields: z.object({
    name: text,
    itemWidth: text,
    itemHeight: text,
    copies: text,
    gap: text,
    printableWidth: text,
    tolerance: text,
    promise: text,
    outline: z.enum(['rectangle', 'round']),
    mayTurn: z.boolean(),
    lanes: text,
    laneGap: text,
    centreLastRow: z.boolean(),
    markRoom: text,
    between: text,
    lead: text,
    tail: text,
    rollLeft: text,
    correctCreep: z.boolean(),
    oneMachine: z.boolean(),
    printSpeed: text,
    cutSpeed: text,
    registerTime: text,
    wait: text,
    typingStep: text,
    rowsPerSection: z.int().min(1).nullable(),
    strategy: z.enum(STRATEGIES).nullable(),
  }) satisfies z.ZodType<PlanFields>,
});

/** What a kept draft says in the unit in use; null when it is not one. */
export function readDraft(kept: string | null, unit: LengthUnit): PlanFields | null {
  if (kept === null) return null;
  try {
    const parsed = draftSchema.safeParse(JSON.parse(kept));
    return parsed.success ? inOtherUnit(parsed.data.fields, parsed.data.unit, unit) : null;
  } catch {
    return null;
  }
}

export const writeDraft = (fields: PlanFields, unit: LengthUnit): string => JSON.stringify({ unit, fields });

/** Which field a message of the request belongs to. */
const FIELD_OF: Readonly<Record<string, keyof PlanFields>> = {
  'item.widthMm': 'itemWidth',
  'item.heightMm': 'itemHeight',
  copies: 'copies',
  gapMm: 'gap',
  printableWidthMm: 'printableWidth',
  toleranceMm: 'tolerance',
  promise: 'promise',
  lanes: 'lanes',
  laneGapMm: 'laneGap',
  markRoomMm: 'markRoom',
  betweenMm: 'between',
  leadMm: 'lead',
  tailMm: 'tail',
  rollLeftMm: 'rollLeft',
  'speeds.printMmPerHour': 'printSpeed',
  'speeds.cutMmPerS': 'cutSpeed',
  'speeds.registerS': 'registerTime',
  'speeds.waitS': 'wait',
};

export type ReadFields =
  { readonly ok: true; readonly request: PlanRequest } | { readonly ok: false; readonly errors: PlanErrors };

/** What was typed as a request, or what is wrong with it, by field. */
export function readFields(fields: PlanFields, unit: LengthUnit, cutLengthMm: number | null): ReadFields {
  const errors: Partial<Record<keyof PlanFields, string>> = {};
  const length = (name: keyof PlanFields): number => {
    const parsed = parseLength(String(fields[name]), unit);
    if (parsed.ok) return parsed.value;
    errors[name] = lengthRefusalText(parsed.refusal, unit);
    return Number.NaN;
  };
  const figure = (name: keyof PlanFields, example: string): number => {
    const typed = String(fields[name]).trim().replace(',', '.');
    const value = Number(typed);
    if (typed !== '' && Number.isFinite(value)) return value;
    errors[name] = `Type a number, for example ${example}.`;
    return Number.NaN;
  };
  const input = {
    item: { widthMm: length('itemWidth'), heightMm: length('itemHeight') },
    copies: figure('copies', '96'),
    gapMm: length('gap'),
    printableWidthMm: length('printableWidth'),
    toleranceMm: length('tolerance'),
    promise: figure('promise', '1') / 100,
    outline: fields.outline,
    mayTurn: fields.mayTurn,
    lanes: figure('lanes', '1'),
    laneGapMm: length('laneGap'),
    centreLastRow: fields.centreLastRow,
    markRoomMm: length('markRoom'),
    betweenMm: length('between'),
    leadMm: length('lead'),
    tailMm: length('tail'),
    ...(fields.rollLeft.trim() === '' ? {} : { rollLeftMm: length('rollLeft') }),
    ...(cutLengthMm === null ? {} : { cutLengthMm }),
    ...(fields.rowsPerSection === null ? {} : { rowsPerSection: fields.rowsPerSection }),
    speeds: {
      printMmPerHour: 1000 * figure('printSpeed', '8'),
      cutMmPerS: figure('cutSpeed', '150'),
      registerS: figure('registerTime', '90'),
      waitS: 60 * figure('wait', '0'),
    },
    oneMachine: fields.oneMachine,
    correctCreep: fields.correctCreep,
  };
  if (Object.keys(errors).length > 0) return { ok: false, errors };
  const parsed = planRequestSchema.safeParse(input);
  if (parsed.success) return { ok: true, request: parsed.data };
  for (const issue of parsed.error.issues) {
    const name = FIELD_OF[issue.path.map(String).join('.')] ?? 'copies';
    errors[name] ??= issue.message;
  }
  return { ok: false, errors };
}
