import { NEXT_LOADS_BY_LOG, worstR95, type ToldScatter } from '@/core/correction';
import { addFields, fieldToTransform, transformToField } from '@/core/fit';
import { compose, IDENTITY, invertAffine, rectCentre } from '@/core/geometry';
import { expectedByLog, logPrior, MEDIA_TO_TELL, newMedium, type MediumStands } from '@/core/record';
import type { Deps } from '@/server/base/deps';

import { listSetups } from './repository';
import type { Setup } from './setup';
import { daysOf, setupRecord, typedDoubt, typedField, type SetupRecord } from './setupRecord';

/** What the log expects of a setup's next load, before anything is read of it. */
export type ExpectedNow =
  | {
      readonly by: 'own-loads';
      readonly loads: number;
      /** What 95 of 100 cuts would stay within at the worst place, mm. */
      readonly r95Mm: number;
    }
  | {
      readonly by: 'other-media';
      readonly media: number;
      /** Within how much of the print the first cut should land, at the middle, mm. */
      readonly r95Mm: number;
    };

const DAY_MS = 86_400_000;

/** The end of a day: what is said of it holds all day long, and is the same wherever it is said. */
export const endOfDay = (at: Date): Date => new Date((Math.floor(+at / DAY_MS) + 1) * DAY_MS);

const wantedOf = (setup: Setup): Record<string, number> =>
  Object.fromEntries(setup.settings.map((s) => [s.id, s.wanted]));

function ownPrior(setup: Setup, record: SetupRecord, scatter: ToldScatter, now: Date) {
  const last = record.told.at(-1);
  if (!last || setup.settings.some((s) => !s.directionKnown)) return null;
  return logPrior(record.told, setup.workArea, scatter, {
    atDays: daysOf(now),
    afterEvent: record.eventSince,
    typedCovariance: typedDoubt(setup, last.typed, wantedOf(setup)),
  });
}

/**
 * How sure it still is: the setup's own loads on record, less sure by the day; of a medium that is new to its rig, where
 * the rig's other media stand. Null when neither tells anything.
 */
export async function expectedNow(
  deps: Deps,
  setup: Setup,
  record: SetupRecord,
  scatter: ToldScatter,
): Promise<ExpectedNow | null> {
  const now = endOfDay(deps.now());
  const prior = ownPrior(setup, record, scatter, now);
  if (prior) {
    const { own, covariance } = expectedByLog(prior);
    const machine = fieldToTransform(addFields(own, typedField(setup, wantedOf(setup))));
    const file = setup.standing.fileTransform ?? IDENTITY;
    const bias = transformToField(compose(machine, invertAffine(file)), rectCentre(setup.workArea));
    const { r95Mm } = worstR95(
      { bias, covariance, load: scatter, shares: NEXT_LOADS_BY_LOG },
      setup.workArea,
    );
    return { by: 'own-loads', loads: prior.sinceEvent, r95Mm };
  }
  // What was measured of it says more than any other medium.
  if (record.told.length > 0) return null;
  return byOtherMedia(deps, setup, scatter, now);
}

/** A figure kept for each medium may be another one for each: what it shows for the others says nothing of it. */
const sharesFigures = (setup: Setup): boolean => setup.settings.every((s) => s.kept === 'one');

async function byOtherMedia(
  deps: Deps,
  setup: Setup,
  scatter: ToldScatter,
  now: Date,
): Promise<ExpectedNow | null> {
  if (!sharesFigures(setup) || setup.standing.fileTransform !== null) return null;
  const others = (await listSetups(deps, setup.rigId)).filter((s) => s.mediaId !== setup.mediaId);
  if (others.length < MEDIA_TO_TELL) return null;
  const stand: MediumStands[] = [];
  for (const other of others) {
    const prior = ownPrior(other, await setupRecord(deps, other, now), scatter, now);
    if (!prior) continue;
    const { own, covariance } = expectedByLog(prior);
    const varMm2 = (covariance[4]![4]! + covariance[5]![5]!) / 2;
    stand.push({ xMm: own.exMm, yMm: own.eyMm, varMm2 });
  }
  const told = newMedium(stand, scatter.shiftMm);
  if (!told) return null;
  const typed = typedField(setup, wantedOf(setup));
  const off = Math.hypot(told.xMm + typed.exMm, told.yMm + typed.eyMm);
  return { by: 'other-media', media: stand.length, r95Mm: off + told.r95Mm };
}
