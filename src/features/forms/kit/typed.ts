import { lengthRefusalText, parseLength, type LengthUnit } from '@/core/units';
import { accept, refuse, type Outcome } from '@/core/outcome';

/*
 * How what was typed is read: text in, a value or words out. Lengths in the user's unit, with fractions and decimal commas.
 * What is looked at here is looked at again where it is kept.
 */

/** Reads one field. */
export type Reader<T> = (typed: string, unit: LengthUnit) => Outcome<T, string>;

/** A length, mm. */
export const length: Reader<number> = (typed, unit) => {
  const read = parseLength(typed, unit);
  return read.ok ? read : refuse(lengthRefusalText(read.refusal, unit));
};

/** Where an empty field says nothing: null. */
const orNone =
  <T>(reader: Reader<T>): Reader<T | null> =>
  (typed, unit) =>
    typed.trim() === '' ? accept(null) : reader(typed, unit);

export const lengthOrNone: Reader<number | null> = orNone(length);

/** A plain figure; `what` says what would be right. */
export const figure =
  (what: string): Reader<number> =>
  (typed) => {
    const plain = typed.trim().replace(',', '.').replace('\u2212', '-');
    const value = Number(plain);
    return plain !== '' && Number.isFinite(value) ? accept(value) : refuse(what);
  };

export const figureOrNone = (what: string): Reader<number | null> => orNone(figure(what));

/** A whole number within limits; `what` says which. */
export const whole =
  (least: number, most: number, what: string): Reader<number> =>
  (typed, unit) => {
    const read = figure(what)(typed, unit);
    return read.ok && Number.isInteger(read.value) && read.value >= least && read.value <= most
      ? read
      : refuse(what);
  };

export const wholeOrNone = (least: number, most: number, what: string): Reader<number | null> =>
  orNone(whole(least, most, what));

/** Words, as they are. */
export const plainWords: Reader<string> = (typed) => accept(typed);

/** One of a list, whose first line says nothing; `what` asks for a choice. */
export const chosenFrom =
  (what: string): Reader<string> =>
  (typed) =>
    typed === '' ? refuse(what) : accept(typed);

export const wordsOrNone: Reader<string | null> = orNone(plainWords);

export type Readers = Readonly<Record<string, Reader<unknown>>>;

/** What readers make of their fields. */
export type ValuesOf<R extends Readers> = {
  readonly [K in keyof R]: R[K] extends Reader<infer T> ? T : never;
};

export type Typed<K extends PropertyKey = string> = Readonly<Record<K & string, string>>;
export type Wrong<K extends PropertyKey = string> = Readonly<Partial<Record<K & string, string>>>;

/** All fields at once: the values, or by field what is wrong. */
export function readTyped<R extends Readers>(
  typed: Typed<keyof R>,
  readers: R,
  unit: LengthUnit,
): Outcome<ValuesOf<R>, Wrong<keyof R>> {
  const wrong: Record<string, string> = {};
  const values: Record<string, unknown> = {};
  for (const [name, reader] of Object.entries(readers)) {
    const read = reader(typed[name as keyof R & string], unit);
    if (read.ok) values[name] = read.value;
    else wrong[name] = read.refusal;
  }
  return Object.keys(wrong).length > 0 ? refuse(wrong as Wrong<keyof R>) : accept(values as ValuesOf<R>);
}
