import type { MediaClass } from '@/core/drift';
import {
  DIRECTIONS_OF_KIND,
  UNITS_OF_KIND,
  type EffectDirection,
  type SettingKind,
  type SettingUnit,
} from '@/core/correction';
import { NEW_ROLL_KIT } from '@/core/layout';
import type { Corner, LeadSign, MarkShape } from '@/core/marks';
import {
  fieldLength,
  fixed,
  fromMm,
  lengthRefusalText,
  parseLength,
  placesOfStep,
  type LengthUnit,
} from '@/core/units';

import type { Rig } from '@/server/rigs/rig';
import type { Changeable } from '@/server/rigs/shapes';
import type { RollKit } from '@/shapes/kits';

/** The rig form as typed: every figure is text, in the user's units, until it is read. */
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
  direction: EffectDirection;
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

export interface RigFields {
  name: string;
  printer: string;
  cutter: string;
  media: string;
  sheetWidth: string;
  sheetHeight: string;
  marginLeft: string;
  marginNear: string;
  areaWidth: string;
  areaHeight: string;
  tolerance: string;
  changeable: Changeable;
  mediaClass: MediaClass;
  settings: SettingFields[];
  marks: MarkFields;
  recipe: RecipeFields;
  roll: RollFields;
}

/** Common sheets, mm: ISO 216 and ANSI/ASME Y14.1. */
export const PAPERS = [
  { name: 'A4', widthMm: 210, heightMm: 297 },
  { name: 'A3', widthMm: 297, heightMm: 420 },
  { name: 'Letter', widthMm: 215.9, heightMm: 279.4 },
  { name: 'Tabloid', widthMm: 279.4, heightMm: 431.8 },
] as const;

const LENGTH_FIELDS = {
  sheetWidth: 'sheetWidthMm',
  sheetHeight: 'sheetHeightMm',
  marginLeft: 'marginLeftMm',
  marginNear: 'marginNearMm',
  areaWidth: 'areaWidthMm',
  areaHeight: 'areaHeightMm',
  tolerance: 'toleranceMm',
} as const;

const MARK_LENGTHS = {
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

const ROLL_LENGTHS = {
  lead: 'leadMm',
  tail: 'tailMm',
  roller: 'rollerMm',
  rollerEdge: 'rollerEdgeMm',
} as const;

const SETTING_LENGTHS = { anchorX: 'anchorXMm', anchorY: 'anchorYMm', nominal: 'nominalMm' } as const;

export function emptySetting(name: string, direction: EffectDirection): SettingFields {
  return {
    name,
    kind: 'offset',
    unit: 'mm',
    step: '0.05',
    value: '0',
    min: '',
    max: '',
    display: 'signed',
    direction,
    anchorX: '0',
    anchorY: '0',
    nominal: '',
  };
}

/** The usual unit, direction and step when the kind of a setting is chosen. */
export function settingOfKind(kind: SettingKind): Pick<SettingFields, 'unit' | 'direction' | 'step'> {
  const step = { offset: '0.05', scale: '0.01', length: '0.1', turn: '0.01' }[kind];
  return { unit: UNITS_OF_KIND[kind][0]!, direction: DIRECTIONS_OF_KIND[kind][0]!, step };
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
    leading: 'near left',
    leadSign: 'larger',
    every: '',
    printerEdge: show(5),
    sensorEdge: show(6),
  };
}

