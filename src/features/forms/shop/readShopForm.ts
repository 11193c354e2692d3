import { DIRECTIONS_OF_KIND } from '@/core/correction';
import type { SettingUnit } from '@/core/correction';
import { fromMm, type LengthUnit } from '@/core/units';

import { length, type Reader } from '../kit/typed';

import type { FrameFields, MarkFields, ShopFields, SettingFields } from './shopTypes';

export interface ReadForm {
  readonly input: Record<string, unknown>;
  readonly errors: Readonly<Record<string, string>>;
}

/** What a form is about: a rig, a setup, or a new rig with its first setup. */
export type ShopPart = 'rig' | 'setup' | 'new-rig';

/** Lengths that need not be told. */
const OPTIONAL = new Set(['driverWidthMm', 'driverHeightMm', 'longestMm', 'everyMm']);

/** Collects what could not be read, by field. */
class Reading {
  readonly errors: Record<string, string> = {};
  constructor(private readonly unit: LengthUnit) {}

  /** All that is called a length in what was typed, mm, however deep; everything else as it is. */
  lengths(typed: object, path: string): Record<string, unknown> {
    return Object.fromEntries(
      Object.entries(typed).map(([name, value]: [string, unknown]) => {
        if (typeof value === 'object' && value !== null && !Array.isArray(value))
          return [name, this.lengths(value, `${path}${name}.`)];
        if (typeof value !== 'string' || !name.endsWith('Mm')) return [name, value];
        return [name, this.length(path + name, value, OPTIONAL.has(name))];
      }),
    );
  }

  length(path: string, typed: string, optional = false): number | null {
    return optional && typed.trim() === '' ? null : this.read(length, path, typed, this.unit);
  }

  /** A machine's figure is in the machine's own unit, whatever the screen shows. */
  figure(path: string, typed: string, unit: SettingUnit): number | null {
    const own = unit === 'in' || unit === 'mm' ? unit : 'mm';
    if (own !== unit && !/^[+\-\u2212]?(?:\d+(?:[.,]\d+)?|[.,]\d+)$/.test(typed.trim())) {
      this.errors[path] = `Enter a plain figure, for example 0.05.`;
      return null;
    }
    const mm = this.read(length, path, typed, own);
    return mm === null ? null : Number(fromMm(mm, own).toFixed(9));
  }

  private read<T>(reader: Reader<T>, path: string, typed: string, unit: LengthUnit): T | null {
    const read = reader(typed, unit);
    if (read.ok) return read.value;
    this.errors[path] = read.refusal;
    return null;
  }
}

/** Reads what was typed of the form’s part; anything unreadable becomes a message by its field. */
export function readShopForm(fields: ShopFields, unit: LengthUnit, part: ShopPart = 'new-rig'): ReadForm {
  const reading = new Reading(unit);
  const { name, printer, cutter, changeable, fileFrame, settings, ...setup } = fields;
  const rig = () => ({
    ...{ name, printer, cutter, changeable, fileFrame: readFrame(reading, fileFrame) },
    settings: settings.map((s, i) => readSetting(reading, s, `settings.${i}.`)),
  });
  const input = {
    ...(part === 'setup' ? {} : rig()),
    ...(part === 'rig' ? {} : readSetup(reading, setup)),
  };
  return { input, errors: reading.errors };
}

function readFrame(
  reading: Reading,
  { xRuns, yRuns, zero: { at, xMm, yMm } }: FrameFields,
): Record<string, unknown> | null {
  if (xRuns === '') return null;
  if (at === 'typed')
    return { xRuns, yRuns, zero: { at, ...reading.lengths({ xMm, yMm }, 'fileFrame.zero.') } };
  return { xRuns, yRuns, zero: at === 'mark' || at === 'middle' ? { at } : { at: 'corner', corner: at } };
}

function readSetup(
  reading: Reading,
  { marks, recipe, toolId, matId, grip, ...rest }: SetupFields,
): Record<string, unknown> {
  const { marksTold, ...plain } = rest;
  void marksTold;
  return {
    ...reading.lengths(plain, ''),
    ...{ toolId: toolId || null, matId: matId || null, grip: grip || null },
    marks: readMarks(reading, marks),
    recipe: {
      ...recipe,
      scalePercent: reading.figure('recipe.scalePercent', recipe.scalePercent, 'percent'),
    },
  };
}

type SetupFields = Omit<ShopFields, 'name' | 'printer' | 'cutter' | 'changeable' | 'fileFrame' | 'settings'>;

function readSetting(reading: Reading, s: SettingFields, path: string): Record<string, unknown> {
  const { anchorXMm, anchorYMm, nominalMm, direction, step, value, min, max, ...plain } = s;
  const { kind, unit } = s;
  const figure = (name: string, typed: string) => reading.figure(path + name, typed, unit);
  const limit = (name: string, typed: string) => (typed.trim() === '' ? null : figure(name, typed));
  return {
    ...plain,
    // One that nobody knows stands under the first of its kind until a push tells.
    direction: direction === 'unknown' ? DIRECTIONS_OF_KIND[kind][0]! : direction,
    directionKnown: direction !== 'unknown',
    ...(kind === 'offset' ? { anchorXMm: 0, anchorYMm: 0 } : reading.lengths({ anchorXMm, anchorYMm }, path)),
    nominalMm: kind === 'length' ? reading.length(`${path}nominalMm`, nominalMm) : null,
    ...{ step: figure('step', step), value: figure('value', value) },
    ...{ min: limit('min', min), max: limit('max', max) },
  };
}

const filled = <K extends string>(texts: Readonly<Record<K, string>>): [K, string][] =>
  (Object.entries(texts) as [K, string][]).filter(([, typed]) => typed.trim() !== '');

function readMarks(reading: Reading, marks: MarkFields): Record<string, unknown> | null {
  const { count, shapes, clearSidesMm, frame, ...plain } = marks;
  if (count === '0') return null;
  return {
    ...reading.lengths(plain, 'marks.'),
    shapes: Object.fromEntries(filled(shapes)),
    clearSidesMm: Object.fromEntries(
      filled(clearSidesMm).map(([side, typed]) => [
        side,
        reading.length(`marks.clearSidesMm.${side}`, typed),
      ]),
    ),
    frame: count === '4' && frame,
    count: Number(count),
  };
}
