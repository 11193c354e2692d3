import type { Assessment } from '@/core/calibration';
import type { TermName, TermRow } from '@/core/fit';
import { angleFigure, fixed, lengthText, offsetText, placesOfStep, type LengthUnit } from '@/core/units';
import { STATE_WORDS } from '@/core/verdict';
import type { RigSetting } from '@/server/rigs';

/** “0.31 mm right and 0.12 mm back”. */
export function shiftWords(xMm: number, yMm: number, unit: LengthUnit): string {
  const across = offsetText(xMm, 'across', unit);
  const along = offsetText(yMm, 'along', unit);
  const parts = [across, along].filter((words) => Number.parseFloat(words) !== 0);
  return parts.length === 0 ? 'on the print' : parts.join(' and ');
}

export const TERM_WORDS: Readonly<Record<TermName, string>> = {
  shiftXMm: 'shift across',
  shiftYMm: 'shift along',
  turnRad: 'turn',
  scaleAcross: 'scale across',
  scaleAlong: 'scale along',
  leanRad: 'lean',
};

/** A term's deviation in its own unit, with a word for its sign: “0.31 mm right”, “0.14 % long”. */
export function termText(term: TermName, deviation: number, unit: LengthUnit): string {
  switch (term) {
    case 'shiftXMm':
      return offsetText(deviation, 'across', unit);
    case 'shiftYMm':
      return offsetText(deviation, 'along', unit);
    case 'scaleAcross':
      return worded(`${fixed(Math.abs(deviation) * 100, 2)} %`, deviation, 'wide', 'narrow');
    case 'scaleAlong':
      return worded(`${fixed(Math.abs(deviation) * 100, 2)} %`, deviation, 'long', 'short');
    case 'turnRad':
      return worded(angleFigure(Math.abs(deviation)), deviation, 'anticlockwise', 'clockwise');
    case 'leanRad':
      return worded(angleFigure(Math.abs(deviation)), deviation, 'to the right', 'to the left');
    default:
      return term satisfies never;
  }
}

const worded = (size: string, sign: number, plus: string, minus: string): string =>
  Number.parseFloat(size) === 0 ? size : `${size} ${sign > 0 ? plus : minus}`;

/** Half-width of an interval, in the unit of its term. */
export function termWidth(term: TermName, halfWidth: number, unit: LengthUnit): string {
  if (term === 'shiftXMm' || term === 'shiftYMm') return `±${lengthText(halfWidth, unit)}`;
  return term.startsWith('scale') ? `±${fixed(halfWidth * 100, 2)} %` : `±${angleFigure(halfWidth)}`;
}

/** A machine's figure, to the places of its step. */
export const settingFigure = (setting: RigSetting, value: number): string =>
  fixed(value, placesOfStep(setting.step));

/**
 * What to press, spelled out where people slip: crossing zero, and machines that show sign and size apart.
 * Null when the figure alone says it.
 */
export function typingNote(setting: RigSetting, from: number, to: number): string | null {
  const size = settingFigure(setting, Math.abs(to));
  const crosses = from * to < 0;
  const sign = to < 0 ? 'minus' : 'plus';
  if (setting.display === 'sign-and-size') {
    if (to === 0) return 'Set the size to 0; its sign does not matter.';
    return crosses || from === 0
      ? `Set the sign to ${sign}, then the size to ${size}.`
      : `The sign stays ${sign}; set the size to ${size}.`;
  }
  return crosses ? `It goes through zero: the new figure is ${sign} ${size}.` : null;
}

/** What a change does: “Moves the cut 0.30 mm left and 0.10 mm back.” */
export const movesWords = (xMm: number, yMm: number, unit: LengthUnit): string =>
  `Moves the cut ${shiftWords(xMm, yMm, unit)}.`;

/** The one sentence at the top of Correct. */
export function correctAnswer(
  a: Assessment,
  settings: readonly RigSetting[],
  rows: readonly TermRow[],
  unit: LengthUnit,
): string {
  const { plan } = a;
  const where = `The cut lands ${shiftWords(plan.field.exMm, plan.field.eyMm, unit)}`;
  if (plan.decision === 'leave')
    return `Leave it alone. ${where}, which is no more than reading and loading scatter; 95 of 100 cuts stay within ${lengthText(a.r95Mm, unit)}.`;
  const linear = rows
    .filter((r) => r.real && !r.term.startsWith('shift'))
    .sort((p, q) => q.atWorstMm - p.atWorstMm)[0];
  const also = linear ? `, with ${linearWords(linear, unit)}` : '';
  const typed = plan.settings.changes
    .filter((c) => c.from !== c.to)
    .map((c) => {
      const setting = settings.find((s) => s.id === c.settingId)!;
      return `${setting.name} ${settingFigure(setting, c.to)}`;
    });
  if (typed.length === 0)
    return `${where}${also}. Use the corrected cut file; then 95 of 100 cuts stay within ${lengthText(plan.afterBoth.r95Mm, unit)}.`;
  const rest = plan.restWorthwhile ? ', put the rest in the file' : '';
  const after = plan.restWorthwhile ? plan.afterBoth : plan.afterSettings;
  return `${where}${also}. Type ${typed.join(' and ')}${rest}; then 95 of 100 cuts stay within ${lengthText(after.r95Mm, unit)}.`;
}

/** “a scale of 0.14 % long”, “a turn of 0.05° clockwise”. */
function linearWords(row: TermRow, unit: LengthUnit): string {
  const words = termText(row.term, row.deviation, unit);
  return row.term.startsWith('scale') ? `a scale of ${words}` : `a ${TERM_WORDS[row.term]} of ${words}`;
}

/** The one sentence at the top of Prove, once it has been read. */
export function proveAnswer(a: Assessment, toleranceMm: number, unit: LengthUnit): string {
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
