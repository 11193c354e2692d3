import { onPage } from '@/core/drawing';
import { pageSvgUrl } from '@/core/drawing/svg/writeSvg';
import { markPicture, markWarnings, registrationOf } from '@/core/marks';
import type { LengthUnit } from '@/core/units';
import { markKitSchema } from '@/core/setup/kitShapes';

import { readShopForm } from './readShopForm';
import type { ShopFields } from './shopTypes';

/** What the marks take out, what will go wrong, and how they look; nothing while a figure cannot be read. */
export function MarkAdvice({ fields, unit }: { fields: ShopFields; unit: LengthUnit }) {
  const { input } = readShopForm(fields, unit);
  const kit = markKitSchema.nullable().safeParse(input.marks);
  const sheet = { sheetWidthMm: Number(input.sheetWidthMm), sheetHeightMm: Number(input.sheetHeightMm) };
  if (!kit.success || !(sheet.sheetWidthMm > 0) || !(sheet.sheetHeightMm > 0)) return null;
  const { parameters } = registrationOf(kit.data, sheet);
  return (
    <>
      <p className="mt-3 mb-2">{REMOVES[parameters]}</p>
      {kit.data && (
        <>
          {markWarnings(kit.data, sheet).map((words) => (
            <p key={words} className="notice mb-2">
              {words}
            </p>
          ))}
          {/* eslint-disable-next-line @next/next/no-img-element -- a picture made here, no loader to gain from */}
          <img
            src={pageSvgUrl(
              onPage(
                { widthMm: sheet.sheetWidthMm, heightMm: sheet.sheetHeightMm },
                'marks',
                markPicture(kit.data, sheet),
              ),
            )}
            alt={`${kit.data.count} marks on the sheet, near edge below`}
            className="paper d-block mx-auto"
            style={{ maxHeight: 180, maxWidth: '100%', border: '1px solid var(--rp-rule)' }}
          />
        </>
      )}
    </>
  );
}

const REMOVES = {
  0: 'Nothing is registered on the print: everything that is off comes from the rig.',
  2: 'One mark takes out the shift of each load. How squarely the sheet was laid in comes new every time.',
  4: 'Two marks take out shift, turn and one scale of each load. What is left of them is the rig’s own.',
  6: 'These marks take out shift, turn, both scales and lean of each load. What is left is the rig’s own.',
} as const;
