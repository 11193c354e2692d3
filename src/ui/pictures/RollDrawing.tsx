import { copyAtMm, rollerRoom, type Imposition, type Rollers, type Section } from '@/core/layout';
import { markPlaces, type MarkKit } from '@/core/marks';
import { plainLength, type LengthUnit } from '@/core/units';

const BOX = { width: 720, pad: 14, top: 30, foot: 48 };
/** Above this many items their rows are drawn as bars. */
const MOST_ITEMS = 600;

type State = 'plan' | 'now' | 'done';

/**
 * The roll with its near end on the left and its left edge on top, as it is when it is turned by a quarter and not
 * mirrored: lead, sections with their rows and marks, tail, the test cut where it is made, and where the rollers run.
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
  bobFirst,
  current,
  bare = false,
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
  rollers: Rollers & { readonly testCutTurned: boolean };
  /** Which end left the printer first; null while nobody has looked. */
  bobFirst: boolean | null;
  current: number | null;
  /** With its numbers only: what the words say was told before the run. */
  bare?: boolean;
  unit: LengthUnit;
}) {
  const lengthMm = leadMm + sections.at(-1)!.endMm + tailMm;
  const height = Math.max(64, Math.min(150, ((BOX.width - 2 * BOX.pad) / lengthMm) * mediaWidthMm));
  const x = (mm: number): number => BOX.pad + ((BOX.width - 2 * BOX.pad) * mm) / lengthMm;
  const edge = (mediaWidthMm - printableWidthMm) / 2;
  const y = (mm: number): number => BOX.top + (height * mm) / mediaWidthMm;
  // Turned round for its test cut, the far end comes under the blade.
  const turned = rollers.testCutTurned;
  const labels = Math.ceil(sections.length / 24);
  const room = marks && rollerRoom(marks, rollers);
  const foot = BOX.top + height;
  return (
    <svg
      className="paper"
      viewBox={`0 ${bare ? BOX.top - 8 : 0} ${BOX.width} ${foot + (bare ? 24 - BOX.top + 8 : BOX.foot)}`}
      width="100%"
      role="img"
      aria-label={`${sections.length} sections with ${imposition.columns} columns on media ${plainLength(mediaWidthMm, unit)} wide, ${plainLength(printableWidthMm, unit)} of it printable; lead ${plainLength(leadMm, unit)}, tail ${plainLength(tailMm, unit)}${imposition.turned ? '; items turned by 90° anticlockwise' : ''}.`}
    >
      {!bare && (
        <>
          <text x={BOX.pad} y={19}>
            near end{bobFirst === null ? '' : bobFirst ? ', printed first' : ', printed last'}; left edge on
            top
            {imposition.turned && '; items turned 90° anticlockwise'}
          </text>
          <text x={BOX.width - BOX.pad} y={19} textAnchor="end" className="soft">
            {plainLength(printableWidthMm, unit)} printable of {plainLength(mediaWidthMm, unit)} overall
          </text>
        </>
      )}
      <rect
        x={x(0)}
        y={y(0)}
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
              y={y(near)}
              width={x(lengthMm) - x(0)}
              height={Math.max(2.4, y(far) - y(near))}
              fill="var(--rp-ink-soft)"
              opacity="0.45"
            />
          )
        );
      })}
      <TestCut
        x={x(turned ? lengthMm - tailMm / 2 : leadMm / 2)}
        y={y(mediaWidthMm / 2)}
        size={Math.min(x(turned ? tailMm : leadMm) - x(0), 0.4 * height) * 0.55}
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
      {!bare && (
        <>
          <text x={BOX.pad} y={foot + 38} className="soft">
            lead {plainLength(leadMm, unit)}: rollers{turned ? '' : ', test cut'}
          </text>
          {room && (
            <text x={BOX.width / 2} y={foot + 38} textAnchor="middle" className="soft">
              {room.every((r) => r.fits)
                ? 'grey: the rollers run here'
                : 'no room for the rollers outside the marks'}
            </text>
          )}
          <text x={BOX.width - BOX.pad} y={foot + 38} textAnchor="end" className="soft">
            tail {plainLength(tailMm, unit)}: {turned ? 'test cut, ' : ''}covers the sensor
          </text>
        </>
      )}
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
        y={y(0)}
        width={Math.max(1, x(section.endMm) - x(section.startMm))}
        height={y(printableWidthMm) - y(0)}
        fill={state === 'now' ? 'color-mix(in srgb, var(--rp-print) 9%, transparent)' : 'none'}
        stroke="var(--rp-ink)"
        strokeWidth={state === 'now' ? 2.2 : 0.8}
      />
      {Array.from({ length: section.rows }, (_, row) => {
        const left = x(section.startMm + markRoomMm + row * (imposition.itemHeightMm + imposition.gapMm));
        const copies = Math.min(imposition.columns, section.copies - row * imposition.columns);
        const at = (column: number): number => copyAtMm(imposition, section.firstRow - 1 + row, column);
        if (bars) {
          const [from, to] = [at(0), at(copies - 1) + imposition.itemWidthMm];
          return (
            <rect
              key={row}
              x={left}
              y={y(from)}
              width={Math.max(0.6, rowHeight)}
              height={y(to) - y(from)}
              fill="var(--rp-print)"
              opacity={state === 'done' ? 0.35 : 0.85}
            />
          );
        }
        return Array.from({ length: copies }, (__, column) => {
          const from = at(column);
          return (
            <rect
              key={`${row} ${column}`}
              x={left}
              y={y(from)}
              width={Math.max(1, rowHeight)}
              height={Math.max(1, y(from + imposition.itemWidthMm) - y(from))}
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
