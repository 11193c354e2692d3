import { type SettingKind, UNITS_OF_KIND } from '@/core/correction';

import type { FileFrame } from '@/core/daily';
import { NEW_ROLL_KIT } from '@/core/layout';
import type { Corner, Side } from '@/core/marks';
import { fieldLength, fixed, type LengthUnit, placesOfStep } from '@/core/units';
import type { Rig, Setup } from '@/server/setups/setup';

import type { RollKit } from '@/shapes/kits';

import type { FrameFields, SettingFields, MarkFields, RollFields, ShopFields } from './shopTypes';

export const LENGTH_FIELDS = {
  sheetWidth: 'sheetWidthMm',
  sheetHeight: 'sheetHeightMm',
  marginLeft: 'marginLeftMm',
  marginNear: 'marginNearMm',
  areaWidth: 'areaWidthMm',
  areaHeight: 'areaHeightMm',
  tolerance: 'toleranceMm',
} as const;

export const MARK_LENGTHS = {
  size: 'sizeMm',
  line: 'lineMm',
  insetLeft: 'insetLeftMm',
  insetRight: 'insetRightMm',
  insetNear: 'insetNearMm',
  insetFar: 'insetFarMm',
  clear: 'clearMm',
  printerEdge: 'printerEdgeMm',
  sensorEdge: 'sensorEdgeMm',
} as const;

/** Fields of one side or one corner. */
export const SIDE_FIELDS = {
  clearLeft: 'left',
  clearRight: 'right',
  clearNear: 'near',
  clearFar: 'far',
} as const satisfies Readonly<Record<string, Side>>;
export const CORNER_FIELDS = {
  shapeNearLeft: 'near left',
  shapeNearRight: 'near right',
  shapeFarLeft: 'far left',
  shapeFarRight: 'far right',
} as const satisfies Readonly<Record<string, Corner>>;

export const ROLL_LENGTHS = {
  lead: 'leadMm',
  tail: 'tailMm',
  roller: 'rollerMm',
  rollerEdge: 'rollerEdgeMm',
} as const;

export const SETTING_LENGTHS = { anchorX: 'anchorXMm', anchorY: 'anchorYMm', nominal: 'nominalMm' } as const;

/** A setting as it is first met: which way it goes is told by whoever knows, or by a push. */
export function emptySetting(name: string, direction: SettingFields['direction'] = 'unknown'): SettingFields {
  return {
    name,
    kind: 'offset',
    unit: 'mm',
    step: '0.05',
    value: '0',
    min: '',
    max: '',
    display: 'signed',
    kept: 'one',
    on: 'cutter',
    words: { there: '', keys: '', state: '', notFirst: '', after: '' },
    direction,
    anchorX: '0',
    anchorY: '0',
    nominal: '',
  };
}

/** The usual unit, direction and step when the kind of a setting is chosen. */
export function settingOfKind(kind: SettingKind): Pick<SettingFields, 'unit' | 'direction' | 'step'> {
  const step = { offset: '0.05', scale: '0.01', length: '0.1', turn: '0.01' }[kind];
  return { unit: UNITS_OF_KIND[kind][0]!, direction: 'unknown', step };
}

function emptyMarks(show: (mm: number) => string): MarkFields {
  return {
    count: '0',
    shape: 'disc',
    size: show(6),
    line: show(0.5),
    colour: '#000000',
    insetLeft: show(12),
    insetRight: show(12),
    insetNear: show(12),
    insetFar: show(12),
    clear: show(4),
    clearLeft: '',
    clearRight: '',
    clearNear: '',
    clearFar: '',
    shapeNearLeft: '',
    shapeNearRight: '',
    shapeFarLeft: '',
    shapeFarRight: '',
    frame: false,
    laidBy: 'us',
    leading: 'near left',
    leadSign: 'larger',
    every: '',
    printerEdge: show(5),
    sensorEdge: show(6),
  };
}

export function emptyShop(unit: LengthUnit): ShopFields {
  const show = (mm: number): string => fieldLength(mm, unit);
  return {
    name: '',
    printer: '',
    cutter: '',
    media: '',
    label: '',
    sheetWidth: show(210),
    sheetHeight: show(297),
    marginLeft: show(10),
    marginNear: show(15),
    areaWidth: show(190),
    areaHeight: show(267),
    tolerance: unit === 'mm' ? '0.5' : '0.02',
    changeable: 'settings-and-file',
    frame: frameFields(null, show),
    mediaClass: 'film',
    tool: '',
    mat: '',
    grip: '',
    mirrored: false,
    driverWidth: '',
    driverHeight: '',
    settings: [emptySetting('Offset X'), emptySetting('Offset Y')],
    marks: emptyMarks(show),
    recipe: {
      tray: '',
      face: '',
      paperType: '',
      quality: '',
      borderless: false,
      scalePercent: '100',
      warmUp: '',
      room: '',
    },
    roll: rollFields(NEW_ROLL_KIT, show),
  };
}

