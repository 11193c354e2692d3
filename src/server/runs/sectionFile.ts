import { strToU8, zipSync } from 'fflate';

import type { Drawing } from '@/core/drawing';
import { readCutFile, writeDrawing, type FileRefusal } from '@/core/drawing/file';
import { formatsIn, inFrame, sectionMap, type SectionFrame } from '@/core/daily';
import { compose, IDENTITY, type Affine, type Rect } from '@/core/geometry';
import {
  outlineDrawing,
  placedItem,
  sectionDrawing,
  stripPaths,
  stripStations,
  type StripStation,
} from '@/core/layout';
import { accept, type Outcome } from '@/core/outcome';
import { fixed } from '@/core/units';
import { type Applied } from '@/db/stored/runs';
import type { CutFormat } from '@/core/drawing/formats';

import type { Run } from './run';

/* What is in a section's cut file and in a run's archive: pure, so that a worker thread can make them. */

/** “R012_section-03-of-06_rows-9-12_make-2.svg”: told apart by name alone; a new correction is a new make. */
export function sectionFileName(run: Run, index: number, format: CutFormat, applied: Applied | null): string {
  const section = run.plan.sections[index - 1]!;
  const two = (n: number): string => String(n).padStart(2, '0');
  const rows =
    section.rows === 1
      ? `row-${section.firstRow}`
      : `rows-${section.firstRow}-${section.firstRow + section.rows - 1}`;
  const make = makeOf(run, index, applied);
  const which = applied === null ? '_as-drawn' : make > 1 ? `_make-${make}` : '';
  return `${run.label}_section-${two(index)}-of-${two(run.sections.length)}_${rows}${which}.${format}`;
}

/** The how-manieth correction of a section this is, from 1: the same one again, in whatever format, keeps its number. */
export function makeOf(run: Run, index: number, applied: Applied | null): number {
  const made = new Set(
    run.files.flatMap((f) => (f.section === index && f.applied ? [contentKey(f.applied)] : [])),
  );
  const own = applied ? [...made].indexOf(contentKey(applied)) : -1;
  return own >= 0 ? own + 1 : made.size + 1;
}

/** All that makes one file of a section another than the next. */
const contentKey = ({ map, stretch, standing, stripXMm }: Applied): string =>
  [map, standing]
    .map((m) => (m ? [m.a11, m.a12, m.a21, m.a22, m.tx, m.ty].join(' ') : 'none'))
    .concat(String(stretch), stripXMm === undefined ? 'unknown' : String(stripXMm))
    .join(', ');

type Made<T> = Outcome<T, FileRefusal>;

/** The name and the content of a section's cut file. Refuses an item file that cannot be read, as reading it does. */
export function sectionFile(
  run: Run,
  index: number,
  format: CutFormat,
  applied: Applied | null,
): Made<{ readonly fileName: string; readonly content: string }> {
  const item = itemOf(run);
  return item.ok
    ? accept({
        fileName: sectionFileName(run, index, format, applied),
        content: contentOf(run, item.value, index, format, applied),
      })
    : item;
}

/** The drawing of one item as it lies on the media: its cut file, or its outline when none was given. */
function itemOf({ plan, itemFile }: Run): Made<Drawing> {
  const { item, outline } = plan.request;
  const { turned } = plan.imposition;
  if (itemFile === null)
    return accept(
      outlineDrawing(turned ? item.heightMm : item.widthMm, turned ? item.widthMm : item.heightMm, outline),
    );
  const given = readCutFile(itemFile);
  return given.ok ? accept(placedItem(given.value.drawing, given.value.bounds, turned)) : given;
}

function contentOf(
  run: Run,
  drawing: Drawing,
  index: number,
  format: CutFormat,
  applied: Applied | null,
): string {
  const { plan } = run;
  const { imposition } = plan;
  const section = plan.sections[index - 1]!;
  const { printableWidthMm } = plan.request;
  // The cut has to follow what the laminate stretched.
  const drift = applied && { ...IDENTITY, ...applied.map, a22: applied.map.a22 - (applied.stretch - 1) };
  // T of the setup comes first in the machine, then what the run has learnt of it.
  const lands = drift && (applied.standing ? compose(drift, applied.standing) : drift);
  const cut = sectionDrawing(
    imposition,
    section,
    plan,
    drawing,
    printableWidthMm,
    lands,
    stripPaths(witnessesIn(run, index)),
  );
  const title = `Run ${run.label}, ${run.name}: section ${index} of ${run.sections.length}, rows ${section.firstRow} to ${section.firstRow + section.rows - 1}, ${applied ? `make ${makeOf(run, index, applied)}` : 'as drawn'}`;
  const map = frameOf(run, index);
  const named = { ...cut, title };
  return writeDrawing(map ? inFrame(named, map, boxOf(run, index)) : named, format);
}

