import { labelText } from '@/core/proof';
import {
  cutLineMm,
  lineLabelMm,
  pickFromSteps,
  pickOffsetMm,
  printedLineMm,
  type LineComb,
} from '@/core/comb';
import type { LengthUnit } from '@/core/units';
import { BOB_PATH } from '@/ui/pictures/PlumbGlyph';

const SIZE = { across: { width: 520, height: 400 }, along: { width: 520, height: 470 } } as const;

/**
 * The comb as it looks through a loupe when the offset is that of `steps`: printed lines with their labels,
 * cut lines dashed, and the plumb line through the pair that runs straight through. The same layout as on paper.
 */
export function CombPicture({
  comb,
  steps,
  unit,
  words,
}: {
  comb: LineComb;
  steps: number;
  unit: LengthUnit;
  words: string;
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
  compact = false,
}: {
  comb: LineComb;
  unit: LengthUnit;
  landed: readonly number[];
  plumbAt: number | null;
  bold: number | null;
  words: string;
  compact?: boolean;
}) {
  const across = comb.axis === 'across';
  const box = compact ? { width: 240, height: across ? 150 : 230 } : SIZE[comb.axis];
  const span = printedLineMm(comb, comb.halfLines) * 2;
  const room = (across ? box.width : box.height) - (compact ? 24 : 56);
  const scale = room / (span + printedLineMm(comb, 1));
  const middle = across ? box.width / 2 : box.height / 2;
  const along = (m: number): number => (across ? middle + m * scale : middle - m * scale);
  const rows = rowsOf(across, compact);
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
      style={{ maxHeight: compact ? undefined : '58vh' }}
    >
      {Array.from({ length: 2 * comb.halfLines + 1 }, (_, i) => i - comb.halfLines).map((k) => {
        const m = printedLineMm(comb, k);
        const labelled = k % 2 === 0;
        return (
          <g key={k}>
            <path
              d={stroke(m, rows.printFrom, labelled ? rows.printLong : rows.printTo)}
              stroke="var(--rp-print)"
              strokeWidth={compact ? 2 : 5}
            />
            {labelled && (
              <text
                x={across ? along(m) : rows.label}
                y={across ? rows.label : along(m)}
                dy={across ? undefined : '0.35em'}
                textAnchor={across ? 'middle' : 'end'}
                className="mono"
                style={{ fontSize: compact ? 10 : 17, fontWeight: k === bold ? 700 : 400 }}
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
          strokeWidth={compact ? 1.6 : 3.4}
          strokeDasharray={compact ? '5 2' : '11 4'}
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
function rowsOf(across: boolean, compact: boolean) {
  const k = compact ? 0.42 : 1;
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
