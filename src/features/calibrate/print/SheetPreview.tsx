import type { PageDrawing } from '@/core/drawing';
import { pageSvgUrl } from '@/core/drawing/svg/writeSvg';
import { plainLength, type LengthUnit } from '@/core/units';

/** Print and cut on one picture, made from the same geometry as the files. Cut lines are dashed here only. */
export function SheetPreview({
  print,
  cuts,
  unit,
}: {
  print: PageDrawing;
  cuts: PageDrawing;
  unit: LengthUnit;
}) {
  const { widthMm, heightMm } = print.page;
  const tall = heightMm > widthMm;
  const strip = heightMm > 1.45 * widthMm;
  return (
    <figure className="m-0">
      <div
        // A strip is longer than any screen: it scrolls in its own frame.
        {...(strip ? { tabIndex: 0, role: 'group', 'aria-label': 'The strip, near edge at the end' } : {})}
        className="position-relative"
        style={{
          maxWidth: strip ? '100%' : tall ? 'min(100%, 56vh)' : '100%',
          ...(strip ? { maxHeight: '76vh', overflowY: 'auto' } : {}),
          background: '#fdfbf5',
          border: '1px solid var(--rp-rule)',
        }}
      >
        {/* eslint-disable-next-line @next/next/no-img-element -- a picture made here, no loader to gain from */}
        <img
          src={pageSvgUrl(print)}
          alt="The print layer of the proof sheet, near edge below"
          style={{ width: '100%', display: 'block' }}
        />
        {/* eslint-disable-next-line @next/next/no-img-element -- as above */}
        <img
          src={pageSvgUrl(cuts)}
          alt="Its cut lines, set A"
          style={{ position: 'absolute', left: 0, top: 0, width: '100%' }}
        />
      </div>
      <figcaption className="small-print mt-1">
        {plainLength(widthMm, unit)} × {plainLength(heightMm, unit)}
      </figcaption>
    </figure>
  );
}
