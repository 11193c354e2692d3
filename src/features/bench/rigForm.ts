import { fixed, fromMm, lengthRefusalText, parseLength, placesOfStep, type LengthUnit } from '@/core/units';

import type { Rig } from '@/server/rigs';

/** The rig form as typed: every figure is text, in the user's units, until it is read. */
export interface SettingFields {
  id?: string;
  name: string;
  unit: LengthUnit;
  step: string;
  value: string;
  min: string;
  max: string;
  display: 'signed' | 'sign-and-size';
  direction: 'right' | 'left' | 'further' | 'back';
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
  settings: SettingFields[];
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

/** A length as the form shows it: up to four places, no padding. */
export const shownLength = (mm: number, unit: LengthUnit): string =>
  String(Number(fromMm(mm, unit).toFixed(unit === 'mm' ? 3 : 4)));

export function emptySetting(name: string, direction: SettingFields['direction']): SettingFields {
  return { name, unit: 'mm', step: '0.05', value: '0', min: '', max: '', display: 'signed', direction };
}

export function emptyRig(unit: LengthUnit): RigFields {
  const show = (mm: number): string => shownLength(mm, unit);
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
    settings: [emptySetting('Offset X', 'right'), emptySetting('Offset Y', 'further')],
  };
}

export function rigFields(rig: Rig, unit: LengthUnit): RigFields {
  const show = (mm: number): string => shownLength(mm, unit);
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
    settings: rig.settings.map((s) => ({
      id: s.id,
      name: s.name,
      unit: s.unit,
      step: String(s.step),
      value: fixed(s.value, placesOfStep(s.step)),
      min: s.min === null ? '' : String(s.min),
      max: s.max === null ? '' : String(s.max),
      display: s.display,
      direction: s.direction,
    })),
  };
}

/** Server field names back to the form's: `areaWidthMm` → `areaWidth`. */
export function formField(path: string): string {
  const found = Object.entries(LENGTH_FIELDS).find(([, mm]) => mm === path);
  return found ? found[0] : path;
}

export interface ReadForm {
  readonly input: Record<string, unknown>;
  readonly errors: Readonly<Record<string, string>>;
}

/** Reads what was typed; anything unreadable becomes a message by its field. */
export function readRigForm(fields: RigFields, unit: LengthUnit): ReadForm {
  const errors: Record<string, string> = {};
  const input: Record<string, unknown> = {
    name: fields.name,
    printer: fields.printer,
    cutter: fields.cutter,
    media: fields.media,
  };
  for (const [field, mm] of Object.entries(LENGTH_FIELDS)) {
    const read = parseLength(fields[field as keyof typeof LENGTH_FIELDS], unit);
    if (read.ok) input[mm] = read.value;
    else errors[field] = lengthRefusalText(read.refusal, unit);
  }
  input.settings = fields.settings.map((s, i) => {
    const figure = (name: 'step' | 'value' | 'min' | 'max'): number | null => {
      if ((name === 'min' || name === 'max') && s[name].trim() === '') return null;
      // A machine's figure is in the machine's own unit, whatever the screen shows.
      const read = parseLength(s[name], s.unit);
      if (read.ok) return Number(fromMm(read.value, s.unit).toFixed(9));
      errors[`settings.${i}.${name}`] = lengthRefusalText(read.refusal, s.unit);
      return Number.NaN;
    };
    return {
      ...(s.id ? { id: s.id } : {}),
      name: s.name,
      unit: s.unit,
      step: figure('step'),
      value: figure('value'),
      min: figure('min'),
      max: figure('max'),
      display: s.display,
      direction: s.direction,
    };
  });
  return { input, errors };
}
