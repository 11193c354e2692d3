import { copyAtMm, rollerRoom, type Imposition, type Rollers, type Section } from '@/core/layout';
import { markPlaces, type MarkKit } from '@/core/marks';
import { plainLength, type LengthUnit } from '@/core/units';

const BOX = { width: 720, pad: 14, top: 30, foot: 48 };
/** Above this many items their rows are drawn as bars. */
const MOST_ITEMS = 600;

type State = 'plan' | 'now' | 'done';

/**
 * The roll as it comes out of the printer, first edge on the left: lead with its test cut, sections with their rows and
 * marks, tail, and where the rollers run.
 */
export function RollDrawing({
  imposition,
  sections,
  markRoomMm,
  leadMm,
  tailMm,
  printableWidthMm,
  mediaWidthMm,
  marks,
  rollers,
  current,
  unit,
}: {
  imposition: Imposition;
  sections: readonly Section[];
  markRoomMm: number;
  leadMm: number;
  tailMm: number;
  printableWidthMm: number;
  mediaWidthMm: number;
  marks: MarkKit | null;
  rollers: Rollers;
  current: number | null;
  unit: LengthUnit;
}) {
  const lengthMm = leadMm + sections.at(-1)!.endMm + tailMm;
  const height = Math.max(64, Math.min(150, ((BOX.width - 2 * BOX.pad) / lengthMm) * mediaWidthMm));
  const x = (mm: number): number => BOX.pad + ((BOX.width - 2 * BOX.pad) * mm) / lengthMm;
  const edge = (mediaWidthMm - printableWidthMm) / 2;
  // Across the media runs upwards: left edge of the print below.
  const y = (mm: number): number => BOX.top + height - (height * mm) / mediaWidthMm;
  const labels = Math.ceil(sections.length / 24);
  const room = marks && rollerRoom(marks, rollers);
  const foot = BOX.top + height;
  return (
    <svg
      className="paper"
      viewBox={`0 0 ${BOX.width} ${foot + BOX.foot}`}
      width="100%"
      role="img"
      aria-label={`${sections.length} sections with ${imposition.columns} columns on media ${plainLength(mediaWidthMm, unit)} wide, ${plainLength(printableWidthMm, unit)} of it printable; lead ${plainLength(leadMm, unit)}, tail ${plainLength(tailMm, unit)}.`}
    >
      <text x={BOX.pad} y={19}>
        printed first
      </text>
      <text x={BOX.width - BOX.pad} y={19} textAnchor="end" className="soft">
        {plainLength(printableWidthMm, unit)} printable of {plainLength(mediaWidthMm, unit)} overall
      </text>
      <rect
        x={x(0)}
        y={y(mediaWidthMm)}
        width={x(lengthMm) - x(0)}
        height={height}
        fill="none"
        stroke="var(--rp-rule)"
        strokeWidth="1.5"
      />
      {room?.map(({ side, fromMm, toMm, fits }) => {
        const [near, far] = side === 'left' ? [fromMm, toMm] : [mediaWidthMm - toMm, mediaWidthMm - fromMm];
        return (
          fits && (
            <rect
              key={side}
              x={x(0)}
              y={y(far)}
              width={x(lengthMm) - x(0)}
              height={Math.max(2.4, y(near) - y(far))}
              fill="var(--rp-ink-soft)"
              opacity="0.45"
            />
          )
        );
      })}
      <TestCut
        x={x(leadMm / 2)}
        y={y(mediaWidthMm / 2)}
        size={Math.min(x(leadMm) - x(0), 0.4 * height) * 0.55}
      />
      {sections.map((section) => (
        <SectionShape
          key={section.index}
          section={section}
          state={stateOf(section, current)}
          x={(mm) => x(leadMm + mm)}
          y={(mm) => y(edge + mm)}
          imposition={imposition}
          markRoomMm={markRoomMm}
          printableWidthMm={printableWidthMm}
        />
      ))}
      {marks &&
        sections.flatMap((section) =>
          markPlaces(marks, {
            sheetWidthMm: mediaWidthMm,
            sheetHeightMm: section.endMm - section.startMm + marks.insetNearMm + marks.insetFarMm,
          }).map(({ name, centre }) => (
            <circle
              key={`${section.index} ${name}`}
              cx={x(leadMm + section.startMm + centre.y - marks.insetNearMm)}
              cy={y(centre.x)}
              r="1.8"
              fill="var(--rp-ink)"
            />
          )),
        )}
      {sections
        .filter((s) => (s.index - 1) % labels === 0)
        .map((s) => (
          <text
            key={s.index}
            x={x(leadMm + (s.startMm + s.endMm) / 2)}
            y={foot + 17}
            textAnchor="middle"
            className="mono"
          >
            {s.index}
          </text>
        ))}
      <text x={BOX.pad} y={foot + 38} className="soft">
        lead {plainLength(leadMm, unit)}: rollers, test cut
      </text>
      {room && (
        <text x={BOX.width / 2} y={foot + 38} textAnchor="middle" className="soft">
          {room.every((r) => r.fits)
            ? 'grey: the rollers run here'
            : 'no room for the rollers outside the marks'}
        </text>
      )}
      <text x={BOX.width - BOX.pad} y={foot + 38} textAnchor="end" className="soft">
        tail {plainLength(tailMm, unit)}: covers the sensor
      </text>
    </svg>
  );
}

