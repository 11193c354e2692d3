import type { ExpectedNow } from '@/server/setups/expectedNow';
import { deedOf, sizeFindings, toType, type Deed, type StandingSource } from '@/core/setup';
import { fixed, lengthFigure, lengthText, placesOfStep, type LengthUnit } from '@/core/units';
import type { Setup, SetupSetting } from '@/server/setups/setup';
import { UNIT_WORDS } from '@/core/correction/unitWords';
import { STATE_WORDS, type SetupState } from '@/core/verdict';
import type { TaskView } from '@/features/forms/acts/nextSteps';
import { howToType } from '@/ui/words/settingWords';

const figureOf = (s: SetupSetting, value: number): string => fixed(value, placesOfStep(s.step));
/** How a setup stands, and the next step of it, in a sentence or two: in the words of the Bench. */
export function setupAnswer(
  setup: Setup,
  stands: SetupState | null,
  next: Pick<TaskView, 'act' | 'why'> | null,
  unit: LengthUnit,
): string {
  const name = setup.media.charAt(0).toUpperCase() + setup.media.slice(1);
  if (stands === null) return `${name} is put away.`;
  const state = stands.state
    ? `is ${STATE_WORDS[stands.state].toLowerCase()}, ${lengthFigure(stands.r95Mm, unit)} of ${lengthText(setup.toleranceMm, unit)}`
    : stands.unknown === 'not proved yet'
      ? 'is not proved yet'
      : 'was never measured';
  // “Never measured” says why it is calibrated.
  if (next && stands.unknown !== null && next.why.endsWith(stands.unknown))
    return `${name} ${state}. ${next.act}${next.why.startsWith('then ') ? ', then calibrate it' : ' it'}.`;
  if (next) return `${name} ${state}. ${next.act}: ${next.why}.`;
  return toType(setup.settings).length > 0
    ? `${name} ${state}. Change over to it before it runs.`
    : `${name} ${state}.`;
}

/** What it wants of its machines, figure by figure, and whether they show it. */
export const wantedFigures = (setup: Setup) =>
  setup.settings.map((s) => ({
    id: s.id,
    name: s.name,
    unit: UNIT_WORDS[s.unit],
    wants: figureOf(s, s.wanted),
    /** What the machine shows where that is something else; null else. */
    shows: deedOf(s) === 'type' ? figureOf(s, s.value) : null,
  }));

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
