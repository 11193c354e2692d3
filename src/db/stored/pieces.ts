import { z } from 'zod';

/* Shapes that several columns share. */

export const finite = z.number().refine(Number.isFinite);

export const positive = finite.positive();

export const point = z.object({ x: finite, y: finite });

export const rect = z.object({ x0: finite, y0: finite, x1: finite, y1: finite });

export const affine = z.object({
  a11: finite,
  a12: finite,
  a21: finite,
  a22: finite,
  tx: finite,
  ty: finite,
});

export const field = z.object({
  origin: point,
  b11: finite,
  b12: finite,
  b21: finite,
  b22: finite,
  exMm: finite,
  eyMm: finite,
});

/** A value for each of a machine's settings, by id. */
export const values = z.record(z.string(), finite);
