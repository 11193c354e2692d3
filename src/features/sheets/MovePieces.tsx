'use client';

import { useEffect, useState, type KeyboardEvent } from 'react';
import Button from 'react-bootstrap/Button';

import type { Rect } from '@/core/geometry';
import type { JobLayout, Nudge } from '@/core/sheetJob';
import { fieldLength, lengthRefusalText, parseLength, wayText, type LengthUnit } from '@/core/units';
import { useHydrated } from '@/ui/useHydrated';

import { useDraft } from './DraftWork';
import { Typed } from './Typed';

/** How far one press of an arrow key moves a piece, and with Shift, mm. */
const STEP_MM = 0.5;
const FAR_MM = 5;
/** Keys are kept together until nobody pressed one for so long. */
const PAUSE_MS = 700;

const KEYS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

const NOT_MOVED = { dxMm: 0, dyMm: 0 } as const;
type Move = Pick<Nudge, 'dxMm' | 'dyMm'>;

const moveOf = ({ nudged = [] }: JobLayout, sheet: number, index: number): Move =>
  nudged.find((n) => n.sheet === sheet && n.index === index) ?? NOT_MOVED;

/** A layout with one piece put elsewhere, from where the rule puts it. */
export function moved(layout: JobLayout, sheet: number, index: number, to: Move): JobLayout {
  const others = (layout.nudged ?? []).filter((n) => n.sheet !== sheet || n.index !== index);
  const still = Math.hypot(to.dxMm, to.dyMm) < 1e-9;
  return { ...layout, nudged: still ? others : [...others, { sheet, index, ...to }] };
}

/** What is said of where a piece lies. */
export function movedWords({ dxMm, dyMm }: Move, unit: LengthUnit): string {
  const way = wayText({ x: dxMm, y: dyMm }, unit);
  return way === '' ? 'where the rule puts it' : `moved ${way}`;
}

/** The pieces of a sheet as places to be chosen and moved: in its picture, y downwards. */
export function MovePieces({
  sheet,
  boxes,
  unit,
}: {
  sheet: number;
  boxes: readonly { readonly piece: string; readonly box: Rect }[];
  unit: LengthUnit;
}) {
  const { laid, change, picked, pick } = useDraft();
  const [by, setBy] = useState<Move>(NOT_MOVED);
  const mine = picked?.sheet === sheet ? picked.index : null;
  useEffect(() => {
    if (mine === null || (by.dxMm === 0 && by.dyMm === 0)) return undefined;
    const timer = setTimeout(() => {
      const now = moveOf(laid.layout, sheet, mine);
      const to = { dxMm: now.dxMm + by.dxMm, dyMm: now.dyMm + by.dyMm };
      change({ ...laid, layout: moved(laid.layout, sheet, mine, to) });
      setBy(NOT_MOVED);
    }, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [by, mine, laid, sheet, change]);
  const press = (event: KeyboardEvent): void => {
    const way = KEYS[event.key];
    if (event.key === 'Escape') setBy(NOT_MOVED);
    if (!way) return;
    event.preventDefault();
    const step = event.shiftKey ? FAR_MM : STEP_MM;
    setBy({ dxMm: by.dxMm + way[0] * step, dyMm: by.dyMm + way[1] * step });
  };
  return (
    <g>
      {boxes.map(({ piece, box }, index) => {
        const chosen = mine === index;
        const shift = chosen ? by : NOT_MOVED;
        const word = movedWords(moveOf(laid.layout, sheet, index), unit);
        return (
          <rect
            key={index}
            role="button"
            tabIndex={0}
            aria-pressed={chosen}
            aria-label={`Piece ${index + 1} of sheet ${sheet + 1}, ${piece}: ${word}. Arrow keys move it.`}
            className="movable"
            x={box.x0 + shift.dxMm}
            y={box.y0 - shift.dyMm}
            width={box.x1 - box.x0}
            height={box.y1 - box.y0}
            vectorEffect="non-scaling-stroke"
            onFocus={() => pick({ sheet, index })}
            onClick={() => pick({ sheet, index })}
            onKeyDown={press}
          />
        );
      })}
    </g>
  );
}

/** What was done to a draft, taken back and done again. */
export function UndoRow() {
  const { pending, undo, redo } = useDraft();
  return (
    <div className="d-flex gap-2">
      <Button variant="plain" className="btn-small" disabled={pending || !undo} onClick={undo ?? undefined}>
        Undo
      </Button>
      <Button variant="plain" className="btn-small" disabled={pending || !redo} onClick={redo ?? undefined}>
        Redo
      </Button>
    </div>
  );
}

/** Where the chosen piece lies, by number. */
export function MoveFields({ unit }: { unit: LengthUnit }) {
  const ready = useHydrated();
  const { laid, pending, change, picked } = useDraft();
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  if (!picked)
    return (
      <p className="small-print m-0">
        A piece is moved by hand after it is chosen in the picture: arrow keys, with Shift in larger steps, or
        by number.
      </p>
    );
  const { sheet, index } = picked;
  const now = moveOf(laid.layout, sheet, index);
  const to = (next: Move): void => change({ ...laid, layout: moved(laid.layout, sheet, index, next) });
  const typed = (field: keyof Move, text: string): void => {
    const read = parseLength(text.trim() === '' ? '0' : text, unit);
    setErrors({ ...errors, [field]: read.ok ? '' : lengthRefusalText(read.refusal, unit) });
    if (read.ok && Math.abs(read.value - now[field]) > 1e-6) to({ ...now, [field]: read.value });
  };
  return (
    <section className="panel" aria-busy={pending}>
      <h2>
        Piece {index + 1} of sheet {sheet + 1}
      </h2>
      <p className="small-print">Distance moved; minus = left / back.</p>
      <div className="row g-2">
        <Typed
          id="move-x"
          label={`Right, ${unit}`}
          value={fieldLength(now.dxMm, unit)}
          error={errors.dxMm}
          disabled={!ready}
          onTyped={(text) => typed('dxMm', text)}
        />
        <Typed
          id="move-y"
          label={`Further, ${unit}`}
          value={fieldLength(now.dyMm, unit)}
          error={errors.dyMm}
          disabled={!ready}
          onTyped={(text) => typed('dyMm', text)}
        />
      </div>
      {(now.dxMm !== 0 || now.dyMm !== 0) && (
        <Button variant="plain" className="btn-small mt-2" disabled={pending} onClick={() => to(NOT_MOVED)}>
          Put it back
        </Button>
      )}
    </section>
  );
}
