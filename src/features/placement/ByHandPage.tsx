import Link from 'next/link';
import { notFound } from 'next/navigation';

import { frameMap, frameWords } from '@/core/daily';
import { IDENTITY } from '@/core/geometry';
import { markPlaces } from '@/core/marks';
import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { getSetup } from '@/server/setups/repository';
import { sizeWords } from '@/ui/words/sizeWords';

import { ByHandDesk } from './ByHandDesk';

/** Where the print lies, from where the tool was driven by hand over its marks; and the cut file moved there. */
export async function ByHandPage({ params }: { params: Promise<{ id: string }> }) {
  const id = idSchema.safeParse((await params).id);
  if (!id.success) notFound();
  const setup = await getSetup(requestDeps(), id.data);
  if (!setup) notFound();
  const { unit } = await preferences();
  const { sheetWidthMm, sheetHeightMm, marks, fileFrame } = setup;
  const toSheet = fileFrame && frameMap(fileFrame, { sheetWidthMm, sheetHeightMm, marks });
  return (
    <Page
      title={`Find the print by hand: ${setup.media} on ${setup.name}`}
      context={
        <>
          <Link href={`/setups/${setup.id}`}>
            <strong>{setup.name}</strong>
          </Link>
          <span className="soft">
            {setup.media}, {sizeWords(setup, unit)}
          </span>
        </>
      }
    >
      <ByHandDesk
        media={setup.media}
        sheet={{ widthMm: sheetWidthMm, heightMm: sheetHeightMm }}
        marks={marks === null ? [] : markPlaces(marks, setup).map((m) => m.centre)}
        workArea={setup.workArea}
        toSheet={toSheet ?? IDENTITY}
        lies={toSheet && fileFrame ? frameWords(fileFrame, unit) : null}
        unit={unit}
      />
    </Page>
  );
}
