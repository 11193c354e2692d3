/*
 * Two families of tolerance, never mixed.
 * Numerical ones are relative and come from machine epsilon; physical ones carry a unit and a reason.
 */

// Numerical -------------------------------------------------------------------------------------------

/** Below this ratio of smallest to largest singular value of a scaled design, a model is not determined. */
export const RANK_RATIO = 1e-9;

/** Gauss–Newton stops when the step, in scaled parameters, is below this. */
export const GAUSS_NEWTON_STEP = 1e-15;

/** A quotient this close to a whole number of steps counts as that whole number. */
export const WHOLE_STEP_GUARD = 1e-9;

/** Figures that differ by less, relative to 1 or in mm, are the same: what is left is the rounding of sums. */
export const SAME = 1e-9;

// Physical --------------------------------------------------------------------------------------------

/** Acuity of a pick as a share of the comb step, before repeats have told better (maths.md). */
export const DEFAULT_ACUITY_OF_STEP = 0.2;

/** Load-to-load scatter assumed per axis until the log of the rig tells better. */
export const DEFAULT_LOAD_SCATTER_MM = 0.03;

/** Half of a coarse graduation: how far a coarse reading may be from the truth. */
export const COARSE_GRADUATION_MM = 0.5;

/** What an eye may misjudge a coarse crossing by, beyond its graduation: 2.5 times a blur of 0.08 mm; no source. */
export const COARSE_BLUR_MM = 0.2;

/** How far a coarse scale reaches each way; an untouched rig can be 3 mm out on both axes. */
export const COARSE_REACH_MM = 6;

/** Coordinates in written vector files are rounded to this. */
export const FILE_RESOLUTION_MM = 0.0001;

/** Items that fill the width to within this still fit: sums of decimal sizes are not exact. */
export const EXACT_FIT_GUARD_MM = 1e-6;

/** Sizes are taken to be at least this where something is divided by them; distances nearer than this tie. */
export const LEAST_SIZE_MM = 1e-6;
