import type { Assessment } from '@/core/calibration';
import type { CorrectionPlan } from '@/core/correction';
import { decompose, fieldToTransform, TERM_NAMES, type TermName, type TermRow } from '@/core/fit';
import {
  angleFigure,
  fixed,
  lengthText,
  offsetText,
  placesOfStep,
  type LengthUnit,
  type OffsetAxis,
} from '@/core/units';
import { STATE_WORDS } from '@/core/verdict';
import type { SetupSetting } from '@/server/setups/setup';
import type { Changeable } from '@/core/setup';
import { UNIT_WORDS } from '@/core/correction/unitWords';
import { termText, TERM_WORDS } from '@/ui/words/termWords';

/** “0.31 mm right and 0.12 mm back”. */
export function shiftWords(xMm: number, yMm: number, unit: LengthUnit): string {
  const across = offsetText(xMm, 'across', unit);
  const along = offsetText(yMm, 'along', unit);
  const parts = [across, along].filter((words) => Number.parseFloat(words) !== 0);
  return parts.length === 0 ? 'on the print' : parts.join(' and ');
}

/** Half-width of an interval, in the unit of its term. */
export function termWidth(term: TermName, halfWidth: number, unit: LengthUnit): string {
  if (term === 'shiftXMm' || term === 'shiftYMm') return `±${lengthText(halfWidth, unit)}`;
  return term.startsWith('scale') ? `±${fixed(halfWidth * 100, 2)} %` : `±${angleFigure(halfWidth)}`;
}

/** A machine's figure, to the places of its step. */
export const settingFigure = (setting: SetupSetting, value: number): string =>
  fixed(value, placesOfStep(setting.step));

/**
 * What to press, spelled out where people slip: crossing zero, and machines that show sign and size apart.
 * Null when the figure alone says it.
 */
export function typingNote(setting: SetupSetting, from: number, to: number): string | null {
  const size = settingFigure(setting, Math.abs(to));
  const crosses = from * to < 0;
  const sign = to < 0 ? 'minus' : 'plus';
  if (setting.display === 'sign-and-size') {
    if (to === 0) return 'Set the size to 0; its sign does not matter.';
    return crosses || from === 0
      ? `Set the sign to ${sign}, then the size to ${size}.`
      : `Keep ${sign}; set the size to ${size}.`;
  }
  return crosses ? `It goes through zero: the new figure is ${sign} ${size}.` : null;
}

/** What a change does: “Moves the cut 0.30 mm left and 0.10 mm back.” */
export const movesWords = (xMm: number, yMm: number, unit: LengthUnit): string =>
  `Moves the cut ${shiftWords(xMm, yMm, unit)}.`;

/** What is known so far, in a word or two. */
export const stateWords = ({ state, axis }: Pick<Assessment, 'state' | 'axis'>): string =>
  state ? STATE_WORDS[state] : `${axis === 'along' ? 'Along the feed' : 'Across'} only`;

/** The axis that was read, and the one that was not. */
const axesOf = (axis: OffsetAxis): readonly [string, string] =>
  axis === 'across' ? ['across', 'along the feed'] : ['along the feed', 'across'];

/** What to do when only one axis was read. */
function oneAxisAnswer(
  { plan }: Assessment,
  axis: OffsetAxis,
  can: { readonly typed: readonly string[]; readonly unknown: readonly string[]; readonly file: boolean },
  unit: LengthUnit,
): string {
  const [read, other] = axesOf(axis);
  const where = `Read ${read} only: there the cut lands ${shiftWords(plan.field.exMm, plan.field.eyMm, unit)}`;
  if (plan.decision === 'leave')
    return `${where}, which is no more than reading and loading scatter. Leave it alone ${read}, and read ${other} too.`;
  if (can.unknown.length > 0 && !can.file)
    return `${where}. Which way ${listed(can.unknown)} moves it is not known yet, and one axis cannot tell: read ${other} too.`;
  if (can.typed.length > 0 && can.unknown.length === 0)
    return `${where}. Type ${listed(can.typed)}, cut the next set, and read it ${read}; then ${other}.`;
  return can.file
    ? `${where}. Use the corrected cut file for the next set, and read it ${read}; then ${other}.`
    : `${where}. Nothing that can be typed moves it ${read} alone: read ${other} too.`;
}

