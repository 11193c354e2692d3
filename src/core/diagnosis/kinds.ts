/* What may be wrong when a cut does not land on its print: each kind as a pattern of offsets. */

export const FAULT_KINDS = [
  'calibration',
  'slip',
  'misread',
  'print-scaled',
  'skewed-load',
  'art-moved',
  'load-scatter',
  'none',
] as const;
export type FaultKind = (typeof FAULT_KINDS)[number];

/** A place that was read on a sheet; an axis that was not read is null. */
export interface DiagnosedStation {
  readonly x: number;
  readonly y: number;
  readonly dx: number | null;
  readonly dy: number | null;
  readonly ux: number | null;
  readonly uy: number | null;
}

export interface DiagnosedSheet {
  /** Sheets of one load were not taken out between their cuts. */
  readonly load: string;
  /** Which pair of print and cut file it is of. */
  readonly job: string;
  /** Print and cut file were made anew as a frozen pair for it. */
  readonly fresh: boolean;
  readonly stations: readonly DiagnosedStation[];
  /** How much longer than they should be the check bars are, as shares, with their uncertainty. */
  readonly bars: { readonly across: number; readonly along: number; readonly u: number } | null;
}

export interface DiagnosedRig {
  /** Marks that the machine reads: 0 to 4. */
  readonly marks: number;
  /** Scatter of where a load is registered, an axis, mm. */
  readonly registrationSdMm: number;
}

/** How often each kind is met before anything is looked at; common practice, no source. */
export const PRIORS: Readonly<Record<FaultKind, number>> = {
  calibration: 0.3,
  slip: 0.1,
  misread: 0.14,
  'print-scaled': 0.1,
  'skewed-load': 0.1,
  'art-moved': 0.08,
  'load-scatter': 0.07,
  none: 0.11,
};

/** What to do next, cheapest first: it tells the kind from its neighbours. */
export const NEXT_CHECKS: Readonly<Record<FaultKind, string>> = {
  calibration:
    'Load the same sheet once more and read it: the same offsets again mean that the machine is out.',
  slip: 'Look at rollers and take-up, then cut once more without unloading: a slip comes at another place, or not at all.',
  misread: 'Register again without unloading: a mark that was misread lands elsewhere or reads right.',
  'print-scaled': 'Measure both check bars with a rule: a print that is true in size was not scaled.',
  'skewed-load':
    'Lay the sheet in once more, square to the guide: another turn means that it was the loading.',
  'art-moved': 'Print and export the cut file anew as one pair: if it is right then, the art had been moved.',
  'load-scatter':
    'Load and cut the same sheet twice more: offsets that differ as much again are the loading’s.',
  none: 'Nothing needs to be done.',
};
