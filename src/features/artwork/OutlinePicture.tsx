'use client';

import { useState } from 'react';
import FormSelect from 'react-bootstrap/FormSelect';

import type { CutLine } from '@/core/artwork';

import { pathOf } from './outline.view';

const STAGES = ['picture', 'edge', 'cut'] as const;
type Stage = (typeof STAGES)[number];
const STAGE_WORDS: Readonly<Record<Stage, string>> = {
  picture: 'the picture as it came',
  edge: 'its edge, before the border',
  cut: 'what is cut',
};

/** The picture on its stock: what falls away dimmed, the cut line as everywhere else. */
export function OutlinePicture({
  url,
  line,
  stock,
  words,
}: {
  url: string;
  line: Pick<CutLine, 'lines'> & {
    readonly trace: Pick<CutLine['trace'], 'widthMm' | 'heightMm'> & Partial<Pick<CutLine['trace'], 'paths'>>;
  };
  /** Colour of what it is printed on. */
  stock: string;
  words: string;
}) {
  const { widthMm: w, heightMm: h } = line.trace;
  const xs = line.lines.flatMap((l) => l.points.map((p) => p.x));
  const ys = line.lines.flatMap((l) => l.points.map((p) => h - p.y));
  const edge = 0.03 * Math.max(w, h);
  const x0 = xs.reduce((a, b) => Math.min(a, b), 0) - edge;
  const y0 = ys.reduce((a, b) => Math.min(a, b), 0) - edge;
  const x1 = xs.reduce((a, b) => Math.max(a, b), w) + edge;
  const y1 = ys.reduce((a, b) => Math.max(a, b), h) + edge;
  const [stage, setStage] = useState<Stage>('cut');
  const stages = STAGES.filter((s) => s !== 'edge' || line.trace.paths);
  const shown = stages.includes(stage) ? stage : 'cut';
  const of = shown === 'edge' ? (line.trace.paths ?? []) : line.lines;
  const d = of.map((l) => pathOf(l.points, h)).join('');
  return (
    <>
      <svg
        className="paper"
        viewBox={`${x0} ${y0} ${x1 - x0} ${y1 - y0}`}
        width="100%"
        style={{ maxHeight: '64vh' }}
        role="img"
        aria-label={words}
      >
        <defs>
          <clipPath id="stays">
            <path d={d} clipRule="evenodd" />
          </clipPath>
        </defs>
        <image
          href={url}
          width={w}
          height={h}
          preserveAspectRatio="none"
          opacity={shown === 'picture' ? 1 : 0.22}
        />
        <g clipPath="url(#stays)" display={shown === 'picture' ? 'none' : undefined}>
          <rect x={x0} y={y0} width={x1 - x0} height={y1 - y0} fill={stock} />
          <image href={url} width={w} height={h} preserveAspectRatio="none" />
        </g>
        <path
          d={shown === 'picture' ? '' : d}
          fill="none"
          stroke="var(--rp-cut)"
          strokeWidth="2"
          strokeDasharray="7 3"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <label className="small-print d-flex align-items-center gap-2">
        Shown:
        <FormSelect
          style={{ minWidth: 0, maxWidth: 260 }}
          value={shown}
          onChange={(event) => setStage(event.target.value as Stage)}
        >
          {stages.map((s) => (
            <option key={s} value={s}>
              {STAGE_WORDS[s]}
            </option>
          ))}
        </FormSelect>
      </label>
    </>
  );
}