export function emptyRig(unit: LengthUnit): RigFields {
  const show = (mm: number): string => fieldLength(mm, unit);
  return {
    name: '',
    printer: '',
    cutter: '',
    media: '',
    sheetWidth: show(210),
    sheetHeight: show(297),
    marginLeft: show(10),
    marginNear: show(15),
    areaWidth: show(190),
    areaHeight: show(267),
    tolerance: unit === 'mm' ? '0.5' : '0.02',
    changeable: 'settings-and-file',
    mediaClass: 'film',
    settings: [emptySetting('Offset X', 'right'), emptySetting('Offset Y', 'further')],
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

const rollFields = (roll: RollKit, show: (mm: number) => string): RollFields => ({
  lead: show(roll.leadMm),
  tail: show(roll.tailMm),
  roller: show(roll.rollerMm),
  rollerEdge: show(roll.rollerEdgeMm),
  longest: roll.longestMm === null ? '' : show(roll.longestMm),
  testCutTurned: roll.testCutTurned,
});

export function rigFields(rig: Rig, unit: LengthUnit): RigFields {
  const show = (mm: number): string => fieldLength(mm, unit);
  const area = rig.workArea;
  return {
    name: rig.name,
    printer: rig.printer,
    cutter: rig.cutter,
    media: rig.media,
    sheetWidth: show(rig.sheetWidthMm),
    sheetHeight: show(rig.sheetHeightMm),
    marginLeft: show(area.x0),
    marginNear: show(area.y0),
    areaWidth: show(area.x1 - area.x0),
    areaHeight: show(area.y1 - area.y0),
    tolerance: show(rig.toleranceMm),
    changeable: rig.changeable,
    mediaClass: rig.mediaClass,
    settings: rig.settings.map((s) => ({
      id: s.id,
      name: s.name,
      kind: s.kind,
      unit: s.unit,
      step: String(s.step),
      value: fixed(s.value, placesOfStep(s.step)),
      min: s.min === null ? '' : String(s.min),
      max: s.max === null ? '' : String(s.max),
      display: s.display,
      direction: s.direction,
      anchorX: show(s.anchor.x),
      anchorY: show(s.anchor.y),
      nominal: s.nominalMm === null ? '' : show(s.nominalMm),
    })),
    marks: markFields(rig, show),
    recipe: { ...rig.recipe, scalePercent: String(rig.recipe.scalePercent) },
    roll: rollFields(rig.roll, show),
  };
}

function markFields({ marks }: Rig, show: (mm: number) => string): MarkFields {
  if (marks === null) return emptyMarks(show);
  const lengths = Object.entries(MARK_LENGTHS).map(([field, mm]) => [field, show(marks[mm])]);
  return {
    ...emptyMarks(show),
    ...(Object.fromEntries(lengths) as Partial<MarkFields>),
    count: String(marks.count),
    shape: marks.shape,
    colour: marks.colour,
    leading: marks.leading,
    leadSign: marks.leadSign,
    every: marks.everyMm === null ? '' : show(marks.everyMm),
  };
}

/** Server field names back to the form's: `areaWidthMm` → `areaWidth`, `marks.sizeMm` → `marks.size`. */
export const formField = (path: string): string => path.replace(/Mm$/, '');

export interface ReadForm {
  readonly input: Record<string, unknown>;
  readonly errors: Readonly<Record<string, string>>;
}

/** Collects what was read and what could not be, by field. */
class Reading {
  readonly errors: Record<string, string> = {};
  constructor(private readonly unit: LengthUnit) {}

  length(path: string, typed: string): number {
    const read = parseLength(typed, this.unit);
    if (read.ok) return read.value;
    this.errors[path] = lengthRefusalText(read.refusal, this.unit);
    return Number.NaN;
  }

  /** A machine's figure is in the machine's own unit, whatever the screen shows. */
  figure(path: string, typed: string, unit: SettingUnit): number {
    const length = unit === 'in' || unit === 'mm' ? unit : 'mm';
    if (length !== unit && !/^[+\-\u2212]?(?:\d+(?:[.,]\d+)?|[.,]\d+)$/.test(typed.trim())) {
      this.errors[path] = `Enter a plain figure, for example 0.05.`;
      return Number.NaN;
    }
    const read = parseLength(typed, length);
    if (read.ok) return Number(fromMm(read.value, length).toFixed(9));
    this.errors[path] = lengthRefusalText(read.refusal, length);
    return Number.NaN;
  }
}

/** Reads what was typed; anything unreadable becomes a message by its field. */
export function readRigForm(fields: RigFields, unit: LengthUnit): ReadForm {
  const reading = new Reading(unit);
  const input: Record<string, unknown> = {
    name: fields.name,
    printer: fields.printer,
    cutter: fields.cutter,
    media: fields.media,
    changeable: fields.changeable,
    mediaClass: fields.mediaClass,
  };
  for (const [field, mm] of Object.entries(LENGTH_FIELDS))
    input[mm] = reading.length(field, fields[field as keyof typeof LENGTH_FIELDS]);
  input.settings = fields.settings.map((s, i) => readSetting(reading, s, `settings.${i}`));
  input.marks = readMarks(reading, fields.marks);
  input.recipe = {
    ...fields.recipe,
    scalePercent: reading.figure('recipe.scalePercent', fields.recipe.scalePercent, 'percent'),
  };
  input.roll = readRoll(reading, fields.roll);
  return { input, errors: reading.errors };
}

function readRoll(reading: Reading, roll: RollFields): Record<string, unknown> {
  const lengths = Object.entries(ROLL_LENGTHS).map(([field, mm]) => [
    mm,
    reading.length(`roll.${field}`, roll[field as keyof typeof ROLL_LENGTHS]),
  ]);
  return {
    ...Object.fromEntries(lengths),
    longestMm: roll.longest.trim() === '' ? null : reading.length('roll.longest', roll.longest),
    testCutTurned: roll.testCutTurned,
  };
}

function readSetting(reading: Reading, s: SettingFields, path: string): Record<string, unknown> {
  const { anchorX, anchorY, nominal, id, ...plain } = s;
  const given = { anchorX, anchorY, nominal };
  const lengths = Object.entries(SETTING_LENGTHS).map(([field, mm]) => {
    const typed = given[field as keyof typeof given];
    const used = field === 'nominal' ? s.kind === 'length' : s.kind !== 'offset';
    if (!used) return [mm, field === 'nominal' ? null : 0];
    return [mm, reading.length(`${path}.${field}`, typed)];
  });
  const figure = (name: 'step' | 'value'): number => reading.figure(`${path}.${name}`, s[name], s.unit);
  const limit = (name: 'min' | 'max'): number | null =>
    s[name].trim() === '' ? null : reading.figure(`${path}.${name}`, s[name], s.unit);
  return {
    ...(id ? { id } : {}),
    ...plain,
    ...Object.fromEntries(lengths),
    step: figure('step'),
    value: figure('value'),
    min: limit('min'),
    max: limit('max'),
  };
}

function readMarks(reading: Reading, m: MarkFields): Record<string, unknown> | null {
  if (m.count === '0') return null;
  const lengths = Object.entries(MARK_LENGTHS).map(([field, mm]) => [
    mm,
    reading.length(`marks.${field}`, m[field as keyof typeof MARK_LENGTHS]),
  ]);
  return {
    ...Object.fromEntries(lengths),
    count: Number(m.count),
    shape: m.shape,
    colour: m.colour,
    leading: m.leading,
    leadSign: m.leadSign,
    everyMm: m.every.trim() === '' ? null : reading.length('marks.every', m.every),
  };
}