/** What is to be typed, setting by setting: “X −0.30”. */
const typedWords = ({ plan }: Assessment, settings: readonly SetupSetting[]): string[] =>
  plan.settings.changes
    .filter((c) => c.from !== c.to)
    .flatMap((c) => {
      const setting = settings.find((s) => s.id === c.settingId)!;
      if (!setting.directionKnown) return [];
      const sign = setting.unit === 'mm' || setting.unit === 'in' ? '' : ` ${UNIT_WORDS[setting.unit]}`;
      return `${setting.name} ${settingFigure(setting, c.to)}${sign}`;
    });

/** The one sentence at the top of Correct. */
export function correctAnswer(
  a: Assessment,
  settings: readonly SetupSetting[],
  rows: readonly TermRow[],
  unit: LengthUnit,
  changeable: Changeable = 'settings-and-file',
): string {
  const { plan } = a;
  const where = `The cut lands ${shiftWords(plan.field.exMm, plan.field.eyMm, unit)}`;
  const suspects = a.ladder.suspects.map((s) => `${s.stationId} ${s.axis}`);
  if (suspects.length > 0)
    return `Look at ${some(suspects)} again: ${suspects.length > 1 ? 'they do' : 'it does'} not go with the other readings.`;
  if (plan.decision === 'leave' && !a.axis)
    return `Leave it alone. ${where}: no more than reading and loading scatter.`;
  const linear = rows
    .filter((r) => r.real && !r.term.startsWith('shift'))
    .sort((p, q) => q.atWorstMm - p.atWorstMm)[0];
  const also = linear ? `, with ${linearWords(linear, unit)}` : '';
  if (changeable === 'machine-page')
    return `${where}${also}. Run the machine’s own calibration, then prove it here.`;
  const unknown = settings.filter((s) => !s.directionKnown).map((s) => s.name);
  const file = changeable === 'settings-and-file' || changeable === 'file';
  if (a.axis) return oneAxisAnswer(a, a.axis, { typed: typedWords(a, settings), unknown, file }, unit);
  const typed = typedWords(a, settings);
  if (unknown.length > 0 && (changeable === 'settings' || changeable === 'settings-and-file'))
    return `${where}. ${typed.length > 0 ? `Type ${listed(typed)}, and push` : 'Push'} ${listed(unknown)} once: which way ${unknown.length > 1 ? 'they go' : 'it goes'} is not known yet.`;
  if (typed.length === 0 && !file)
    return `${where}${also}. Nothing can be changed on this rig: ${lengthText(plan.bleed.of95Mm, unit)} of bleed hides it on 95 of 100 cuts.`;
  if (typed.length === 0) return `${where}${also}. Use the corrected cut file.`;
  return `${where}. Type ${listed(typed)}.`;
}

/** What the figures do not reach, as it is asked about: “turn of 0.09° anticlockwise”. */
export function restWords(
  rows: readonly TermRow[],
  parts: ReturnType<typeof whereTermsGo>,
  unit: LengthUnit,
): string {
  const row = rows
    .filter((r) => r.real && parts[r.term] !== 'type it' && !r.term.startsWith('shift'))
    .sort((p, q) => q.atWorstMm - p.atWorstMm)[0];
  return row ? linearWords(row, unit).replace(/^a /, '') : 'rest';
}

/** At most three by name. */
const some = (names: readonly string[]): string =>
  names.length > 3 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : listed(names);

