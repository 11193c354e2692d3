import { fixed, signed } from './format';
import type { LengthUnit } from './length';

/* Long lengths and rates: metres and mm per m, or feet and inches per foot. */

const MM_PER_FOOT = 304.8;
/** mm per m as inches per foot: both are a thousandth and a twelfth of the same ratio. */
const IN_PER_FT = 12 / 1000;

export const LONG_UNIT = { mm: 'm', in: 'ft' } as const satisfies Record<LengthUnit, string>;
export const RATE_UNIT = { mm: 'mm/m', in: 'in/ft' } as const satisfies Record<LengthUnit, string>;
const RATE_WORDS = { mm: 'mm per m', in: 'in per ft' } as const satisfies Record<LengthUnit, string>;

/** A long length in m or ft, as a number. */
export const fromLongMm = (mm: number, unit: LengthUnit): number => mm / (unit === 'mm' ? 1000 : MM_PER_FOOT);

/** m or ft to mm. */
export const longToMm = (value: number, unit: LengthUnit): number =>
  value * (unit === 'mm' ? 1000 : MM_PER_FOOT);

/** “8.35 m”, “12.4 m” from ten on; “27.4 ft”. */
export const longText = (mm: number, unit: LengthUnit): string =>
  `${fixed(fromLongMm(mm, unit), unit === 'mm' && mm < 10_000 ? 2 : 1)} ${LONG_UNIT[unit]}`;

/** A rate without its unit and sign; `more` places than the 0.01 mm per m that a tape can tell. */
export const rateFigure = (mmPerM: number, unit: LengthUnit, more = 0): string =>
  unit === 'mm' ? fixed(mmPerM, 2 + more) : fixed(mmPerM * IN_PER_FT, 4 + more);

/** The same with its plus sign. */
export const signedRate = (mmPerM: number, unit: LengthUnit, more = 0): string =>
  unit === 'mm' ? signed(mmPerM, 2 + more) : signed(mmPerM * IN_PER_FT, 4 + more);

/** “0.31 mm per m”, “0.0037 in per ft”; the size alone. */
export const rateText = (mmPerM: number, unit: LengthUnit): string =>
  `${rateFigure(Math.abs(mmPerM), unit)} ${RATE_WORDS[unit]}`;

/** A stretch over which a random walk is told: 1 m, or 1 yd; its standard deviation grows by the root of the length. */
export const walkStretch = (unit: LengthUnit): { readonly words: string; readonly lengthM: number } =>
  unit === 'mm' ? { words: '1 m', lengthM: 1 } : { words: '1 yd', lengthM: 0.9144 };