function frameFields(frame: FileFrame | null, show: (mm: number) => string): FrameFields {
  const zero = frame?.zero;
  const typed = zero?.at === 'typed';
  return {
    xRuns: frame?.xRuns ?? '',
    yRuns: frame?.yRuns ?? '',
    zero: zero === undefined ? 'near left' : zero.at === 'corner' ? zero.corner : zero.at,
    zeroX: show(typed ? zero.xMm : 0),
    zeroY: show(typed ? zero.yMm : 0),
  };
}

const rollFields = (roll: RollKit, show: (mm: number) => string): RollFields => ({
  lead: show(roll.leadMm),
  tail: show(roll.tailMm),
  roller: show(roll.rollerMm),
  rollerEdge: show(roll.rollerEdgeMm),
  longest: roll.longestMm === null ? '' : show(roll.longestMm),
  testCutTurned: roll.testCutTurned,
});

export function shopFieldsOf(setup: Setup, unit: LengthUnit): ShopFields {
  const show = (mm: number): string => fieldLength(mm, unit);
  const area = setup.workArea;
  return {
    name: setup.name,
    printer: setup.printer,
    cutter: setup.cutter,
    media: setup.media,
    label: setup.label,
    sheetWidth: show(setup.sheetWidthMm),
    sheetHeight: show(setup.sheetHeightMm),
    marginLeft: show(area.x0),
    marginNear: show(area.y0),
    areaWidth: show(area.x1 - area.x0),
    areaHeight: show(area.y1 - area.y0),
    tolerance: show(setup.toleranceMm),
    changeable: setup.changeable,
    frame: frameFields(setup.fileFrame, show),
    mediaClass: setup.mediaClass,
    tool: setup.tool?.id ?? '',
    mat: setup.mat?.id ?? '',
    grip: setup.grip ?? '',
    mirrored: setup.mirrored,
    driverWidth: setup.driverPage === null ? '' : show(setup.driverPage.widthMm),
    driverHeight: setup.driverPage === null ? '' : show(setup.driverPage.heightMm),
    settings: setup.settings.map((s) => ({
      id: s.id,
      name: s.name,
      kind: s.kind,
      unit: s.unit,
      step: String(s.step),
      value: fixed(s.value, placesOfStep(s.step)),
      min: s.min === null ? '' : String(s.min),
      max: s.max === null ? '' : String(s.max),
      display: s.display,
      kept: s.kept,
      on: s.on,
      words: s.words,
      direction: s.directionKnown ? s.direction : 'unknown',
      anchorX: show(s.anchor.x),
      anchorY: show(s.anchor.y),
      nominal: s.nominalMm === null ? '' : show(s.nominalMm),
    })),
    marks: markFields(setup, show),
    recipe: { ...setup.recipe, scalePercent: String(setup.recipe.scalePercent) },
    roll: rollFields(setup.roll, show),
  };
}

function markFields({ marks }: Setup, show: (mm: number) => string): MarkFields {
  if (marks === null) return emptyMarks(show);
  const lengths = Object.entries(MARK_LENGTHS).map(([field, mm]) => [field, show(marks[mm])]);
  return {
    ...emptyMarks(show),
    ...(Object.fromEntries(lengths) as Partial<MarkFields>),
    ...Object.fromEntries(
      Object.entries(SIDE_FIELDS).flatMap(([field, side]) => {
        const mm = marks.clearSidesMm?.[side];
        return mm === undefined ? [] : [[field, show(mm)]];
      }),
    ),
    ...Object.fromEntries(
      Object.entries(CORNER_FIELDS).map(([field, corner]) => [field, marks.shapes?.[corner] ?? '']),
    ),
    frame: marks.frame ?? false,
    laidBy: marks.laidBy ?? 'us',
    count: String(marks.count),
    shape: marks.shape,
    colour: marks.colour,
    leading: marks.leading,
    leadSign: marks.leadSign,
    every: marks.everyMm === null ? '' : show(marks.everyMm),
  };
}

/** A rig’s own part; of its setups it shows nothing. */
export function rigFieldsOf(rig: Rig, unit: LengthUnit): ShopFields {
  const first = rig.setups[0];
  const { name, printer, cutter, changeable } = rig;
  const frame = frameFields(rig.fileFrame, (mm) => fieldLength(mm, unit));
  const own = { name, printer, cutter, changeable, frame };
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
