import { DIRECTIONS_OF_KIND } from '@/core/correction';
import type { SettingUnit } from '@/core/correction';
import { fromMm, lengthRefusalText, type LengthUnit, parseLength } from '@/core/units';

import {
  CORNER_FIELDS,
  LENGTH_FIELDS,
  MARK_LENGTHS,
  ROLL_LENGTHS,
  SETTING_LENGTHS,
  SIDE_FIELDS,
} from './shopFields';
import type { FrameFields, MarkFields, ShopFields, RollFields, SettingFields } from './shopTypes';

/** Server field names back to the form's: `areaWidthMm` → `areaWidth`, `marks.sizeMm` → `marks.size`. */
export function formField(path: string): string {
  const side = /^marks\.clearSidesMm\.(left|right|near|far)$/.exec(path)?.[1];
  if (side) return `marks.clear${side[0]!.toUpperCase()}${side.slice(1)}`;
  const frame = /^fileFrame\.(?:zero\.)?(\w+)$/.exec(path)?.[1];
  if (frame) return `frame.${{ xMm: 'zeroX', yMm: 'zeroY' }[frame] ?? frame}`;
  return path.replace(/Mm$/, '').replace(/^(tool|mat)Id$/, '$1');
}

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

/** What a form is about: a rig, a setup, or a new rig with its first setup. */
export type ShopPart = 'rig' | 'setup' | 'new-rig';

/** Reads what was typed of the form’s part; anything unreadable becomes a message by its field. */
export function readShopForm(fields: ShopFields, unit: LengthUnit, part: ShopPart = 'new-rig'): ReadForm {
  const reading = new Reading(unit);
  const input = {
    ...(part === 'setup' ? {} : readRig(reading, fields)),
    ...(part === 'rig' ? {} : readSetup(reading, fields)),
  };
  return { input, errors: reading.errors };
}

const readRig = (reading: Reading, fields: ShopFields): Record<string, unknown> => ({
  name: fields.name,
  printer: fields.printer,
  cutter: fields.cutter,
  changeable: fields.changeable,
  fileFrame: readFrame(reading, fields.frame),
  settings: fields.settings.map((s, i) => readSetting(reading, s, `settings.${i}`)),
});

function readFrame(reading: Reading, f: FrameFields): Record<string, unknown> | null {
  if (f.xRuns === '') return null;
  const zero =
    f.zero === 'typed'
      ? {
          at: 'typed',
          xMm: reading.length('frame.zeroX', f.zeroX),
          yMm: reading.length('frame.zeroY', f.zeroY),
        }
      : f.zero === 'mark' || f.zero === 'middle'
        ? { at: f.zero }
        : { at: 'corner', corner: f.zero };
  return { xRuns: f.xRuns, yRuns: f.yRuns, zero };
}

function readSetup(reading: Reading, fields: ShopFields): Record<string, unknown> {
  const lengths = Object.entries(LENGTH_FIELDS).map(([field, mm]) => [
    mm,
    reading.length(field, fields[field as keyof typeof LENGTH_FIELDS]),
  ]);
  return {
    media: fields.media,
    label: fields.label,
    mediaClass: fields.mediaClass,
    ...Object.fromEntries(lengths),
    toolId: fields.tool || null,
    matId: fields.mat || null,
    grip: fields.grip || null,
    mirrored: fields.mirrored,
    driverWidthMm: optional(reading, 'driverWidth', fields.driverWidth),
    driverHeightMm: optional(reading, 'driverHeight', fields.driverHeight),
    marks: readMarks(reading, fields.marks),
    recipe: {
      ...fields.recipe,
      scalePercent: reading.figure('recipe.scalePercent', fields.recipe.scalePercent, 'percent'),
    },
    roll: readRoll(reading, fields.roll),
  };
}

const optional = (reading: Reading, path: string, typed: string): number | null =>
  typed.trim() === '' ? null : reading.length(path, typed);

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
  const { anchorX, anchorY, nominal, id, direction, ...plain } = s;
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
    // One that nobody knows stands under the first of its kind until a push tells.
    direction: direction === 'unknown' ? DIRECTIONS_OF_KIND[s.kind][0]! : direction,
    directionKnown: direction !== 'unknown',
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
    shapes: Object.fromEntries(
      Object.entries(CORNER_FIELDS).flatMap(([field, corner]) => {
        const shape = m[field as keyof typeof CORNER_FIELDS];
        return shape === '' ? [] : [[corner, shape]];
      }),
    ),
    clearSidesMm: Object.fromEntries(
      Object.entries(SIDE_FIELDS).flatMap(([field, side]) => {
        const typed = m[field as keyof typeof SIDE_FIELDS];
        return typed.trim() === '' ? [] : [[side, reading.length(`marks.${field}`, typed)]];
      }),
    ),
    frame: m.count === '4' && m.frame,
    laidBy: m.laidBy,
    count: Number(m.count),
    shape: m.shape,
    colour: m.colour,
    leading: m.leading,
    leadSign: m.leadSign,
    everyMm: m.every.trim() === '' ? null : reading.length('marks.every', m.every),
  };
}
