'use client';

import { useRef, type KeyboardEvent, type PointerEvent } from 'react';

import type { Outline } from '@/core/drift';
import { operatorDirection, type Loaded } from '@/core/geometry';
import { plainLength, type LengthUnit } from '@/core/units';
import { roundLength } from '@/ui/pictures/SheetMap';

import { missScale, nudged, offsetsText, type CheckOffsets } from './checkReading';

const BOX = { width: 480, height: 320, item: 150, room: 78, foot: 26 };
/** A finger that only rests here, or passes by, reads nothing. */
const STILL_PX = 5;

/**
 * An item as it would look at this reading: where the cut should be (red), what it may miss by (grey), and where it is
 * (dashed), the miss magnified; as the piece lies in the machine. Arrow keys or a finger move the cut until picture and piece agree.
 */
export function CheckPicture({
  offsets,
  toleranceMm,
  outline,
  item,
  loaded,
  unit,
  onMove,
}: {
  offsets: CheckOffsets;
  toleranceMm: number;
  outline: Outline;
  item: { readonly widthMm: number; readonly heightMm: number };
  /** How the piece lies before the operator: the picture is the same way up as the loading card. */
  loaded: Loaded;
  unit: LengthUnit;
  onMove: ((axis: 'across' | 'along', mm: number) => void) | null;
}) {
  const { toRight, toFar } = sidesOf(loaded);
  const drag = useRef<{ x: number; y: number; scale: number; from: CheckOffsets; moved: boolean } | null>(
    null,
  );
  const scale = missScale(offsets, toleranceMm, BOX.room);
  const toItem = BOX.item / Math.max(item.widthMm, item.heightMm);
  const [w, h] = [Math.max(24, item.widthMm * toItem), Math.max(24, item.heightMm * toItem)];
  const middle = { x: BOX.width / 2, y: (BOX.height - BOX.foot) / 2 };
  const shape = (grow: number, dx = 0, dy = 0) =>
    outline === 'round' ? (
      <ellipse cx={middle.x + dx} cy={middle.y - dy} rx={w / 2 + grow} ry={h / 2 + grow} />
    ) : (
      <rect
        x={middle.x + dx - w / 2 - grow}
        y={middle.y - dy - h / 2 - grow}
        width={w + 2 * grow}
        height={h + 2 * grow}
      />
    );
  const { dxMm, dyMm } = offsets;
  const allowed = scale * toleranceMm;
  /** How many times larger than the item the miss is drawn. */
  const magnified = Number((scale / toItem).toPrecision(2));
  const bar = roundLength(40 / scale);
  const press = (event: KeyboardEvent): void => {
    const to = onMove && nudged(offsets, keyOnSheet(event.key, toRight, toFar), event.shiftKey, unit);
    if (!to) return;
    event.preventDefault();
    onMove(to.axis, to.mm);
  };
  const move = (event: PointerEvent): void => {
    const from = drag.current;
    if (!from || !onMove) return;
    from.moved ||= Math.hypot(event.clientX - from.x, event.clientY - from.y) > STILL_PX;
    if (!from.moved) return;
    const px = BOX.width / event.currentTarget.querySelector('svg')!.getBoundingClientRect().width;
    const snapped = (start: number | null, by: number): number =>
      Math.round(((start ?? 0) + (by * px) / from.scale) * 100) / 100;
    onMove('across', snapped(from.from.dxMm, toRight * (event.clientX - from.x)));
    onMove('along', snapped(from.from.dyMm, toFar * (from.y - event.clientY)));
  };
  const found = offsetsText(offsets, unit);
  const words = found ? `The cut lies ${found}.` : 'Nothing is read yet: the cut is drawn as it should be.';
  return (
    <div
      role="group"
      aria-label={onMove ? 'Match the picture: arrow keys move the cut, with Shift in fine steps' : 'Picture'}
      tabIndex={onMove ? 0 : undefined}
      className={onMove ? 'match-piece match' : 'match-piece'}
      onKeyDown={press}
      onPointerDown={(event) => {
        if (!onMove) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        drag.current = { x: event.clientX, y: event.clientY, scale, from: offsets, moved: false };
      }}
      onPointerMove={move}
      onPointerUp={() => (drag.current = null)}
      onPointerCancel={() => (drag.current = null)}
    >
      <div className="piece">
        <svg
          viewBox={`0 0 ${BOX.width} ${BOX.height}`}
          width="100%"
          role="img"
          aria-label={words}
          fill="none"
        >
          <g fill="var(--rp-print)" opacity="0.22">
            {shape(0)}
          </g>
          <g stroke="var(--rp-ink-soft)" strokeWidth="1" strokeDasharray="1 3">
            {shape(allowed)}
            {allowed < Math.min(w, h) / 2 - 2 && shape(-allowed)}
          </g>
          <g stroke="var(--rp-plumb)" strokeWidth="1.5">
            {shape(0)}
          </g>
          <g stroke="var(--rp-cut)" strokeWidth="2.5" strokeDasharray="7 4" opacity={found ? 1 : 0.45}>
            {shape(0, toRight * scale * (dxMm ?? 0), toFar * scale * (dyMm ?? 0))}
          </g>
          <path d={`M10 ${BOX.height - 12}v4h${bar * scale}v-4`} stroke="var(--rp-ink)" strokeWidth="1.5" />
          <text x={10 + bar * scale + 8} y={BOX.height - 7}>
            <tspan className="mono">{plainLength(bar, unit)}</tspan>
            <tspan className="soft">, ×{magnified}; as it lies in the machine</tspan>
          </text>
        </svg>
      </div>
      {SIDES.map((key) => {
        const arrow = keyOnSheet(key, toRight, toFar);
        return (
          <button
            key={key}
            type="button"
            className={`side-key ${key}`}
            aria-label={`Move the cut ${SIDE_WORDS[arrow]}`}
            disabled={onMove === null}
            // The picture's own arrow keys do the same.
            tabIndex={-1}
            onPointerDown={(event) => event.stopPropagation()}
            onClick={(event) => {
              const to = nudged(offsets, arrow, event.shiftKey, unit);
              if (to && onMove) onMove(to.axis, to.mm);
            }}
          >
            {SIDE_WORDS[arrow]}
          </button>
        );
      })}
    </div>
  );
}

const SIDES = ['ArrowUp', 'ArrowLeft', 'ArrowRight', 'ArrowDown'] as const;

/** What lies on which side of the piece, by the arrow key that moves the cut there on the sheet. */
const SIDE_WORDS: Readonly<Record<string, string>> = {
  ArrowUp: 'further along',
  ArrowDown: 'back, to the near edge',
  ArrowLeft: 'left',
  ArrowRight: 'right',
};

const OPPOSITE: Readonly<Record<string, string>> = {
  ArrowRight: 'ArrowLeft',
  ArrowLeft: 'ArrowRight',
  ArrowUp: 'ArrowDown',
  ArrowDown: 'ArrowUp',
};

/** +1 where right of the sheet is on the operator’s right, and where further is away from them; −1 else. */
export const sidesOf = (loaded: Loaded): { readonly toRight: number; readonly toFar: number } => ({
  toRight: operatorDirection({ x: 1, y: 0 }, loaded).x,
  toFar: operatorDirection({ x: 0, y: 1 }, loaded).y,
});

/** The arrow key that means on the sheet what this one does on the picture. */
function keyOnSheet(key: string, toRight: number, toFar: number): string {
  const sideways = key === 'ArrowRight' || key === 'ArrowLeft';
  return (sideways ? toRight : toFar) > 0 ? key : (OPPOSITE[key] ?? key);
}
