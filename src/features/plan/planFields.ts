import type { StrategyName } from '@/core/layout';
import { clearOnMm } from '@/core/marks';
import { fieldLength, fromLongMm, longToMm, parseLength, type LengthUnit } from '@/core/units';
import type { Setup } from '@/server/setups/setup';
import type { Run } from '@/server/runs/run';
import type { PlanRequest } from '@/core/layout/planShape';

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
export function markRoomOf(setup: Pick<Setup, 'marks'>): number {
  const { marks } = setup;
  return marks === null
    ? 0
    : Math.ceil((0.75 * marks.sizeMm + Math.max(clearOnMm(marks, 'near'), clearOnMm(marks, 'far'))) / 5) * 5;
}

/** Until something was planned on a rig. Common practice, no source. */
const FIRST_SPEEDS = { printMmPerHour: 8000, cutMmPerS: 150, registerS: 90, waitS: 0 };

/** What of an earlier plan belongs to the rig rather than to its job. */
export type SetupHabits = Pick<PlanRequest, 'speeds' | 'oneMachine' | 'betweenMm'>;

export const habitsOf = ({ speeds, oneMachine, betweenMm }: PlanRequest): SetupHabits => ({
  speeds,
  oneMachine,
  betweenMm,
});

/** A long length as a field shows it: m or ft. */
const longField = (mm: number, unit: LengthUnit): string => String(Number(fromLongMm(mm, unit).toFixed(3)));

/** The form as it opens for a rig; speeds and the like as they were planned there last. */
export function initialFields(setup: Setup, unit: LengthUnit, habits: SetupHabits | null = null): PlanFields {
  const speeds = habits?.speeds ?? FIRST_SPEEDS;
  const one = setup.printer.trim().toLowerCase() === setup.cutter.trim().toLowerCase();
  return {
    name: 'luggage tags',
    itemWidth: fieldLength(185, unit),
    itemHeight: fieldLength(110, unit),
    copies: '400',
    gap: fieldLength(4, unit),
    printableWidth: fieldLength(setup.workArea.x1 - setup.workArea.x0, unit),
    tolerance: fieldLength(setup.toleranceMm, unit),
    promise: '1',
    outline: 'rectangle',
    mayTurn: false,
    lanes: '1',
    laneGap: '0',
    centreLastRow: false,
    markRoom: fieldLength(markRoomOf(setup), unit),
    between: fieldLength(habits?.betweenMm ?? 10, unit),
    lead: fieldLength(setup.roll.leadMm, unit),
    tail: fieldLength(setup.roll.tailMm, unit),
    rollLeft: '',
    correctCreep: setup.changeable !== 'settings' && setup.changeable !== 'nothing',
    oneMachine: habits?.oneMachine ?? one,
    printSpeed: longField(speeds.printMmPerHour, unit),
    cutSpeed: fieldLength(speeds.cutMmPerS, unit),
    registerTime: String(speeds.registerS),
    wait: String(speeds.waitS / 60),
    typingStep: unit === 'mm' ? '1' : '0.01',
    rowsPerSection: null,
    strategy: null,
  };
}

/** The form filled in as an earlier plan was; so many copies of it. */
export function fieldsOf(
  {
    name,
    request,
    copies,
  }: { readonly name: string; readonly request: PlanRequest; readonly copies: number },
  setup: Setup,
  unit: LengthUnit,
): PlanFields {
  const length = (mm: number): string => fieldLength(mm, unit);
  return {
    ...initialFields(setup, unit, habitsOf(request)),
    name,
    copies: String(copies),
    itemWidth: length(request.item.widthMm),
    itemHeight: length(request.item.heightMm),
    gap: length(request.gapMm),
    printableWidth: length(request.printableWidthMm),
    tolerance: length(request.toleranceMm),
    promise: String(Number((100 * request.promise).toFixed(6))),
    outline: request.outline,
    mayTurn: request.mayTurn,
    lanes: String(request.lanes),
    laneGap: length(request.laneGapMm),
    centreLastRow: request.centreLastRow,
    markRoom: length(request.markRoomMm),
    lead: length(request.leadMm),
    tail: length(request.tailMm),
    correctCreep: request.correctCreep,
  };
}

/** The cut file of one item, as it was read. */
export interface ItemFile {
  readonly name: string;
  readonly content: string;
  readonly cutLengthMm: number | null;
}

/** A run that a plan starts from: the whole of it again, or the rest. */
export interface PlannedFrom {
  /** Under which what is typed is kept in this browser. */
  readonly key: string;
  readonly fields: PlanFields;
  /** What it was cut along; null when that was its outline. */
  readonly item: ItemFile | null;
}

export function plannedFrom(
  run: Pick<Run, 'id' | 'label' | 'name' | 'plan' | 'itemFile'>,
  /** Copies to plan when it is the rest; null for all of them again. */
  rest: number | null,
  setup: Setup,
  unit: LengthUnit,
): PlannedFrom {
  const { request, imposition } = run.plan;
  return {
    key: rest === null ? `again ${run.id}` : `rest ${run.id} ${rest}`,
    fields: fieldsOf({ name: run.name, request, copies: rest ?? imposition.copies }, setup, unit),
    item:
      run.itemFile === null
        ? null
        : {
            name: `the item of ${run.label}`,
            content: run.itemFile,
            cutLengthMm: request.cutLengthMm ?? null,
          },
  };
}

const LENGTHS = [
  'cutSpeed',
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
  const print = Number(fields.printSpeed.replace(',', '.'));
  const printSpeed =
    fields.printSpeed.trim() !== '' && Number.isFinite(print)
      ? longField(longToMm(print, from), to)
      : fields.printSpeed;
  return { ...fields, ...Object.fromEntries(lengths), printSpeed, typingStep: to === 'mm' ? '1' : '0.01' };
}

export const writeDraft = (fields: PlanFields, unit: LengthUnit): string => JSON.stringify({ unit, fields });
