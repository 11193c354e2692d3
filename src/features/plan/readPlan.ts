import { z } from 'zod';

import { STRATEGIES } from '@/core/layout';
import { lengthRefusalText, type LengthUnit, longToMm, parseLength } from '@/core/units';
import { planRequestSchema, type PlanRequest } from '@/core/layout/planShape';

import { inOtherUnit, type PlanErrors, type PlanFields } from './planFields';

export { jobOf } from '@/core/layout/planShape';

/* What was typed or kept on the plan form, read with every rule of a plan: loaded once the form can be used. */

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
      printMmPerHour: longToMm(figure('printSpeed', unit === 'mm' ? '8' : '26'), unit),
      cutMmPerS: length('cutSpeed'),
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