/** “a”, “a and b”, “a, b and c”. */
const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/** What one setting's change does at the worst of the work area, in words: “the cut becomes 0.06 % narrower”. */
export function stretchWords(setting: SetupSetting, from: number, to: number): string | null {
  const by = to - from;
  if (setting.kind === 'offset' || by === 0) return null;
  const { b11, b21, b22 } = setting.effect;
  if (setting.kind === 'turn') return `Turns the cut ${termText('turnRad', by * b21, 'mm')}.`;
  const share = by * (b11 === 0 ? b22 : b11);
  const words = `${fixed(Math.abs(share) * 100, 3)} % `;
  const [more, less] = b11 === 0 ? ['longer', 'shorter'] : ['wider', 'narrower'];
  return `Makes the cut ${words}${share > 0 ? more : less}.`;
}

/** “a scale of 0.14 % long”, “a turn of 0.05° clockwise”. */
function linearWords(row: TermRow, unit: LengthUnit): string {
  const words = termText(row.term, row.deviation, unit);
  return row.term.startsWith('scale') ? `a scale of ${words}` : `a ${TERM_WORDS[row.term]} of ${words}`;
}

/** The one sentence at the top of Prove, once it has been read. */
export function proveAnswer(a: Assessment, toleranceMm: number, unit: LengthUnit): string {
  if (!a.state) {
    const [read, other] = axesOf(a.axis ?? 'across');
    return `95 of 100 cuts stay within ${lengthText(a.r95Mm, unit)} of their print ${read}, allowed ${lengthText(toleranceMm, unit)}. Read ${other} too: only both say whether the rig is plumb.`;
  }
  const within = `95 of 100 cuts stay within ${lengthText(a.r95Mm, unit)}`;
  const allowed = `allowed ${lengthText(toleranceMm, unit)}`;
  const place =
    a.scope === 'one-place'
      ? ' at the place that was read'
      : a.scope === 'shift-only'
        ? ', as far as these stations tell'
        : '';
  const next =
    a.state === 'plumb'
      ? 'Run it.'
      : a.state === 'leaning'
        ? 'It will do, but watch it.'
        : 'Do not run it: go round again.';
  return `${STATE_WORDS[a.state]}: ${within}${place}, ${allowed}. ${next}`;
}

/** Where each term goes: typed into the machine, put into the file, left, or nowhere because it comes new with every load. The two never correct the same thing twice. */
export function whereTermsGo(
  plan: Pick<CorrectionPlan, 'field' | 'settings' | 'load'>,
  inFile: boolean,
): Readonly<Record<TermName, 'type it' | 'in the file' | 'type and file' | 'leave it' | 'new each load'>> {
  const found = termDeviations(plan.field);
  const left = termDeviations(plan.settings.leftOver);
  const place = (term: TermName) => {
    if (term === 'turnRad' && plan.load.turnRad > 0) return 'new each load';
    const share = found[term] === 0 ? 1 : Math.abs(left[term] / found[term]);
    if (share < 0.25) return 'type it';
    if (share > 0.9) return inFile ? 'in the file' : 'leave it';
    return inFile ? 'type and file' : 'type it';
  };
  return Object.fromEntries(TERM_NAMES.map((t) => [t, place(t)])) as ReturnType<typeof whereTermsGo>;
}

function termDeviations(field: CorrectionPlan['field']): Record<TermName, number> {
  const linear = decompose(fieldToTransform(field));
  return {
    shiftXMm: field.exMm,
    shiftYMm: field.eyMm,
    turnRad: linear.turnRad,
    scaleAcross: linear.scaleAcross - 1,
    scaleAlong: linear.scaleAlong - 1,
    leanRad: linear.leanRad,
  };
}

/** What the rig's own marks have taken out before anything was read. */
export function registrationWords(marks: number): string {
  switch (marks) {
    case 0:
      return 'No marks: all that was read comes from the rig.';
    case 1:
      return 'One mark has taken out the shift of this load. How squarely it was laid in comes new with every load, so a turn is not corrected: lay the media in squarely.';
    case 2:
      return 'Two marks have taken out shift, turn and one scale of this load: what was read is left over after that, and stays with the rig.';
    default:
      return `${marks} marks have taken out shift, turn, scales and lean of this load: what was read is left over after that, and stays with the rig.`;
  }
}