function stateOf(section: Section, current: number | null): State {
  if (current === null || section.index > current) return 'plan';
  return section.index < current ? 'done' : 'now';
}

/** Two small shapes, one inside the other: one is weeded, the other stays put. */
function TestCut({ x, y, size }: { x: number; y: number; size: number }) {
  if (size < 6) return null;
  const square = (side: number): string => `M${x - side / 2} ${y - side / 2}h${side}v${side}h${-side}z`;
  return (
    <path
      d={`${square(size)}${square(size * 0.45)}`}
      fill="none"
      stroke="var(--rp-cut)"
      strokeWidth="1.2"
      strokeDasharray="3 2"
    />
  );
}

function SectionShape({
  section,
  state,
  x,
  y,
  imposition,
  markRoomMm,
  printableWidthMm,
}: {
  section: Section;
  state: State;
  /** From the start of the first section. */
  x: (mm: number) => number;
  /** From the printable area's left. */
  y: (mm: number) => number;
  imposition: Imposition;
  markRoomMm: number;
  printableWidthMm: number;
}) {
  const bars = imposition.copies > MOST_ITEMS;
  const rowHeight = x(imposition.itemHeightMm) - x(0);
  return (
    <g>
      <rect
        x={x(section.startMm)}
        y={y(printableWidthMm)}
        width={Math.max(1, x(section.endMm) - x(section.startMm))}
        height={y(0) - y(printableWidthMm)}
        fill={state === 'now' ? 'color-mix(in srgb, var(--rp-print) 9%, transparent)' : 'none'}
        stroke="var(--rp-ink)"
        strokeWidth={state === 'now' ? 2.2 : 0.8}
      />
      {Array.from({ length: section.rows }, (_, row) => {
        const left = x(section.startMm + markRoomMm + row * (imposition.itemHeightMm + imposition.gapMm));
        const copies = Math.min(imposition.columns, section.copies - row * imposition.columns);
        if (bars)
          return (
            <rect
              key={row}
              x={left}
              y={y(imposition.usedWidthMm)}
              width={Math.max(0.6, rowHeight)}
              height={(y(0) - y(imposition.usedWidthMm)) * (copies / imposition.columns)}
              fill="var(--rp-print)"
              opacity={state === 'done' ? 0.35 : 0.85}
            />
          );
        return Array.from({ length: copies }, (__, column) => {
          const at = copyAtMm(imposition, section.firstRow - 1 + row, column);
          return (
            <rect
              key={`${row} ${column}`}
              x={left}
              y={y(at + imposition.itemWidthMm)}
              width={Math.max(1, rowHeight)}
              height={Math.max(1, y(at) - y(at + imposition.itemWidthMm))}
              fill="var(--rp-print)"
              fillOpacity={state === 'done' ? 0.3 : 0.85}
              stroke="var(--rp-cut)"
              strokeWidth="1.2"
              strokeDasharray="3 2"
            />
          );
        });
      })}
    </g>
  );
}
