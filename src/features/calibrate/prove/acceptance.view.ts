import { ACCEPTED_RISK, type Acceptance } from '@/core/diagnosis';
import { lengthText, type LengthUnit } from '@/core/units';

/** “3 %”, “under 1 %”, “over 99 %”. */
const percent = (p: number): string =>
  p < 0.01 ? 'under 1 %' : p > 0.99 ? 'over 99 %' : `${Math.round(100 * p)} %`;

const count = (n: number, one: string, many: string): string =>
  n === 1 ? `One more ${one}` : `${n} more ${many}`;

/** What the proof decides, and how likely either mistake is. */
export function acceptanceWords(a: Acceptance, toleranceMm: number, unit: LengthUnit): string[] {
  const fewer = `fewer than 95 of 100 cuts to come stay within ${lengthText(toleranceMm, unit)}`;
  const asked = `up to ${Math.round(100 * ACCEPTED_RISK)} % is let pass`;
  if (a.mayBeOffMm === null)
    return [
      `It does not pass: loads alone differ so much that ${fewer}, and no correction helps. Hold the media and its marks steadier, or allow more.`,
    ];
  if (a.says === 'proved')
    return [`It passes: the chance that ${fewer} all the same is ${percent(a.outChance)}; ${asked}.`];
  if (a.says === 'failed')
    return [
      `It does not pass: the chance that ${fewer} is ${percent(a.outChance)}; ${asked}. Failing it is wrong with a chance of ${percent(1 - a.outChance)}.`,
    ];
  return [
    `Not decided: the chance that ${fewer} is ${percent(a.outChance)}; ${asked}. Passing it now would be wrong as often as that, failing it with ${percent(1 - a.outChance)}.`,
    whatDecides(a),
  ];
}

function whatDecides({ wouldDecide: { stations, loads } }: Acceptance): string {
  const same = 'if it says the same';
  const more = [
    ...(stations === null ? [] : [count(stations, 'station on this sheet', 'stations on this sheet')]),
    ...(loads === null ? [] : [count(loads, 'load like it', 'loads like it')]),
  ];
  if (more.length === 0) return 'More readings of the same would not decide it: correct it, or allow more.';
  return `${more.join(', or ').replace(', or One', ', or one')} would decide it, ${same}.`;
}
