import { kindsMet, type Cutting, type JobGeometry, type LineKind } from '@/core/sheetJob';
import { accept, refuse, type Outcome } from '@/core/outcome';

import { KIND_WORDS } from './kindWords';

/* How a print is cut, as it is typed and as it is said. */

type Left = Cutting['left'];
type Sheets = readonly (readonly unknown[])[];

/** “3, 7-9” of the only sheet, “2.3, 2.7-9” of the second: the pieces that are left, or what is wrong with it. */
export function readLeft(text: string, sheets: Sheets): Outcome<Left, string> {
  const left: { sheet: number; index: number }[] = [];
  for (const part of text.split(/[,;\s]+/).filter(Boolean)) {
    const read = /^(?:(\d{1,4})\.)?(\d{1,5})(?:[-–](\d{1,5}))?$/.exec(part);
    if (!read)
      return refuse(
        `“${part}” is no piece: give their numbers, as 3, 7-9${many(sheets) ? ', or 2.3 of sheet 2' : ''}.`,
      );
    const sheet = Number(read[1] ?? 1) - 1;
    const [from, to] = [Number(read[2]) - 1, Number(read[3] ?? read[2]) - 1];
    const count = sheets[sheet]?.length;
    if (count === undefined) return refuse(`“${part}”: there are ${sheets.length} sheets.`);
    if (from < 0 || to < from || to >= count)
      return refuse(`“${part}”: sheet ${sheet + 1} has pieces 1 to ${count}.`);
    for (let index = from; index <= to; index += 1)
      if (!left.some((l) => l.sheet === sheet && l.index === index)) left.push({ sheet, index });
  }
  return accept(left);
}

const many = (sheets: Sheets): boolean => sheets.length > 1;

/** The same the other way about. */
export const leftText = (left: Left, sheets: Sheets): string =>
  left.map(({ sheet, index }) => `${many(sheets) ? `${sheet + 1}.` : ''}${index + 1}`).join(', ');

/** A sequence with one of the kinds that are met a place earlier. */
export function earlier(met: readonly LineKind[], kind: LineKind): LineKind[] {
  const at = met.indexOf(kind);
  if (at < 1) return [...met];
  return [...met.slice(0, at - 1), kind, met[at - 1]!, ...met.slice(at + 1)];
}

/** How a cut file is cut, in a few words; empty as laid out. */
export function cuttingWords(
  cutting: Cutting | undefined,
  geometry: Pick<JobGeometry, 'pieces' | 'sheets'>,
): string {
  if (!cutting) return '';
  const met = kindsMet(cutting, geometry);
  const kinds = met.map((kind) => {
    const pass = cutting.passes.find((p) => p.kind === kind);
    const tool = cutting.tools.find((t) => t.kind === kind)?.words;
    const times =
      pass && pass.times > 1 ? ` ${pass.times} times${pass.pause ? ', a pause between' : ''}` : '';
    return `${KIND_WORDS[kind]}${times}${tool ? ` (${tool})` : ''}`;
  });
  const left = cutting.left.length;
  return [
    kinds.join(', then '),
    ...(cutting.outerFirst ? ['outlines before holes'] : []),
    ...(left > 0
      ? [`without ${left === 1 ? 'piece' : 'pieces'} ${leftText(cutting.left, geometry.sheets)}`]
      : []),
  ].join('; ');
}
