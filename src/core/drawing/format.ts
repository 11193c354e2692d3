import type { PlaneMap, Rect } from '../geometry';
import type { Outcome } from '../outcome';

import type { Drawing } from './model';
import type { Notes } from './notes';

/** How a file is read. */
export interface ReadOptions {
  readonly onProgress?: ((share: number) => void) | undefined;
  /** Layers that are cut whatever their state, of a format that has layers with one. */
  readonly cutAll?: readonly string[] | undefined;
}

/** A file that keeps its own structure and was moved in place: what it draws, and what it is written as. */
export interface MovedInPlace {
  readonly drawing: Drawing;
  readonly content: string;
}

/** What everybody may know of a format without loading its reader: its folder's `facts.ts`, and a line in `formats.ts`. */
export interface FormatFacts<N extends string> {
  readonly name: N;
  readonly label: string;
  /** The first is given to files that are written; all are taken. */
  readonly suffixes: readonly [string, ...string[]];
  readonly mediaType: string;
  /** Its page's corner is zero: nothing below it can be written. */
  readonly cornerIsZero: boolean;
  /** Layers have a state, off, frozen, not plotted: lines that are not cut can be cut all the same, and are written back. */
  readonly layerStates: boolean;
}

/** Facts with their name as a type of its own. */
export const formatFacts = <const N extends string>(facts: FormatFacts<N>): FormatFacts<N> => facts;

/**
 * A format of cut files: its folder's `format.ts`, and a line in `registry.ts`. Nothing else asks which one a file is.
 *
 * `N` its name, `R` what a file of it may be refused for.
 */
export interface CutFileFormat<N extends string, R> extends FormatFacts<N> {
  /** Whether a text begins like one; names are not trusted. */
  readonly begins: (head: string) => boolean;
  /** Places closer than this fall together when written, mm. */
  readonly resolutionMm: number;
  /** How close lines stay to a curve that the format has no room for, mm; null where it has curves. */
  readonly chordMm: number | null;
  /** Elements that writing adds for each layer. */
  readonly elementsALayer: number;
  readonly read: (text: string, notes: Notes, options: ReadOptions) => Outcome<Drawing, R>;
  readonly write: (drawing: Drawing, bounds: Rect, notes: Notes) => string;
  /** Of a format whose files have more in them than a drawing can hold: moves them and leaves the rest as it is. */
  readonly moveInPlace: MoveInPlace<R> | null;
}

export type MoveInPlace<R> = (
  text: string,
  transform: PlaneMap,
  notes: Notes,
  options: ReadOptions,
) => Outcome<MovedInPlace, R>;
