import type { ExpectedNow } from '@/server/setups/expectedNow';
import { deedOf, sizeFindings, toType, type Deed, type StandingSource } from '@/core/setup';
import { fixed, lengthText, placesOfStep, type LengthUnit } from '@/core/units';
import type { Setup, SetupSetting } from '@/server/setups/setup';
import { UNIT_WORDS } from '@/core/correction/unitWords';
import { howToType, noFiguresWords } from '@/ui/words/settingWords';

const figureOf = (s: SetupSetting, value: number): string => fixed(value, placesOfStep(s.step));
const figure = (s: SetupSetting, value: number): string => `${figureOf(s, value)} ${UNIT_WORDS[s.unit]}`;

const list = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)!}`;

/** What has to be so before a setup runs, in one sentence. */
export function setupAnswer(setup: Setup): string {
  if (setup.settings.length === 0) return noFiguresWords(setup.changeable);
  const wrong = toType(setup.settings);
  if (wrong.length === 0)
    return `The machine shows what ${setup.media} wants: ${list(setup.settings.map((s) => `${s.name} ${figure(s, s.wanted)}`))}.`;
  const type = list(wrong.map((s) => `${s.name} ${figure(s, s.wanted)}`));
  const shows = list(wrong.map((s) => figureOf(s, s.value)));
  return `Before ${setup.media} runs, type ${type}: the machine shows ${shows} now.`;
}

/** What does not go together about sheet, driver, mat and cutter. */
export const findingsOf = (setup: Setup): string[] =>
  sizeFindings({
    sheet: { widthMm: setup.sheetWidthMm, heightMm: setup.sheetHeightMm },
    workArea: setup.workArea,
    driverPage: setup.driverPage,
    reachMm: setup.reachMm,
    mat: setup.mat,
    grip: setup.grip,
  });

/** Where a standing correction came from. */
export const SOURCE_WORDS: Readonly<Record<StandingSource, string>> = {
  'as-found': 'as found',
  proved: 'proved',
  accepted: 'accepted, not proved',
  'taken-back': 'an earlier one, taken back',
};

export interface ChangeRow {
  readonly id: string;
  readonly name: string;
  readonly unit: string;
  readonly deed: Deed;
  readonly from: string;
  readonly to: string;
  readonly wanted: number;
  /** A minus comes or goes: easily missed on a machine that shows sign and size apart. */
  readonly crossesZero: boolean;
  /** Which machine it is typed into. */
  readonly machine: string;
  /** How it is done there, a sentence each; empty where nobody noted it. */
  readonly how: readonly string[];
}

/** The rows of a change-over card: to type first, then to leave, then only to look at. */
export function changeRows(setup: Setup): ChangeRow[] {
  const order: readonly Deed[] = ['type', 'leave', 'look'];
  return setup.settings
    .map((s) => ({
      id: s.id,
      name: s.name,
      unit: UNIT_WORDS[s.unit],
      deed: deedOf(s),
      from: figureOf(s, s.value),
      to: figureOf(s, s.wanted),
      wanted: s.wanted,
      crossesZero: s.value * s.wanted < 0,
      machine: s.on === 'printer' ? setup.printer : setup.cutter,
      how: howToType(s.words),
    }))
    .toSorted((a, b) => order.indexOf(a.deed) - order.indexOf(b.deed));
}

/** What the log expects of the next load, before anything is read of it. */
export function nextWords(next: ExpectedNow, unit: LengthUnit): string {
  const within = lengthText(next.r95Mm, unit);
  return next.by === 'own-loads'
    ? `As it stands, 95 of 100 cuts within ${within} today, by ${next.loads} loads on record and the days since.`
    : `Nothing of this medium is on record. The rig’s ${next.media} others lead to expect its first cut within ${within} of the print.`;
}
