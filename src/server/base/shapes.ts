import { z } from 'zod';

import { coordinate, finite } from '@/core/readings/shapes';

export { coordinate, finite };

/* Shapes of what comes in from forms, routes and files. */

export const positive = finite.positive();

export const point = z.object({ x: finite, y: finite });

export const affineSchema = z.object(
  { a11: finite, a12: finite, a21: finite, a22: finite, tx: finite, ty: finite },
  'A map is {"a11","a12","a21","a22","tx","ty"}, tx and ty in mm.',
);

export const rect = z.object({ x0: finite, y0: finite, x1: finite, y1: finite });

export const rectSchema = z
  .object(
    { x0: coordinate, y0: coordinate, x1: coordinate, y1: coordinate },
    'A rectangle is {"x0","y0","x1","y1"}, in mm.',
  )
  .refine((r) => r.x1 > r.x0 && r.y1 > r.y0, 'The work area needs x1 above x0 and y1 above y0.');

export const initialsSchema = z
  .string()
  .trim()
  .min(1, 'Enter the initials of who is at the machine, for example “KT”.')
  .max(4, 'Up to four letters, for example “KT”.')
  .regex(/^\p{L}+$/u, 'Letters only, for example “KT”.')
  .transform((s) => s.toUpperCase());

export const MAX_SIDE_MM = 60_000;

export const side = (what: string) =>
  finite.positive(`${what} must be more than 0.`).max(MAX_SIDE_MM, `${what} can be at most 60 m.`);

export const words = (what: string, most: number) =>
  z.string().trim().min(1, `Enter ${what}.`).max(most, `At most ${most} characters.`);

export const idSchema = z.uuid();

/** A section of a run. */
export const sectionIndex = z.int('Sections are counted from 1.').min(1, 'Sections are counted from 1.');
