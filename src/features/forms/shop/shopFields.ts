import { type SettingKind, UNITS_OF_KIND } from '@/core/correction';

import type { UseFormReturn } from 'react-hook-form';

import type { FileFrame } from '@/core/daily';
import { NEW_ROLL_KIT } from '@/core/layout';
import { fieldLength, fixed, type LengthUnit, placesOfStep } from '@/core/units';
import type { Rig, Setup } from '@/server/setups/setup';

import type { FrameFields, SettingFields, MarkFields, ShopFields } from './shopTypes';

type Shown<T> = { [K in keyof T]: T[K] extends string | boolean ? T[K] : string };

/** Lengths as text in the user's unit; empty for one that is not told. What is no figure stays. */
const shown = <T extends object>(lengths: T, unit: LengthUnit): Shown<T> =>
  Object.fromEntries(
    Object.entries(lengths).map(([name, value]: [string, unknown]) => [
      name,
      typeof value === 'number' ? fieldLength(value, unit) : (value ?? ''),
    ]),
  ) as Shown<T>;

/** A setting as it is first met: which way it goes is told by whoever knows, or by a push. */
export const emptySetting = (
  name: string,
  direction: SettingFields['direction'] = 'unknown',
): SettingFields => ({
  ...{ name, kind: 'offset', unit: 'mm', step: '0.05', value: '0', min: '', max: '' },
  ...{ display: 'signed', kept: 'one', on: 'cutter', direction },
  words: { there: '', keys: '', state: '', notFirst: '', after: '' },
  ...{ anchorXMm: '0', anchorYMm: '0', nominalMm: '' },
});

/** The usual unit, direction and step when the kind of a setting is chosen. */
export function settingOfKind(kind: SettingKind): Pick<SettingFields, 'unit' | 'direction' | 'step'> {
  const step = { offset: '0.05', scale: '0.01', length: '0.1', turn: '0.01' }[kind];
  return { unit: UNITS_OF_KIND[kind][0]!, direction: 'unknown', step };
}

const emptyMarks = (unit: LengthUnit): MarkFields => ({
  ...{ count: '0', shape: 'disc', colour: '#000000', frame: false },
  ...{ laidBy: 'us', leading: 'near left', leadSign: 'larger', everyMm: '' },
  ...shown({ sizeMm: 6, lineMm: 0.5, clearMm: 4, printerEdgeMm: 5, sensorEdgeMm: 6 }, unit),
  ...shown({ insetLeftMm: 12, insetRightMm: 12, insetNearMm: 12, insetFarMm: 12 }, unit),
  clearSidesMm: { left: '', right: '', near: '', far: '' },
  shapes: { 'near left': '', 'near right': '', 'far left': '', 'far right': '' },
});

/** A4 and its usual margins, a rig that nobody described yet. */
export const emptyShop = (unit: LengthUnit): ShopFields => ({
  ...{ name: '', printer: '', cutter: '', changeable: 'settings-and-file' },
  fileFrame: frameFields(null, unit),
  settings: [emptySetting('Offset X'), emptySetting('Offset Y')],
  ...{ media: '', label: '', mediaClass: 'film', toolId: '', matId: '', grip: '', mirrored: false },
  ...shown({ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 10, marginNearMm: 15 }, unit),
  ...shown({ areaWidthMm: 190, areaHeightMm: 267, driverWidthMm: null, driverHeightMm: null }, unit),
  toleranceMm: unit === 'mm' ? '0.5' : '0.02',
  marks: emptyMarks(unit),
  marksTold: false,
  recipe: {
    ...{ tray: '', face: '', paperType: '', quality: '', borderless: false },
    ...{ scalePercent: '100', warmUp: '', room: '' },
  },
  roll: shown(NEW_ROLL_KIT, unit),
});

function frameFields(frame: FileFrame | null, unit: LengthUnit): FrameFields {
  const zero = frame?.zero;
  return {
    ...{ xRuns: frame?.xRuns ?? '', yRuns: frame?.yRuns ?? '' },
    zero: {
      at: zero === undefined ? 'near left' : zero.at === 'corner' ? zero.corner : zero.at,
      ...shown(zero?.at === 'typed' ? { xMm: zero.xMm, yMm: zero.yMm } : { xMm: 0, yMm: 0 }, unit),
    },
  };
}

