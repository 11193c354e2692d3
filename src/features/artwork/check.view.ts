import type { Finding, FindingCode } from '@/core/artwork/checks';
import { placeName, rectCentre, type Rect } from '@/core/geometry';
import { plainLength, type LengthUnit } from '@/core/units';

/** What a finding is called in a list. */
export const FINDING_WORDS: Readonly<Record<FindingCode, string>> = {
  'in-clear-zone': 'in a mark’s clear zone',
  'outside-printable': 'beyond what is printed',
  'outside-cuttable': 'beyond the cutter’s reach',
  'doubled-line': 'cut twice',
  'open-path': 'open line',
  'crosses-itself': 'crosses itself',
  'lines-cross': 'lines cut across each other',
  'pieces-overlap': 'print on another piece',
  'outside-line': 'picture outside its line',
  'line-on-blank': 'nothing printed in it',
  'print-without-line': 'printed, not cut',
  island: 'line inside a line',
  'too-small': 'very small',
  'too-near': 'very near',
  'bleed-too-small': 'too little bleed',
  'border-too-small': 'too narrow a border',
  'page-differs': 'pages differ',
  'bitmap-enlarged': 'coarse bitmap',
  'line-kind': 'kinds of lines',
  'marks-clipped': 'mark cut off',
  'marks-hard-to-read': 'mark hard to read',
  'not-this-print': 'another print',
};

/** The one sentence at the top. */
export function checkAnswer(findings: readonly Finding[], withPrint: boolean): string {
  const stops = findings.filter((f) => f.severity === 'stop').length;
  const looks = findings.length - stops;
  const things = (n: number): string => (n === 1 ? 'One thing' : `${n} things`);
  if (findings.length === 0)
    return withPrint
      ? 'Nothing to find: print it, then cut it.'
      : 'The cut file has nothing to find. Give its print too, and both are compared.';
  if (stops === 0) return `${things(looks)} to look at; nothing that spoils it.`;
  return `Do not print it yet: ${things(stops).toLowerCase()} would spoil it${looks > 0 ? `, and ${things(looks).toLowerCase()} to look at` : ''}.`;
}

/** Where a finding is, as somebody finds it on the sheet; empty where it concerns all of it. */
export function whereWords(where: Rect | null, sheet: Rect, unit: LengthUnit): string {
  if (!where) return '';
  const at = rectCentre(where);
  return `${placeName(at, sheet)}, ${plainLength(at.x, unit)} from the left, ${plainLength(at.y, unit)} from the near edge`;
}