/** The witnesses beside a section's rows; none where the run has no strip. */
export const witnessesIn = ({ plan, witnessXMm }: Run, index: number): StripStation[] =>
  witnessXMm === null ? [] : stripStations(plan.imposition, plan.sections[index - 1]!, plan, witnessXMm);

/** Which way a section’s files run, and where their zero is. */
function frameLine({ xRuns, yRuns, zeroXMm, zeroYFrom, zeroYMm }: SectionFrame): string {
  const from = {
    start: 'its leading mark’s line',
    middle: 'the middle of the section',
    end: 'its far marks’ line',
  }[zeroYFrom];
  const along =
    zeroYMm === 0 ? from : `${fixed(Math.abs(zeroYMm), 2)} mm ${zeroYMm < 0 ? 'before' : 'beyond'} ${from}`;
  return `In the files x runs ${xRuns}, y ${yRuns}, seen from the printed side; zero is ${fixed(zeroXMm, 2)} mm from the left of the printable width, at ${along}. What was moved is said right and along all the same.`;
}

/** How a section’s files lie: as its rig’s page said when the run was frozen. */
const frameOf = ({ plan }: Run, index: number): Affine | null =>
  plan.frame && sectionMap(plan.frame, boxLength(plan, index));

const boxLength = (plan: Run['plan'], index: number): number =>
  plan.sections[index - 1]!.endMm - plan.sections[index - 1]!.startMm;

const boxOf = ({ plan }: Run, index: number): Rect => ({
  ...{ x0: 0, y0: 0, x1: plan.request.printableWidthMm },
  y1: boxLength(plan, index),
});

/** The formats in which a section can be had. */
export const sectionFormats = (run: Run, index: number): CutFormat[] =>
  formatsIn(frameOf(run, index), boxOf(run, index));

/** Every section in every format, and a list that says which is which; `appliedTo` goes by section. */
export function archiveOf(
  run: Run,
  appliedTo: readonly (Applied | null)[],
): Made<{
  readonly bytes: Uint8Array;
  readonly files: readonly { index: number; format: CutFormat; fileName: string; content: string }[];
}> {
  const item = itemOf(run);
  if (!item.ok) return item;
  const files: { index: number; format: CutFormat; fileName: string; content: string }[] = [];
  const lines = [
    `Run ${run.label}, ${run.name}`,
    `Rig: ${run.setup.name}, ${run.setup.media}`,
    run.plan.frame
      ? frameLine(run.plan.frame)
      : 'x runs across the media to the right, y along it from the leading mark of the section; printed side up.',
    ...(run.plan.imposition.turned
      ? ['Items lie turned by 90° anticlockwise, seen from the printed side.']
      : []),
    '',
    'section  rows  copies  moved right mm  moved along mm  stretched mm per m  state',
  ];
  for (const own of run.sections) {
    const section = run.plan.sections[own.index - 1]!;
    const applied = appliedTo[own.index - 1] ?? null;
    for (const format of sectionFormats(run, own.index))
      files.push({
        index: own.index,
        format,
        fileName: sectionFileName(run, own.index, format, applied),
        content: contentOf(run, item.value, own.index, format, applied),
      });
    const m = applied?.map;
    lines.push(
      [
        own.index,
        `${section.firstRow} to ${section.firstRow + section.rows - 1}`,
        section.copies,
        m ? (-m.tx).toFixed(3) : 'as drawn',
        m ? (-m.ty).toFixed(3) : 'as drawn',
        applied ? (1000 * (applied.stretch - 1 - (applied.map.a22 - 1))).toFixed(3) : 'as drawn',
        own.state === 'waiting'
          ? 'worked out from the checks so far; make it anew after the next check'
          : own.state,
      ].join('  '),
    );
  }
  const zipped = Object.fromEntries(files.map((f) => [`${f.format}/${f.fileName}`, strToU8(f.content)]));
  const list = strToU8(`${lines.join('\n')}\n`);
  return accept({ bytes: zipSync({ ...zipped, 'which-is-which.txt': list }, { level: 6 }), files });
}
