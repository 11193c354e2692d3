import { deedOf, toType, type Deed } from '@/core/setup';
import { capital, fixed, lengthFigure, placesOfStep, type LengthUnit } from '@/core/units';
import { setupState, type PlumbState, type SetupState } from '@/core/verdict';
import type { BenchSetup } from '@/server/setups/bench';
import type { Rig, SetupSetting } from '@/server/setups/setup';
import { UNIT_WORDS } from '@/core/correction/unitWords';
import type { TaskView } from '@/features/forms/acts/nextSteps';
import { actsOf, type ActView } from '@/features/forms/acts/setupActs';
import { dateText } from '@/clock/dates';
import { sizeWords } from '@/ui/words/sizeWords';

export interface WantedFigure {
  readonly settingId: string;
  readonly name: string;
  readonly figure: string;
  readonly deed: Deed;
}

export interface SetupRowView {
  readonly id: string;
  readonly media: string;
  readonly about: string;
  readonly stands: SetupState;
  readonly r95: string | null;
  readonly allowed: string;
  readonly wants: readonly WantedFigure[];
  /** What is likeliest done with it. */
  readonly act: ActView;
  /** Its act is the next one of the rig. */
  readonly next: boolean;
}

export interface RigView {
  readonly answer: string;
  /** The settings, in the order in which they are typed. */
  readonly settings: readonly {
    readonly id: string;
    readonly name: string;
    readonly unit: string;
    /** What the machine shows; null where it keeps one for each medium. */
    readonly shows: string | null;
  }[];
  readonly rows: readonly SetupRowView[];
}

const figureOf = (s: SetupSetting, value: number): string => fixed(value, placesOfStep(s.step));

/** What a rig’s home says: one table of what its machine shows and what each of its setups wants. */
export function rigView(
  rig: Rig,
  setups: readonly BenchSetup[],
  unit: LengthUnit,
  /** What waits on it, the most urgent first. */
  steps: readonly TaskView[] = [],
): RigView {
  const [next] = steps;
  return {
    answer: next ? `${answer(rig, setups)} ${next.act}: ${next.why}.` : answer(rig, setups),
    settings: (rig.setups[0]?.settings ?? []).map((s) => ({
      id: s.id,
      name: s.name,
      unit: UNIT_WORDS[s.unit],
      shows: s.kept === 'per-medium' ? null : figureOf(s, s.value),
    })),
    rows: setups.map((s) => row(s, rig.onIt?.setupId === s.setup.id, unit, steps)),
  };
}

function row(own: BenchSetup, onIt: boolean, unit: LengthUnit, steps: readonly TaskView[]): SetupRowView {
  const mine = steps.filter((t) => t.setupId === own.setup.id);
  const { setup, history } = own;
  const stands = setupState(own);
  const last = history.at(-1);
  const lately =
    stands.state && last
      ? `${last.proved ? 'proved' : last.kind === 'quick-check' ? 'checked' : 'measured'} ${dateText(last.at, 'd MMM')}`
      : stands.unknown!;
  return {
    id: setup.id,
    media: setup.label ? `${setup.media}, ${setup.label}` : setup.media,
    about: `${sizeWords(setup, unit)}, ${onIt ? 'on it now' : lately}`,
    stands,
    r95: stands.state ? lengthFigure(stands.r95Mm, unit) : null,
    allowed: lengthFigure(setup.toleranceMm, unit),
    wants: setup.settings.map((s) => ({
      settingId: s.id,
      name: s.name,
      figure: figureOf(s, s.wanted),
      deed: deedOf(s),
    })),
    act: actsOf(own, mine, toType(setup.settings).length > 0)[0]!,
    next: steps[0]?.setupId === setup.id,
  };
}

/** How many are plumb, and which of them needs somebody first. */
function answer(rig: Rig, setups: readonly BenchSetup[]): string {
  if (setups.length === 0) return 'Nothing is on this rig: put a medium on it.';
  const standing = (state: PlumbState | null) => setups.filter((s) => setupState(s).state === state);
  const out = standing('out-of-plumb');
  const leaning = standing('leaning');
  const unknown = standing(null);
  const parts = [
    ...(out.length > 0
      ? [
          `${names(out)} ${are(out)} out of plumb: calibrate before ${it(out)} run${out.length > 1 ? '' : 's'}`,
        ]
      : []),
    ...(leaning.length > 0 ? [`${names(leaning)} ${are(leaning)} leaning`] : []),
    ...(unknown.length > 0 ? [`${names(unknown)} ${has(unknown)} not been proved`] : []),
  ];
  const rest = setups.length - out.length - leaning.length - unknown.length;
  if (parts.length === 0)
    return setups.length === 1
      ? `${capital(names(setups))} is plumb.`
      : `All ${setups.length} setups of this rig are plumb.`;
  const sentence = capital(parts.join('; '));
  return rest > 0
    ? `${sentence}. The ${rest > 1 ? `other ${rest} are` : 'other one is'} plumb.`
    : `${sentence}.`;
}

const are = (list: readonly unknown[]): string => (list.length > 1 ? 'are' : 'is');
const has = (list: readonly unknown[]): string => (list.length > 1 ? 'have' : 'has');
const it = (list: readonly unknown[]): string => (list.length > 1 ? 'they' : 'it');

function names(list: readonly BenchSetup[]): string {
  const all = list.map((s) => s.setup.media);
  return all.length < 2 ? (all[0] ?? '') : `${all.slice(0, -1).join(', ')} and ${all.at(-1)!}`;
}
