import { DIRECTIONS_OF_KIND, type EffectDirection, type Push, type SettingChange } from '@/core/correction';
import { UNIT_WORDS } from '@/core/correction/unitWords';
import { lengthText, type LengthUnit } from '@/core/units';
import type { SetupSetting } from '@/server/setups/setup';
import { howToType } from '@/ui/words/settingWords';

import { movesWords, settingFigure, stretchWords, typingNote } from './sentences';

export interface SettingView {
  readonly id: string;
  readonly name: string;
  readonly unit: string;
  readonly from: string;
  readonly to: string;
  readonly changed: boolean;
  /** What the change does: “Moves the cut 0.20 mm right.”. */
  readonly moves: string;
  /** How it is typed on its machine, in the machine’s own words. */
  readonly how: readonly string[];
  readonly note: string | null;
  readonly clamped: string | null;
}

/** A setting that is pushed once, and the ways that may go. */
export interface PushView extends SettingView {
  readonly value: number;
  readonly ways: readonly EffectDirection[];
}

/** What to type into a setting of which nobody knows the way. */
export function pushView(push: Push, settings: readonly SetupSetting[], unit: LengthUnit): PushView {
  const setting = settings.find((s) => s.id === push.settingId)!;
  const { exMm, eyMm } = setting.effect;
  const byMm = Math.abs(push.to - push.from) * Math.hypot(exMm, eyMm);
  const view = settingView(
    { ...push, ...{ movesXMm: 0, movesYMm: 0, clamped: false, questioned: false } },
    settings,
    unit,
  );
  return {
    ...view,
    moves: setting.kind === 'offset' ? `A push of ${lengthText(byMm, unit)}.` : 'A push.',
    ...{ value: push.to, ways: DIRECTIONS_OF_KIND[setting.kind] },
  };
}

/** A setting as Correct shows it: from, to, how it is typed, and what to mind. */
export function settingView(
  c: SettingChange,
  settings: readonly SetupSetting[],
  unit: LengthUnit,
): SettingView {
  const setting = settings.find((s) => s.id === c.settingId)!;
  return {
    id: c.settingId,
    name: setting.name,
    unit: UNIT_WORDS[setting.unit],
    from: settingFigure(setting, c.from),
    to: settingFigure(setting, c.to),
    changed: c.from !== c.to,
    moves: c.from === c.to ? 'Stays as it is.' : movesWords(c.movesXMm, c.movesYMm, unit),
    how: howToType(setting.words),
    note:
      [typingNote(setting, c.from, c.to), stretchWords(setting, c.from, c.to)].filter(Boolean).join(' ') ||
      null,
    clamped: c.clamped
      ? `It would need more than the machine takes; the rest stays.`
      : c.questioned
        ? 'This moves the cut far more than there is to correct, against another setting. See first what one step of it does.'
        : null,
  };
}