const settingFields = (s: Setup['settings'][number], unit: LengthUnit): SettingFields => {
  const { id, name, kind, step, min, max, display, kept, on, words, anchor } = s;
  return {
    ...{ id, name, kind, display, kept, on, words, unit: s.unit },
    ...{ step: String(step), value: fixed(s.value, placesOfStep(step)) },
    ...{ min: min === null ? '' : String(min), max: max === null ? '' : String(max) },
    direction: s.directionKnown ? s.direction : 'unknown',
    ...shown({ anchorXMm: anchor.x, anchorYMm: anchor.y, nominalMm: s.nominalMm }, unit),
  };
};

function markFields({ marks }: Setup, unit: LengthUnit): MarkFields {
  const empty = emptyMarks(unit);
  if (marks === null) return empty;
  const { shapes = {}, clearSidesMm = {}, count, frame = false, laidBy = 'us', ...plain } = marks;
  return {
    ...shown(plain, unit),
    ...{ count: String(count), frame, laidBy },
    clearSidesMm: { ...empty.clearSidesMm, ...shown(clearSidesMm, unit) },
    shapes: { ...empty.shapes, ...shapes },
  };
}

export function shopFieldsOf(setup: Setup, unit: LengthUnit): ShopFields {
  const { workArea: area, driverPage, sheetWidthMm, sheetHeightMm, toleranceMm } = setup;
  const { name, printer, cutter, changeable, media, label, mediaClass, mirrored } = setup;
  const lengths = {
    ...{ sheetWidthMm, sheetHeightMm, toleranceMm, marginLeftMm: area.x0, marginNearMm: area.y0 },
    ...{ areaWidthMm: area.x1 - area.x0, areaHeightMm: area.y1 - area.y0 },
    ...{ driverWidthMm: driverPage?.widthMm, driverHeightMm: driverPage?.heightMm },
  };
  return {
    ...{ name, printer, cutter, changeable, media, label, mediaClass, mirrored },
    ...shown(lengths, unit),
    ...{ toolId: setup.tool?.id ?? '', matId: setup.mat?.id ?? '', grip: setup.grip ?? '' },
    fileFrame: frameFields(setup.fileFrame, unit),
    settings: setup.settings.map((s) => settingFields(s, unit)),
    marks: markFields(setup, unit),
    marksTold: true,
    recipe: { ...setup.recipe, scalePercent: String(setup.recipe.scalePercent) },
    roll: shown(setup.roll, unit),
  };
}

/** A sheet of a common size, with the margins that most printers leave. */
export function choosePaper(
  form: UseFormReturn<ShopFields>,
  { widthMm, heightMm }: { readonly widthMm: number; readonly heightMm: number },
  unit: LengthUnit,
): void {
  const lengths = {
    ...{ sheetWidthMm: widthMm, sheetHeightMm: heightMm, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: widthMm - 20, areaHeightMm: heightMm - 30 },
  };
  for (const [name, mm] of Object.entries(lengths))
    form.setValue(name as keyof typeof lengths, fieldLength(mm, unit), { shouldDirty: true });
}

/** A rig’s own part; of its setups it shows nothing. */
export function rigFieldsOf(rig: Rig, unit: LengthUnit): ShopFields {
  const first = rig.setups[0];
  const { name, printer, cutter, changeable } = rig;
  const own = { name, printer, cutter, changeable, fileFrame: frameFields(rig.fileFrame, unit) };
  return first ? { ...shopFieldsOf(first, unit), ...own } : { ...emptyShop(unit), ...own, settings: [] };
}

/** Another setup like this one, whose medium is still to be named. */
export const anotherFieldsOf = (setup: Setup, unit: LengthUnit): ShopFields => ({
  ...shopFieldsOf(setup, unit),
  media: '',
  label: '',
  // How it wants to be held and whether it is printed reversed belong to the medium, which is another one.
  grip: '',
  mirrored: false,
});
