import { z } from 'zod';

/* What a reading that comes in has to be, whoever sends it. */

export const finite = z.number('This must be a number.').refine(Number.isFinite, 'This must be a number.');

/** A coordinate or offset of a script, mm: a finite number within a kilometre. */
export const coordinate = z
  .number('This must be a number, in mm.')
  .min(-1e6, 'At least −1 000 000 mm.')
  .max(1e6, 'At most 1 000 000 mm.');

/** A coordinate on a sheet or strip that is read by hand, mm. */
export const place = finite
  .min(-1000, 'That place is off the sheet.')
  .max(60_000, 'That place is off the sheet.');

/** A station of the sheet’s own. */
export const stationOfSheet = z.string().min(1).max(8);

/** The smallest length that a script may give. */
const LEAST_MM = 1e-6;

/** A standard uncertainty, a step or a resolution, mm. */
export const above0 = (what: string) =>
  z
    .number(`${what} must be a number, in mm.`)
    .min(LEAST_MM, `${what} must be more than 0.`)
    .max(1000, `${what} is at most 1 m.`);

export const MOST_STATIONS = 20_000;

export const stationIdSchema = z
  .union([z.string(), z.number()], 'It needs an “id”: a text or a number.')
  .transform(String)
  .pipe(z.string().min(1, 'An “id” cannot be empty.').max(64, 'An “id” is at most 64 long.'));

/** Where a script’s station lies, and what it is called. */
export const stationPlace = { id: stationIdSchema, x: coordinate, y: coordinate };

/** At least one station, not too many, each of its own id. */
export const stationsSchema = <S extends z.ZodType<{ readonly id: string }>>(station: S, example: string) =>
  z
    .array(station, `“stations” is a list of ${example}.`)
    .min(1, '“stations” is empty: give at least one.')
    .max(MOST_STATIONS, `At most ${MOST_STATIONS} stations.`)
    .superRefine((stations, context) => {
      const seen = new Set<string>();
      stations.forEach(({ id }, i) => {
        if (seen.has(id))
          context.addIssue({
            code: 'custom',
            path: [i, 'id'],
            message: `Station ${id} occurs twice. Give every reading its own id, for example “${id}b”.`,
          });
        seen.add(id);
      });
    });
