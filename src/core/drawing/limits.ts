/*
 * What a file from outside may ask of us. Limits of size, of points and of reach, each told in words when it is passed;
 * time and memory of a whole conversion are limited by whoever runs it.
 */

export const FILE_LIMIT_BYTES = 32 * 1024 * 1024;

/** Points that a drawing may have, copies written out; `pointsWorth` says what a curve counts. */
export const POINT_LIMIT = 3_000_000;

/** Elements of an SVG file and entities of a DXF file, copies counted as often as they are drawn. */
export const ELEMENT_LIMIT = 120_000;

/** Straight pieces that its curves may become where a format has no curves. */
export const PIECE_LIMIT = 1_000_000;

/** One path’s data; a file of many such is fine. */
export const PATH_DATA_LIMIT_BYTES = 4 * 1024 * 1024;

/** A value of an attribute that is a length, a colour or a transform, in characters. */
export const VALUE_LIMIT = 4096;

/** Nothing that is cut lies farther from the origin: a kilometre. */
export const REACH_LIMIT_MM = 1e6;

/** How long whoever runs a conversion lets it work: longer than anything within these limits takes on a slow machine. */
export const DEADLINE_MS = 20_000;
