import type { EffectDirection, SettingKind, SettingUnit } from '@/core/correction';
import type { Heading } from '@/core/daily';
import type { MediaClass } from '@/core/drift';
import type { Corner, LaidBy, LeadSign, MarkShape } from '@/core/marks';
import type { Changeable, Grip, Kept, MachineRole, MachineWords } from '@/core/setup';

/** A rig and its setup as typed: every figure is text, in the user's units, until it is read. */
export interface SettingFields {
  id?: string;
  name: string;
  kind: SettingKind;
  unit: SettingUnit;
  step: string;
  value: string;
  min: string;
  max: string;
  display: 'signed' | 'sign-and-size';
  kept: Kept;
  on: MachineRole;
  words: MachineWords;
  /** Not known yet: it is pushed once before anything is typed into it. */
  direction: EffectDirection | 'unknown';
  anchorX: string;
  anchorY: string;
  nominal: string;
}

export interface MarkFields {
  count: string;
  shape: MarkShape;
  size: string;
  line: string;
  colour: string;
  insetLeft: string;
  insetRight: string;
  insetNear: string;
  insetFar: string;
  clear: string;
  /** By side and by corner; empty: as all. */
  clearLeft: string;
  clearRight: string;
  clearNear: string;
  clearFar: string;
  shapeNearLeft: string;
  shapeNearRight: string;
  shapeFarLeft: string;
  shapeFarRight: string;
  frame: boolean;
  laidBy: LaidBy;
  leading: Corner;
  leadSign: LeadSign;
  every: string;
  printerEdge: string;
  sensorEdge: string;
}

export interface RecipeFields {
  tray: string;
  face: string;
  paperType: string;
  quality: string;
  borderless: boolean;
  scalePercent: string;
  warmUp: string;
  room: string;
}

export interface RollFields {
  lead: string;
  tail: string;
  roller: string;
  rollerEdge: string;
  longest: string;
  testCutTurned: boolean;
}

/** How cut files lie on the sheet; x empty: not told. */
export interface FrameFields {
  xRuns: Heading | '';
  yRuns: Heading | '';
  zero: Corner | 'mark' | 'middle' | 'typed';
  zeroX: string;
  zeroY: string;
}

/** Rig and setup in one: a form shows the part that it is about. */
export interface ShopFields {
  name: string;
  printer: string;
  cutter: string;
  media: string;
  label: string;
  sheetWidth: string;
  sheetHeight: string;
  marginLeft: string;
  marginNear: string;
  areaWidth: string;
  areaHeight: string;
  tolerance: string;
  changeable: Changeable;
  frame: FrameFields;
  mediaClass: MediaClass;
  /** Ids; empty: none. */
  tool: string;
  mat: string;
  grip: Grip | '';
  mirrored: boolean;
  driverWidth: string;
  driverHeight: string;
  settings: SettingFields[];
  marks: MarkFields;
  recipe: RecipeFields;
  roll: RollFields;
}
