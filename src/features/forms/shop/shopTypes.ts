import type { EffectDirection, SettingKind, SettingUnit } from '@/core/correction';
import type { Heading } from '@/core/daily';
import type { MediaClass } from '@/core/drift';
import type { Corner, LaidBy, LeadSign, MarkShape, Side } from '@/core/marks';
import type { Changeable, Grip, Kept, MachineRole, MachineWords } from '@/core/setup';

/*
 * A rig and its setup as typed: what the server takes under the server's own names, but every figure as text, in the user's
 * units, until it is read. So what it refuses is already called as its field is.
 */

type Texts<K extends string> = Record<K, string>;

/** Figures are in the machine's own unit, lengths in the user's. */
export interface SettingFields extends Texts<
  'name' | 'step' | 'value' | 'min' | 'max' | 'anchorXMm' | 'anchorYMm' | 'nominalMm'
> {
  id?: string;
  kind: SettingKind;
  unit: SettingUnit;
  display: 'signed' | 'sign-and-size';
  kept: Kept;
  on: MachineRole;
  words: MachineWords;
  /** Not known yet: it is pushed once before anything is typed into it. */
  direction: EffectDirection | 'unknown';
}

export interface MarkFields extends Texts<
  | 'count'
  | 'colour'
  | 'sizeMm'
  | 'lineMm'
  | 'insetLeftMm'
  | 'insetRightMm'
  | 'insetNearMm'
  | 'insetFarMm'
  | 'clearMm'
  | 'everyMm'
  | 'printerEdgeMm'
  | 'sensorEdgeMm'
> {
  shape: MarkShape;
  /** By side and by corner; empty: as all. */
  clearSidesMm: Record<Side, string>;
  shapes: Record<Corner, MarkShape | ''>;
  frame: boolean;
  laidBy: LaidBy;
  leading: Corner;
  leadSign: LeadSign;
}

export interface RecipeFields extends Texts<
  'tray' | 'face' | 'paperType' | 'quality' | 'scalePercent' | 'warmUp' | 'room'
> {
  borderless: boolean;
}

export interface RollFields extends Texts<'leadMm' | 'tailMm' | 'rollerMm' | 'rollerEdgeMm' | 'longestMm'> {
  testCutTurned: boolean;
}

/** How cut files lie on the sheet; x empty: not told. */
export interface FrameFields {
  xRuns: Heading | '';
  yRuns: Heading | '';
  zero: { at: Corner | 'mark' | 'middle' | 'typed'; xMm: string; yMm: string };
}

/** Rig and setup in one: a form shows the part that it is about. Ids are empty where there is none. */
export interface ShopFields extends Texts<
  | 'name'
  | 'printer'
  | 'cutter'
  | 'media'
  | 'label'
  | 'sheetWidthMm'
  | 'sheetHeightMm'
  | 'marginLeftMm'
  | 'marginNearMm'
  | 'areaWidthMm'
  | 'areaHeightMm'
  | 'toleranceMm'
  | 'driverWidthMm'
  | 'driverHeightMm'
  | 'toolId'
  | 'matId'
> {
  changeable: Changeable;
  fileFrame: FrameFields;
  mediaClass: MediaClass;
  grip: Grip | '';
  mirrored: boolean;
  settings: SettingFields[];
  marks: MarkFields;
  /** Somebody said which marks there are, none among them: two machines without are not taken silently. */
  marksTold: boolean;
  recipe: RecipeFields;
  roll: RollFields;
}
