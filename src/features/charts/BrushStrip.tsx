'use client';

import { brushX, line, scaleLinear, scaleUtc, select, type D3BrushEvent } from 'd3';
import { useEffect, useMemo, useRef } from 'react';

const BOX = { width: 900, height: 54, left: 58, right: 16 };

/** The whole record in small; a part of it is chosen by drawing over it. By keys the two days beside it do the same. */
export function BrushStrip({
  whole,
  seen,
  onChoose,
}: {
  whole: readonly { readonly at: number; readonly day: string; readonly mm: number }[];
  seen: { readonly from: number; readonly to: number };
  onChoose: (from: string | null, to: string | null) => void;
}) {
  const held = useRef<SVGGElement>(null);
  const choose = useRef(onChoose);
  useEffect(() => {
    choose.current = onChoose;
  });
  const [first, last] = [whole[0]!.at, whole.at(-1)!.at];
  const x = useMemo(
    () => scaleUtc([new Date(first), new Date(last)], [BOX.left, BOX.width - BOX.right]),
    [first, last],
  );
  useEffect(() => {
    const brush = brushX<null>()
      .extent([
        [BOX.left, 2],
        [BOX.width - BOX.right, BOX.height - 2],
      ])
      .on('end', (event: D3BrushEvent<null>) => {
        // Moved by us, not by hand.
        if (!event.sourceEvent) return;
        const part = event.selection as [number, number] | null;
        if (!part) return choose.current(null, null);
        const [from, to] = part.map((at) => +x.invert(at));
        const within = whole.filter((p) => p.at >= from! && p.at <= to!);
        if (within.length > 1) choose.current(within[0]!.day, within.at(-1)!.day);
      });
    const group = select<SVGGElement, null>(held.current!);
    group.call(brush);
    const all = seen.from <= first && seen.to >= last;
    group.call(brush.move, all ? null : [x(new Date(seen.from)), x(new Date(seen.to))]);
    group.select('.overlay').attr('cursor', 'crosshair');
    return () => {
      group.on('.brush', null).selectAll('*').remove();
    };
  }, [x, whole, seen.from, seen.to, first, last]);
  const mm = whole.map((p) => p.mm);
  const y = scaleLinear([Math.min(0, ...mm), Math.max(0, ...mm)], [BOX.height - 6, 6]);
  return (
    <svg
      className="paper brush-strip no-print"
      viewBox={`0 0 ${BOX.width} ${BOX.height}`}
      width="100%"
      aria-hidden
    >
      <path
        d={`M${BOX.left} ${y(0)}H${BOX.width - BOX.right}`}
        stroke="var(--rp-plumb)"
        strokeWidth="1"
        fill="none"
      />
      <path
        d={line<(typeof whole)[number]>(
          (p) => x(new Date(p.at)),
          (p) => y(p.mm),
        )(whole)!}
        fill="none"
        stroke="var(--rp-ink-soft)"
        strokeWidth="1.2"
      />
      <g ref={held} />
    </svg>
  );
}
