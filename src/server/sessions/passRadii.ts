import { onePerProcess } from '@/process/onePerProcess';
import { contentHash } from '@/server/base/contentHash';
import { Remembered } from '@/server/base/remembered';

import { type Session } from './session';
import { assess } from './assess';

/** Sessions whose radii are remembered between pages: newer ones are looked at again and again. */
const MOST_REMEMBERED = 300;
const remembered = onePerProcess(
  'pass radii',
  () => new Remembered<readonly (number | null)[]>(MOST_REMEMBERED),
);

/** What 95 of 100 cuts were found to stay within, pass by pass, mm; null where a pass says nothing of both axes. */
export const passRadii = (session: Session): Promise<readonly (number | null)[]> =>
  remembered.of(session.id, stampOf(session), () =>
    // How far one axis alone is off is another figure.
    Promise.resolve(
      session.passes.map((pass) => {
        const told = assess(session, pass);
        return told?.state ? told.r95Mm : null;
      }),
    ),
  );

/** Moves with all that an assessment is made from: also with the log of before, from which a session can be thrown away. */
const stampOf = ({ version, changes, setup, record, acuityMm }: Session): string =>
  contentHash(version, changes, setup, record, acuityMm);
