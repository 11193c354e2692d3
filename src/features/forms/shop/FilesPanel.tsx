'use client';

import type { UseFormReturn } from 'react-hook-form';

import { HEADINGS, isMirrored, perpendicular, type Heading } from '@/core/daily';
import type { LengthUnit } from '@/core/units';
import { HEADING_WORDS } from '@/ui/words/frameWords';
import { useLater } from '@/ui/useLater';

import { Field, Select } from './ShopField';
import type { ShopFields } from './shopTypes';

/** Fetched once the form can be seen. */
const loadPicture = () => import('./FilesPicture');

const ZERO_OPTIONS = [
  ['near left', 'the near left corner of the sheet'],
  ['near right', 'the near right corner'],
  ['far left', 'the far left corner'],
  ['far right', 'the far right corner'],
  ['mark', 'the middle of the leading mark'],
  ['middle', 'the middle of the sheet'],
  ['typed', 'a place of the sheet that I type'],
] as const;

/** How this rig’s cut files lie on the sheet: a correction about the wrong zero is a wrong correction. */
export function FilesPanel({ form, unit }: { form: UseFormReturn<ShopFields>; unit: LengthUnit }) {
  const frame = form.watch('fileFrame');
  const later = useLater(loadPicture);
  const turnY = (x: Heading): void => {
    const y = form.getValues('fileFrame.yRuns');
    if (y === '' || !perpendicular(x, y)) form.setValue('fileFrame.yRuns', quarterTurn(x));
  };
  const known = frame.xRuns !== '';
  return (
    <fieldset className="panel">
      <legend className="h2 fs-6 fw-bold">How its cut files lie</legend>
      <p className="small-print">
        Held with the printed side up and the bob towards you. Look at a file that this cutter cut: which way
        did its x go, and where was its zero? Of an SVG, zero is the lower left corner of its page. Marks
        drawn in a file are found and settle it anyway.
      </p>
      <div className="row g-3">
        <Select
          form={form}
          name="fileFrame.xRuns"
          label="x runs"
          options={[['', 'not told yet'], ...HEADINGS.map((h) => [h, HEADING_WORDS[h]] as const)]}
          onChoose={(x: Heading | '') => x !== '' && turnY(x)}
        />
        {frame.xRuns !== '' && (
          <>
            <Select
              // Its choices go with x: laid out afresh it shows what was chosen among them.
              key={frame.xRuns}
              form={form}
              name="fileFrame.yRuns"
              label="y runs"
              options={HEADINGS.filter((h) => perpendicular(h, frame.xRuns as Heading)).map(
                (h) => [h, HEADING_WORDS[h]] as const,
              )}
            />
            <Select form={form} name="fileFrame.zero.at" label="Its zero lies at" options={ZERO_OPTIONS} />
            {frame.zero.at === 'typed' && (
              <>
                <Field form={form} name="fileFrame.zero.xMm" label={`From the left edge, ${unit}`} />
                <Field form={form} name="fileFrame.zero.yMm" label={`From the near edge, ${unit}`} />
              </>
            )}
          </>
        )}
      </div>
      {known && frame.yRuns !== '' && isMirrored({ xRuns: frame.xRuns as Heading, yRuns: frame.yRuns }) && (
        <p className="notice mt-2 mb-0">
          Files that lie so are mirror images of what is cut. That is right for art that is printed reversed.
        </p>
      )}
      {later && <later.FilesPicture form={form} unit={unit} />}
    </fieldset>
  );
}

/** The direction a quarter turn anticlockwise of another. */
const quarterTurn = (h: Heading): Heading => HEADINGS[(HEADINGS.indexOf(h) + 1) % HEADINGS.length]!;
