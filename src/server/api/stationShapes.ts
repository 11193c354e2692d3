import { z } from 'zod';

/* What every list of stations that comes from a script has to be. */

export const MOST_STATIONS = 20_000;

export const stationIdSchema = z
  .union([z.string(), z.number()], 'It needs an “id”: a text or a number.')
  .transform(String)
  .pipe(z.string().min(1, 'An “id” cannot be empty.').max(64, 'An “id” is at most 64 long.'));

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
