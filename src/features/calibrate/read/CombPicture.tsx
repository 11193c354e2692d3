import { labelText } from '@/core/proof';
import {
  cutLineMm,
  lineLabelMm,
  pickFromSteps,
  pickOffsetMm,
  printedLineMm,
  type LineComb,
} from '@/core/comb';
import type { LengthUnit, OffsetAxis } from '@/core/units';
import { BOB_PATH } from '@/ui/pictures/PlumbGlyph';

/** By itself, as a small stand-in of a loupe, or beside the comb of the other axis. */
type Size = 'large' | 'compact' | 'pair';

interface Look {
  readonly across: { readonly width: number; readonly height: number };
  readonly along: { readonly width: number; readonly height: number };
  /** Left free at the two ends of the comb together. */
  readonly ends: number;
  /** Distances across the comb, as a share of those of the large picture. */
  readonly rows: number;
  readonly printed: number;
  readonly cut: number;
  readonly dashes: string;
  readonly label: Readonly<Record<OffsetAxis, number>>;
}

const LOOKS: Readonly<Record<Size, Look>> = {
  large: {
    ...{ across: { width: 520, height: 400 }, along: { width: 520, height: 470 }, ends: 56, rows: 1 },
    ...{ printed: 5, cut: 3.4, dashes: '11 4', label: { across: 17, along: 17 } },
  },
  compact: {
    ...{ across: { width: 240, height: 150 }, along: { width: 240, height: 230 }, ends: 24, rows: 0.42 },
    ...{ printed: 2, cut: 1.6, dashes: '5 2', label: { across: 10, along: 10 } },
  },
  pair: {
    ...{ across: { width: 520, height: 290 }, along: { width: 390, height: 470 }, ends: 40, rows: 0.8 },
    ...{ printed: 5, cut: 3.4, dashes: '10 4', label: { across: 21, along: 24 } },
  },
};

/**
 * The comb as it looks through a loupe when the offset is that of `steps`: printed lines with their labels,
 * cut lines dashed, and the plumb line through the pair that runs straight through. The same layout as on paper.
 */
export function CombPicture({
  comb,
  steps,
  unit,
  words,
  size = 'large',
}: {
  comb: LineComb;
  steps: number;
  unit: LengthUnit;
  words: string;
  size?: Size;
}) {
  const pick = pickFromSteps(comb, steps);
  const offset = pickOffsetMm(comb, pick);
  const landed = Array.from({ length: 41 }, (_, index) => cutLineMm(comb, index - 20) + offset);
  const between = pick.between ? 0.5 : 0;
  return (
    <LoupeView
      comb={comb}
      unit={unit}
      landed={landed}
      plumbAt={printedLineMm(comb, pick.line) + between * (printedLineMm(comb, 1) - printedLineMm(comb, 0))}
      bold={pick.between ? null : pick.line}
      words={words}
      size={size}
    />
  );
}

/** What a loupe would show, with no plumb line to lead the eye: the simulated rig's stand-in. */
export function LoupeView({
  comb,
  unit,
  landed,
  plumbAt,
  bold,
  words,
  size = 'compact',
}: {
  comb: LineComb;
  unit: LengthUnit;
  landed: readonly number[];
  plumbAt: number | null;
  bold: number | null;
  words: string;
  size?: Size;
}) {
  const look = LOOKS[size];
  const across = comb.axis === 'across';
  const box = look[comb.axis];
  const span = printedLineMm(comb, comb.halfLines) * 2;
  const room = (across ? box.width : box.height) - look.ends;
  const scale = room / (span + printedLineMm(comb, 1));
  const middle = across ? box.width / 2 : box.height / 2;
  const along = (m: number): number => (across ? middle + m * scale : middle - m * scale);
  const rows = rowsOf(across, look.rows);
  const stroke = (m: number, from: number, to: number): string =>
    across ? `M${along(m)} ${from}V${to}` : `M${from} ${along(m)}H${to}`;
  const inside = landed.filter((m) => Math.abs(m) < span / 2 + printedLineMm(comb, 1) * 0.45);
  return (
    <svg
      className="paper"
      viewBox={`0 0 ${box.width} ${box.height}`}
      width="100%"
      role="img"
      aria-label={words}
      style={{ maxHeight: size === 'large' ? '58vh' : undefined }}
    >
      {Array.from({ length: 2 * comb.halfLines + 1 }, (_, i) => i - comb.halfLines).map((k) => {
        const m = printedLineMm(comb, k);
        const labelled = k % 2 === 0;
        return (
          <g key={k}>
            <path
              d={stroke(m, rows.printFrom, labelled ? rows.printLong : rows.printTo)}
              stroke="var(--rp-print)"
              strokeWidth={look.printed}
            />
            {labelled && (
              <text
                x={across ? along(m) : rows.label}
                y={across ? rows.label : along(m)}
                dy={across ? undefined : '0.35em'}
                textAnchor={across ? 'middle' : 'end'}
                className="mono"
                style={{ fontSize: look.label[comb.axis], fontWeight: k === bold ? 700 : 400 }}
              >
                {labelText(lineLabelMm(comb, k), unit)}
              </text>
            )}
          </g>
        );
      })}
      {inside.map((m, i) => (
        <path
          key={i}
          d={stroke(m, rows.cutFrom, rows.cutTo)}
          stroke="var(--rp-cut)"
          strokeWidth={look.cut}
          strokeDasharray={look.dashes}
        />
      ))}
      {plumbAt !== null && (
        <g>
          <path
            d={stroke(plumbAt, rows.plumbFrom, rows.plumbTo)}
            stroke="var(--rp-plumb)"
            strokeWidth="1.8"
          />
          <path
            d={BOB_PATH}
            fill="var(--rp-plumb)"
            transform={
              across
                ? `translate(${along(plumbAt)} ${rows.plumbTo - 2}) scale(0.8)`
                : `translate(${rows.plumbFrom + 2} ${along(plumbAt)}) rotate(90) scale(0.8)`
            }
          />
        </g>
      )}
    </svg>
  );
}

/** Distances from the picture's edge: across runs down the picture, along runs to the right. */
function rowsOf(across: boolean, k: number) {
  const rows = across
    ? {
        cutFrom: 26,
        cutTo: 168,
        printFrom: 128,
        printTo: 262,
        printLong: 276,
        label: 304,
        plumbFrom: 12,
        plumbTo: 332,
      }
    : {
        cutFrom: 262,
        cutTo: 430,
        printFrom: 302,
        printTo: 152,
        printLong: 138,
        label: 124,
        plumbFrom: 46,
        plumbTo: 452,
      };
  return Object.fromEntries(Object.entries(rows).map(([name, v]) => [name, v * k])) as typeof rows;
}
