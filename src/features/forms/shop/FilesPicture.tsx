import type { UseFormReturn } from 'react-hook-form';

import { frameMap } from '@/core/daily';
import { markOutline, markPlaces } from '@/core/marks';
import type { LengthUnit } from '@/core/units';
import { fileFrameSchema } from '@/core/daily/fileFrameShape';
import { markKitSchema } from '@/core/setup/kitShapes';
import { FramePicture } from '@/ui/pictures/FramePicture';

import { readShopForm } from './readShopForm';
import type { ShopFields } from './shopTypes';

/** The sheet with its marks, and the axes of its cut files as they were told. */
export function FilesPicture({ form, unit }: { form: UseFormReturn<ShopFields>; unit: LengthUnit }) {
  const { input } = readShopForm(form.watch(), unit);
  const [w, h] = [Number(input.sheetWidthMm), Number(input.sheetHeightMm)];
  if (!(w > 0) || !(h > 0)) return null;
  const read = markKitSchema.nullable().safeParse(input.marks);
  const marks = read.success ? read.data : null;
  const sheet = { sheetWidthMm: w, sheetHeightMm: h };
  const frame = fileFrameSchema.safeParse(input.fileFrame);
  const map = frame.success ? frameMap(frame.data, { ...sheet, marks }) : null;
  const lost = frame.success && map === null;
  return (
    <>
      <FramePicture
        widthMm={w}
        heightMm={h}
        marks={marks ? markPlaces(marks, sheet).map((p) => markOutline(marks, p)) : []}
        map={map}
        lines={[]}
        bounds={null}
        label={
          map ? 'The sheet with the axes of its cut files' : 'The sheet; how files lie on it is not told'
        }
      />
      {lost && (
        <p className="notice mt-2 mb-0">
          No marks are read here, so none can be the zero. Choose a corner or a place.
        </p>
      )}
    </>
  );
}
